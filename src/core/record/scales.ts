import type { AffineField } from '../fit';
import { rectCentre, rectHeight, rectWidth, type Point, type Rect } from '../geometry';

import { rowsOf, SIZE, squareOf, type Gaussian, type Spot, type Square, type Vector } from './gaussian';

/* The six coefficients of a field, all in mm: as displacements at the edges of the work area. */

/** Coefficients of a field as displacements at the edges of the work area: all six in mm. */
export function scaleOf(area: Rect): number[] {
  const [x, y] = [rectWidth(area) / 2, rectHeight(area) / 2];
  return [x, y, x, y, 1, 1];
}

/** A field as displacements at the edges of the work area, mm. */
export const inMm = (f: AffineField, area: Rect): Vector => {
  const scale = scaleOf(area);
  return Float64Array.from([f.b11, f.b12, f.b21, f.b22, f.exMm, f.eyMm], (v, i) => v * scale[i]!);
};

/** Its covariance likewise, mm². */
export const covarianceInMm = (rows: readonly (readonly number[])[], area: Rect): Square => {
  const scale = scaleOf(area);
  return squareOf(rows.map((row, i) => row.map((v, j) => v * scale[i]! * scale[j]!)));
};

/** How the six make up the offsets at a place. */
export function rowsAt(p: Point, area: Rect): Spot['rows'] {
  const scale = scaleOf(area);
  const centre = rectCentre(area);
  const of = (places: readonly [number, number, number]): Vector => {
    const row = new Float64Array(SIZE);
    [p.x - centre.x, p.y - centre.y, 1].forEach((v, i) => (row[places[i]!] = v / scale[places[i]!]!));
    return row;
  };
  return [of([0, 1, 4]), of([2, 3, 5])];
}

/** What is believed as a field about the middle of the work area, and its covariance. */
export function outOfMm(belief: Gaussian, area: Rect): { own: AffineField; covariance: number[][] } {
  const scale = scaleOf(area);
  const [b11, b12, b21, b22, exMm, eyMm] = Array.from(belief.mean, (v, i) => v / scale[i]!) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  return {
    own: { origin: rectCentre(area), b11, b12, b21, b22, exMm, eyMm },
    covariance: rowsOf(belief.covariance).map((row, i) => row.map((v, j) => v / (scale[i]! * scale[j]!))),
  };
}
