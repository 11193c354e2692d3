import type { Affine, Point } from '../../geometry';

/** Quarter turns, anticlockwise: stock is cut as it is printed, so that nothing is lost by keeping to them. */
export const TURNS = [0, 90, 180, 270] as const;
export type Turn = (typeof TURNS)[number];

const COS: Readonly<Record<Turn, number>> = { 0: 1, 90: 0, 180: -1, 270: 0 };
const SIN: Readonly<Record<Turn, number>> = { 0: 0, 90: 1, 180: 0, 270: -1 };

export const turned = ({ x, y }: Point, turn: Turn): Point => ({
  x: COS[turn] * x - SIN[turn] * y,
  y: SIN[turn] * x + COS[turn] * y,
});

/** Turned about the origin, then moved. */
export const placedBy = (turn: Turn, { x, y }: Point): Affine => ({
  ...{ a11: COS[turn], a12: -SIN[turn], a21: SIN[turn], a22: COS[turn] },
  ...{ tx: x, ty: y },
});
