import type { Point } from '../geometry';

import { fieldOf, type Background, type Picture } from './field';
import { filledPx } from './filledPx';

/* Bleed: printed colour grown outward past the cut, each new pixel in the colour of the nearest printed one. */

export interface BleedSpec {
  readonly background: Background;
  /** From which figure of the field, 0 to 1, a pixel is ink: as the trace had it. */
  readonly threshold: number;
  readonly mmPerPx: number;
  /** What is to be covered with colour: closed lines about the picture's lower-left corner, mm, y up; nested ones are holes. */
  readonly area: readonly (readonly Point[])[];
}

export interface Bled extends Picture {
  /** Lower-left corner of the grown picture, mm, as the lines have it. */
  readonly at: Point;
}

/**
 * The artwork with its colour grown over an area; what is neither ink nor in the area is clear.
 *
 * Method   exact nearest printed pixel (distance transform in two passes, lower envelope of parabolas: Felzenszwalb &
 *          Huttenlocher 2012). Pixels of an edge are a mixture with the background: colour is taken from where all
 *          neighbours are ink too.
 */
export function withBleed(picture: Picture, { background, threshold, mmPerPx, area }: BleedSpec): Bled {
  const field = fieldOf(picture, background).values;
  const limit = Math.min(254, threshold * 255);
  const ink = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < picture.width && y < picture.height && field[y * picture.width + x]! > limit;
  const pad = paddingPx(picture, area, mmPerPx);
  const width = picture.width + pad.left + pad.right;
  const height = picture.height + pad.above + pad.below;
  const sure = new Uint8Array(width * height);
  for (let y = 0; y < picture.height; y += 1)
    for (let x = 0; x < picture.width; x += 1)
      if (ink(x, y) && ink(x - 1, y) && ink(x + 1, y) && ink(x, y - 1) && ink(x, y + 1))
        sure[(y + pad.above) * width + x + pad.left] = 1;
  const heightMm = picture.height * mmPerPx;
  const covered = filledPx(
    area.map((line) =>
      line.map((p) => ({ x: p.x / mmPerPx + pad.left, y: (heightMm - p.y) / mmPerPx + pad.above })),
    ),
    width,
    height,
  );
  const nearest = nearestOf(sure, width, height);
  const from = pixelsOf(picture);
  const rgba = new Uint8ClampedArray(4 * width * height);
  const out = new Uint32Array(rgba.buffer);
  for (let i = 0; i < out.length; i += 1) {
    const [x, y] = [(i % width) - pad.left, Math.floor(i / width) - pad.above];
    const inside = x >= 0 && y >= 0 && x < picture.width && y < picture.height;
    if (sure[i] === 1 || (covered[i] === 0 && inside && ink(x, y))) out[i] = from[y * picture.width + x]!;
    else if (covered[i] === 1 && nearest[i]! >= 0) {
      const n = nearest[i]!;
      const [nx, ny] = [(n % width) - pad.left, Math.floor(n / width) - pad.above];
      out[i] = (from[ny * picture.width + nx]! | 0xff000000) >>> 0;
    }
  }
  return {
    ...{ width, height, rgba },
    at: { x: 0 - pad.left * mmPerPx, y: 0 - pad.below * mmPerPx },
  };
}

const pixelsOf = ({ rgba }: Picture): Uint32Array => {
  const aligned = rgba.byteOffset % 4 === 0 ? rgba : rgba.slice();
  return new Uint32Array(aligned.buffer, aligned.byteOffset, rgba.length / 4);
};

/** By how many pixels an area reaches beyond a picture on each side. */
function paddingPx(picture: Picture, area: readonly (readonly Point[])[], mmPerPx: number) {
  let [left, right, below, above] = [0, 0, 0, 0];
  const [w, h] = [picture.width * mmPerPx, picture.height * mmPerPx];
  for (const line of area)
    for (const p of line) {
      left = Math.max(left, -p.x);
      right = Math.max(right, p.x - w);
      below = Math.max(below, -p.y);
      above = Math.max(above, p.y - h);
    }
  const px = (mm: number): number => Math.ceil(mm / mmPerPx);
  return { left: px(left), right: px(right), below: px(below), above: px(above) };
}

/** Index of the nearest set pixel of each pixel; −1 where none is set. */
function nearestOf(set: Uint8Array, width: number, height: number): Int32Array {
  const row = nearestRows(set, width, height);
  const nearest = new Int32Array(width * height).fill(-1);
  // The lower envelope of a row: of which columns, and from where each is the lowest.
  const at = new Int32Array(width);
  const from = new Float64Array(width + 1);
  for (let y = 0; y < height; y += 1) {
    const base = y * width;
    const g2 = (x: number): number => (row[base + x]! - y) ** 2;
    let last = -1;
    for (let x = 0; x < width; x += 1) {
      if (row[base + x]! < 0) continue;
      let start = -Infinity;
      while (last >= 0) {
        const p = at[last]!;
        start = (g2(x) + x * x - g2(p) - p * p) / (2 * (x - p));
        if (start > from[last]!) break;
        last -= 1;
        start = -Infinity;
      }
      last += 1;
      at[last] = x;
      from[last] = start;
    }
    if (last < 0) continue;
    let k = 0;
    for (let x = 0; x < width; x += 1) {
      while (k < last && from[k + 1]! < x) k += 1;
      nearest[base + x] = row[base + at[k]!]! * width + at[k]!;
    }
  }
  return nearest;
}

/** In each column, the row of the nearest set pixel; −1 where the column has none. */
function nearestRows(set: Uint8Array, width: number, height: number): Int32Array {
  const row = new Int32Array(width * height).fill(-1);
  for (let x = 0; x < width; x += 1) {
    for (let y = 0, seen = -1; y < height; y += 1) {
      if (set[y * width + x] === 1) seen = y;
      row[y * width + x] = seen;
    }
    for (let y = height - 1, seen = -1; y >= 0; y -= 1) {
      const i = y * width + x;
      if (set[i] === 1) seen = y;
      if (seen >= 0 && (row[i]! < 0 || seen - y < y - row[i]!)) row[i] = seen;
    }
  }
  return row;
}
