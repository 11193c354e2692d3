import type { Point } from './affine';

/** An upright rectangle in the sheet frame, mm; x0 < x1, y0 < y1. */
export interface Rect {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

export const sameRect = (a: Rect, b: Rect): boolean =>
  a.x0 === b.x0 && a.y0 === b.y0 && a.x1 === b.x1 && a.y1 === b.y1;

export const rectWidth = (r: Rect): number => r.x1 - r.x0;

export const rectHeight = (r: Rect): number => r.y1 - r.y0;

export const rectCentre = (r: Rect): Point => ({ x: (r.x0 + r.x1) / 2, y: (r.y0 + r.y1) / 2 });

/** A columns × rows lattice over the rectangle, edges included, row by row from y0. */
export function rectLattice(r: Rect, columns: number, rows: number): Point[] {
  const at = (i: number, n: number, from: number, to: number): number =>
    n === 1 ? (from + to) / 2 : from + ((to - from) * i) / (n - 1);
  return Array.from({ length: columns * rows }, (_, i) => ({
    x: at(i % columns, columns, r.x0, r.x1),
    y: at(Math.floor(i / columns), rows, r.y0, r.y1),
  }));
}

/** “near left corner”, “middle of the far edge”, “centre”: how an operator finds a place on the sheet. */
export function placeName(p: Point, r: Rect): string {
  const column = thirds((p.x - r.x0) / rectWidth(r), 'left', 'middle', 'right');
  const row = thirds((p.y - r.y0) / rectHeight(r), 'near', 'middle', 'far');
  if (column === 'middle' && row === 'middle') return 'centre';
  if (column === 'middle') return `middle of the ${row} edge`;
  if (row === 'middle') return `middle of the ${column} edge`;
  return `${row} ${column} corner`;
}

const thirds = (share: number, low: string, mid: string, high: string): string =>
  share < 1 / 3 ? low : share > 2 / 3 ? high : mid;
