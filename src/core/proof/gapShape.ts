import { area, outline, type DrawnPath } from '../drawing';
import type { Point } from '../geometry';
import type { Side } from '../marks';

/*
 * A shape for reading by gaps on our own sheet: a printed block and a cut round it with a border of its own on every side, so
 * that two sides never round alike. It stands in the free corner of a station, over its coarse cross.
 */

export interface GapShape {
  readonly centre: Point;
  /** Of the printed block, mm. */
  readonly widthMm: number;
  readonly heightMm: number;
  /** How far outside it the cut is commanded, mm. */
  readonly borders: Readonly<Record<Side, number>>;
}

const BLOCK = { widthMm: 6, heightMm: 4 } as const;
/** From the disc's middle to the block's. */
const PLACE = { xMm: -19.25, yMm: 13.9 } as const;
const LEAST_BORDER_MM = 2.6;
const GRAIN_MM = 0.1;
/** Borders differ by parts of half a millimetre: what a rule is read to. */
const LEVELS = 5;
/** Two sides are apart by at least so many grains. */
const APART = 2;

/** The cut of its combs has to leave the corner free. */
export const gapShapeFits = (combHalfMm: number): boolean =>
  combHalfMm < -PLACE.xMm - BLOCK.widthMm / 2 - LEAST_BORDER_MM - LEVELS * GRAIN_MM;

/** The shape of a station; `share`: a staggered share in [0, 1) by serial. */
export function gapShapeAt(station: Point, share: (serial: number) => number): GapShape {
  const border = (serial: number, other: number | null): number => {
    const level = Math.floor(share(serial) * LEVELS);
    return other === level ? (level + APART) % LEVELS : level;
  };
  const [left, near] = [border(0, null), border(2, null)];
  const levels = { left, near, right: border(1, left), far: border(3, near) };
  const mm = (level: number): number => LEAST_BORDER_MM + level * GRAIN_MM;
  return {
    ...BLOCK,
    centre: { x: station.x + PLACE.xMm, y: station.y + PLACE.yMm },
    borders: {
      ...{ left: mm(levels.left), right: mm(levels.right) },
      ...{ near: mm(levels.near), far: mm(levels.far) },
    },
  };
}

const corners = ({ centre: c, widthMm, heightMm }: GapShape, out: GapShape['borders'] | null): Point[] => {
  const [x0, x1] = [c.x - widthMm / 2 - (out?.left ?? 0), c.x + widthMm / 2 + (out?.right ?? 0)];
  const [y0, y1] = [c.y - heightMm / 2 - (out?.near ?? 0), c.y + heightMm / 2 + (out?.far ?? 0)];
  return [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ];
};

/** What is printed of it. */
export const gapShapePrint = (shape: GapShape): DrawnPath[] => [area(corners(shape, null), 'print')];

/** What is cut of it. */
export const gapShapeCuts = (shape: GapShape): DrawnPath[] => [
  outline(corners(shape, shape.borders), 0.1, 'cut'),
];
