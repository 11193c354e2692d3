import type { Point } from '../../geometry';
import type { Picture } from '../field';
import { filledPx } from '../filledPx';
import type { ClosedPath } from '../offset';

import { edges, holdsInk } from './edges';
import { Ink } from './ink';
import { boundsOf } from './segments';
import { stockInk, type StockInk } from './stockInk';
import type { CheckedLine, Finding } from './types';

/* One piece looked at by its own pixels: what of its picture its line leaves outside, and what is printed along the line. */

export interface PieceToLookAt {
  /** The artwork as it came. */
  readonly art: Picture;
  /** As it is printed, its colour grown to the bleed, with its lower-left corner, mm; nothing: as it came. */
  readonly printed?: (Picture & { readonly at: Point }) | undefined;
  readonly mmPerPx: number;
  /** Its cut lines about the lower-left corner of the artwork, mm, y up. */
  readonly lines: readonly ClosedPath[];
  /** What has to be hidden, mm; null where nobody knows. */
  readonly neededMm: number | null;
}

/** A finding of a piece, in its own frame; with how much of its picture it is about, where that can be said. */
export type PieceFinding = Finding & { readonly shareOfPicture?: number };

/** From this share of the picture on, what lies outside its line is no dust; and no less than so much, mm². */
const OUTSIDE_SHARE = 0.01;
const OUTSIDE_MM2 = 1;
/** How far about a pixel all has to be printed before it counts, mm: rings of a compressed picture come and go. */
const SOLID_MM = 0.3;
const MOST_SOLID_PX = 3;

/** What is wrong with a piece, by its pixels; empty for a good one. */
export function lookAtPiece({ art, printed, mmPerPx, lines, neededMm }: PieceToLookAt): PieceFinding[] {
  const inside = filledPx(
    lines.map((l) => l.points.map((p) => ({ x: p.x / mmPerPx, y: art.height - p.y / mmPerPx }))),
    art.width,
    art.height,
  );
  const ink = withoutGrain(stockInk(art, (i) => inside[i] === 0));
  const outside = outsideLine(ink, inside, mmPerPx);
  const own = (picture: StockInk, at: Point, from: number): Ink =>
    new Ink(
      picture,
      {
        ...{ x0: at.x, y0: at.y },
        ...{ x1: at.x + picture.width * mmPerPx, y1: at.y + picture.height * mmPerPx },
      },
      Math.max(picture.printedFrom, from),
    );
  const shown = printed ? grownInk(printed, ink) : ink;
  const at = printed?.at ?? { x: 0, y: 0 };
  const drawn = own(shown, at, 0);
  const strong = own(shown, at, SEEN_AT_EDGE);
  const checked = lines.map(({ points, hole }) => ({
    line: { points, closed: true, layer: '' } satisfies CheckedLine,
    hole,
  }));
  const blank = checked.filter(({ line, hole }) => !hole && !holdsInk(line, drawn));
  return [
    ...outside,
    ...blank.map(({ line }): PieceFinding => ({
      ...{ code: 'line-on-blank', severity: 'look', where: boundsOf(line) },
      message: 'Nothing is printed inside a line: it cuts bare stock.',
      fix: 'Leave it out, or see whether its picture is missing.',
    })),
    ...(neededMm === null ? [] : checked.flatMap(({ line, hole }) => edges(line, hole, strong, neededMm))),
  ];
}

/** As it is printed: what was grown is ink of its own colour, against the stock that the artwork has. */
function grownInk(printed: Picture, { printedFrom }: StockInk): StockInk {
  return withoutGrain({ ...stockInk(printed), printedFrom });
}

/** A fainter edge beside bare stock nobody sees, of 255; light that falls off less evenly than a surface is fainter too. */
const SEEN_AT_EDGE = 32;
/** From this noise on a stock is grainy, of 255: as photographed, not drawn. */
const GRAINY = 8;

/** A grainy picture with each pixel as the mean of its nine: one grain is no print. */
function withoutGrain(ink: StockInk): StockInk {
  const { width, height, values, printedFrom } = ink;
  if (printedFrom < GRAINY) return ink;
  const calm = values.slice();
  for (let y = 1; y < height - 1; y += 1)
    for (let x = 1, i = y * width + 1; x < width - 1; x += 1, i += 1) {
      let sum = 0;
      for (let row = i - width; row <= i + width; row += width)
        sum += values[row - 1]! + values[row]! + values[row + 1]!;
      calm[i] = sum / 9;
    }
  return { ...ink, values: calm };
}

/** What of the picture lies outside its line: pale parts that the trace took for stock. */
function outsideLine(
  { width, height, values, printedFrom }: StockInk,
  inside: Uint8Array,
  mmPerPx: number,
): PieceFinding[] {
  const reach = Math.max(1, Math.min(MOST_SOLID_PX, Math.round(SOLID_MM / mmPerPx)));
  const solid = solidRuns((i) => inside[i] === 0 && values[i]! > printedFrom, width, height, reach);
  let all = 0;
  for (const value of values) if (value > printedFrom) all += 1;
  const share = all === 0 ? 0 : solid.count / all;
  if (share < OUTSIDE_SHARE || solid.count * mmPerPx ** 2 < OUTSIDE_MM2) return [];
  const { x0, y0, x1, y1 } = solid.box;
  return [
    {
      ...{ code: 'outside-line', severity: 'stop', shareOfPicture: share },
      where: {
        ...{ x0: x0 * mmPerPx, x1: (x1 + 1) * mmPerPx },
        ...{ y0: (height - y1 - 1) * mmPerPx, y1: (height - y0) * mmPerPx },
      },
      message: `${share < 0.1 ? (100 * share).toFixed(1) : Math.round(100 * share)} % of the picture lies outside its line: pale parts, or a shadow?`,
      fix: 'Take more of the picture for print, or a plain shape round all of it.',
    },
  ];
}

/** Pixels about which all within `reach` is so too, counted with their surroundings, and the box they lie in. */
function solidRuns(is: (i: number) => boolean, width: number, height: number, reach: number) {
  // How many of the pixels up and left of each are so.
  const sums = new Uint32Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y += 1) {
    let row = 0;
    for (let x = 0; x < width; x += 1) {
      if (is(y * width + x)) row += 1;
      sums[(y + 1) * (width + 1) + x + 1] = sums[y * (width + 1) + x + 1]! + row;
    }
  }
  const within = (x0: number, y0: number, x1: number, y1: number): number =>
    sums[y1 * (width + 1) + x1]! -
    sums[y0 * (width + 1) + x1]! -
    sums[y1 * (width + 1) + x0]! +
    sums[y0 * (width + 1) + x0]!;
  const full = (2 * reach + 1) ** 2;
  const box = { x0: Infinity, y0: Infinity, x1: -1, y1: -1 };
  let count = 0;
  for (let y = reach; y + reach < height; y += 1)
    for (let x = reach; x + reach < width; x += 1) {
      if (within(x - reach, y - reach, x + reach + 1, y + reach + 1) < full) continue;
      count += 1;
      box.x0 = Math.min(box.x0, x);
      box.y0 = Math.min(box.y0, y);
      box.x1 = Math.max(box.x1, x);
      box.y1 = Math.max(box.y1, y);
    }
  return { count, box };
}
