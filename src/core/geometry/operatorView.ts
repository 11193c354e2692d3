import type { Point } from './affine';

/** How media lies in a machine, for who stands before it: the edge that goes in first is away from him. */
export interface Loaded {
  readonly leadingEdge: 'near' | 'far';
  readonly printedSideUp: boolean;
}

/**
 * A direction on the sheet as the operator sees it: +x to his right, +y away from him.
 * Nothing is mirrored as long as the printed side is up; with it down he sees the back.
 */
export function operatorDirection(d: Point, { leadingEdge, printedSideUp }: Loaded): Point {
  const turned = leadingEdge === 'near' ? -1 : 1;
  return { x: (printedSideUp ? turned : -turned) * d.x, y: turned * d.y };
}

/** Which hand of the operator a side of the sheet is on. */
export const sideAtMachine = (side: 'left' | 'right', loaded: Loaded): 'left' | 'right' =>
  operatorDirection({ x: side === 'right' ? 1 : -1, y: 0 }, loaded).x > 0 ? 'right' : 'left';
