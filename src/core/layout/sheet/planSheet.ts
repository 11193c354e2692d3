import { SAME } from '../../tolerance';
import { rectHeight, rectWidth, type Rect } from '../../geometry';

import { bestBlocks, fitting, sizeOf, type Block } from './blocks';
import { grown, without } from './freeSpace';

/* Pieces on sheets, placed by rule: what is printed and cut together, clear of marks and within what both machines reach. */

/** So many copies of something; `null` fills what is left. */
export interface SheetItem {
  readonly id: string;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly copies: number | null;
  readonly mayTurn: boolean;
}

export interface SheetJob {
  /** What may be printed and cut: pieces lie wholly in it. */
  readonly usable: Rect;
  /** Nothing may lie here: clear zones of marks. */
  readonly zones: readonly Rect[];
  readonly items: readonly SheetItem[];
  readonly gapMm: number;
  readonly centre: boolean;
}

/** What lies where: lower-left corner and size as placed. */
export interface Placement {
  readonly item: string;
  readonly x: number;
  readonly y: number;
  readonly turnDeg: 0 | 90;
  readonly widthMm: number;
  readonly heightMm: number;
}

export interface SheetLayout {
  readonly sheets: readonly (readonly Placement[])[];
  /** Items of which not one goes on a sheet. */
  readonly tooLarge: readonly string[];
}

export const SHEET_PLAN_VERSION = 'sheet-1';
/** More sheets than this are a run on a roll. */
export const MOST_SHEETS = 2000;

/** More pieces than this on one sheet are no print-and-cut job. */
export const MOST_PIECES = 20_000;

/**
 * Lays pieces out, the fewest sheets first and the last of them as empty as can be.
 *
 * Method   maximal free rectangles; a free rectangle is filled with the best grid or pattern of two or three blocks of one
 *          item (`bestBlocks`); several orders of the items and choices of the rectangle, the best kept. Of one size it holds
 *          at least what the plain grids and those patterns hold in the largest free rectangle.
 */
export function planSheet(job: SheetJob): SheetLayout {
  const free = job.zones.reduce((rest, zone) => without(rest, zone), [job.usable]);
  const goesOn = (i: SheetItem): boolean => free.some((f) => capacity(f, i, job.gapMm) > 0);
  const items = job.items.filter(goesOn);
  const tooLarge = job.items.filter((i) => !goesOn(i)).map((i) => i.id);
  if (items.length === 0) return { sheets: [], tooLarge };
  const tried = (items.length > 1 ? ORDERS : ORDERS.slice(0, 1)).flatMap((order) =>
    CHOICES.map((choose) => laidOut({ ...job, items: items.toSorted(order) }, free, choose)),
  );
  const sheets = tried.reduce((a, b) => (better(b, a) ? b : a));
  return { sheets: job.centre ? sheets.map((s) => centred(s, job)) : sheets, tooLarge };
}

type Order = (a: SheetItem, b: SheetItem) => number;
const ORDERS: readonly Order[] = [
  (a, b) => b.widthMm * b.heightMm - a.widthMm * a.heightMm,
  (a, b) => Math.max(b.widthMm, b.heightMm) - Math.max(a.widthMm, a.heightMm),
  (a, b) => b.heightMm - a.heightMm,
  (a, b) => b.widthMm - a.widthMm,
];

/** Which free rectangle is filled first: the one that holds most, the nearest full-width one, the leftmost full-height one. */
type Choice = (f: Rect, holds: number) => number;
const CHOICES: readonly Choice[] = [
  (_, holds) => -holds,
  (f) => f.y0 * 1e3 - rectWidth(f),
  (f) => f.x0 * 1e3 - rectHeight(f),
];

function better(a: readonly (readonly Placement[])[], b: readonly (readonly Placement[])[]): boolean {
  const count = (list: readonly (readonly Placement[])[]): number =>
    list.reduce((sum, s) => sum + s.length, 0);
  if (count(a) !== count(b)) return count(a) > count(b);
  if (a.length !== b.length) return a.length < b.length;
  return reach(a.at(-1)!) < reach(b.at(-1)!) - SAME;
}

/** How far along the feed a sheet is used. */
const reach = (sheet: readonly Placement[]): number => Math.max(0, ...sheet.map((p) => p.y + p.heightMm));

function laidOut(job: SheetJob, empty: readonly Rect[], choose: Choice): Placement[][] {
  const sheets: { free: Rect[]; on: Placement[] }[] = [];
  const counted = job.items.filter((i) => i.copies !== null);
  for (const item of counted) {
    let left = item.copies!;
    for (let s = 0; left > 0 && s < MOST_SHEETS; s += 1) {
      sheets[s] ??= { free: [...empty], on: [] };
      left -= put(sheets[s]!, item, left, job.gapMm, choose);
    }
  }
  const fills = job.items.filter((i) => i.copies === null);
  if (fills.length > 0 && sheets.length === 0) sheets.push({ free: [...empty], on: [] });
  for (const sheet of sheets)
    for (const item of fills) put(sheet, item, MOST_PIECES - sheet.on.length, job.gapMm, choose);
  return sheets.map((s) => s.on).filter((on) => on.length > 0);
}

/** Puts as many of an item on a sheet as go and are wanted; how many that were. */
function put(
  sheet: { free: Rect[]; on: Placement[] },
  item: SheetItem,
  most: number,
  gap: number,
  choose: Choice,
): number {
  let placed = 0;
  while (placed < most) {
    const fit = sheet.free
      .map((f) => ({ f, holds: capacity(f, item, gap) }))
      .filter(({ holds }) => holds > 0)
      .sort((a, b) => choose(a.f, a.holds) - choose(b.f, b.holds))[0];
    if (!fit) return placed;
    const width = rectWidth(fit.f);
    const { blocks } = bestBlocks(width, rectHeight(fit.f), item, gap, item.mayTurn);
    for (const block of blocks) {
      const pieces = piecesOf(block, item, gap, fit.f).slice(0, most - placed);
      sheet.on.push(...pieces);
      placed += pieces.length;
      for (const taken of covered(pieces, block.columns)) sheet.free = without(sheet.free, grown(taken, gap));
    }
  }
  return placed;
}

/** What pieces of a block take up: its whole rows, and what there is of the last one. */
function covered(pieces: readonly Placement[], columns: number): Rect[] {
  const whole = pieces.length - (pieces.length % columns);
  return [pieces.slice(0, whole), pieces.slice(whole)].flatMap((part) => {
    const [first, last] = [part[0], part.at(-1)];
    if (!first || !last) return [];
    return [{ x0: first.x, y0: first.y, x1: last.x + last.widthMm, y1: last.y + last.heightMm }];
  });
}

/** How many of an item the plain grids put into a rectangle: enough to choose one by. */
function capacity(f: Rect, item: SheetItem, gap: number): number {
  const ways = item.mayTurn ? [false, true] : [false];
  return Math.max(
    ...ways.map((turned) => {
      const [w, h] = sizeOf(item, turned);
      return fitting(rectWidth(f), w, gap) * fitting(rectHeight(f), h, gap);
    }),
  );
}

/** The pieces of a block, row by row from the edge that is printed first. */
function piecesOf(block: Block, item: SheetItem, gap: number, within: Rect): Placement[] {
  const [widthMm, heightMm] = sizeOf(item, block.turned);
  return Array.from({ length: block.columns * block.rows }, (_, i): Placement => ({
    item: item.id,
    x: within.x0 + block.x + (i % block.columns) * (widthMm + gap),
    y: within.y0 + block.y + Math.floor(i / block.columns) * (heightMm + gap),
    turnDeg: block.turned ? 90 : 0,
    widthMm,
    heightMm,
  }));
}

/** Moved to the middle of what may be used, each way by itself, where no zone is met. */
function centred(sheet: readonly Placement[], { usable, zones }: SheetJob): Placement[] {
  const box = {
    x0: Math.min(...sheet.map((p) => p.x)),
    y0: Math.min(...sheet.map((p) => p.y)),
    x1: Math.max(...sheet.map((p) => p.x + p.widthMm)),
    y1: Math.max(...sheet.map((p) => p.y + p.heightMm)),
  };
  const dx = (usable.x0 + usable.x1 - box.x0 - box.x1) / 2;
  const dy = (usable.y0 + usable.y1 - box.y0 - box.y1) / 2;
  const moves: readonly (readonly [number, number])[] = [
    [dx, dy],
    [dx, 0],
    [0, dy],
  ];
  for (const [mx, my] of moves) {
    const moved = sheet.map((p) => ({ ...p, x: p.x + mx, y: p.y + my }));
    if (!moved.some((p) => zones.some((z) => meets(p, z)))) return moved;
  }
  return [...sheet];
}

const meets = (p: Placement, z: Rect): boolean =>
  p.x < z.x1 - SAME && z.x0 < p.x + p.widthMm - SAME && p.y < z.y1 - SAME && z.y0 < p.y + p.heightMm - SAME;
