import type { Point, Rect } from '../../geometry';
import { areaOutsideMm2, sharedAreaMm2, unionOf } from '../offset';

import { crosses, eachPiece, PieceGrid, toPiece } from './segments';
import type { CheckedLine, Finding } from './types';

/* Lines that are cut across each other, or across themselves. */

/** Loops and overlaps under so much are no crossing: a knife rounds them off, mm². */
const CROSSING_MM2 = 0.05;

/** Whether a line crosses itself by more than nothing: it then encloses something twice, or falls into several pieces. */
export function crossesItself(line: CheckedLine): boolean {
  if (!touchesItself(line)) return false;
  const parts = (filling: 'even-odd' | 'non-zero'): number[] =>
    unionOf([line.points], filling)
      .filter((l) => l.areaMm2 > CROSSING_MM2)
      .map((l) => (l.hole ? -l.areaMm2 : l.areaMm2));
  const [odd, any] = [parts('even-odd'), parts('non-zero')];
  const sum = (areas: readonly number[]): number => areas.reduce((a, b) => a + b, 0);
  return odd.length > 1 || Math.abs(sum(any) - sum(odd)) > CROSSING_MM2;
}

function touchesItself(line: CheckedLine): boolean {
  const grid = new PieceGrid([line], 2);
  const count = line.points.length;
  let found = false;
  eachPiece(line, (a, b, i) => {
    if (found) return;
    const steps = Math.max(1, Math.ceil(Math.hypot(b.x - a.x, b.y - a.y) / 2));
    for (let k = 0; k <= steps && !found; k += 1)
      for (const other of grid.near({
        x: a.x + ((b.x - a.x) * k) / steps,
        y: a.y + ((b.y - a.y) * k) / steps,
      })) {
        const apart = Math.abs(other.at - i);
        if (apart > 1 && apart < count - 1 && crosses(a, b, other.a, other.b)) {
          found = true;
          break;
        }
      }
  });
  return found;
}

/** Pairs of rectangles that meet, each once: a sweep from the left. */
export function* meeting(bounds: readonly Rect[]): Generator<readonly [number, number]> {
  const order = bounds.map((_, i) => i).sort((a, b) => bounds[a]!.x0 - bounds[b]!.x0);
  let open: number[] = [];
  for (const i of order) {
    const own = bounds[i]!;
    open = open.filter((j) => bounds[j]!.x1 > own.x0);
    for (const j of open) if (bounds[j]!.y0 < own.y1 && bounds[j]!.y1 > own.y0) yield [j, i];
    open.push(i);
  }
}

/** Two lines that are both cut and run across each other: what is cut first falls apart under the second. */
export function crossing(
  lines: readonly CheckedLine[],
  bounds: readonly Rect[],
  cuts: readonly boolean[],
  doubled: ReadonlySet<number>,
): Finding[] {
  const found: Finding[] = [];
  for (const [i, j] of meeting(bounds)) {
    if (!cuts[i] || !cuts[j] || (doubled.has(i) && doubled.has(j))) continue;
    const [a, b] = [lines[i]!, lines[j]!];
    if (!(a.closed && b.closed ? shapesCross(a, b) : strokesCross(a, b))) continue;
    const [p, q] = [bounds[i]!, bounds[j]!];
    found.push({
      ...{ code: 'lines-cross', severity: 'stop' },
      where: {
        ...{ x0: Math.max(p.x0, q.x0), y0: Math.max(p.y0, q.y0) },
        ...{ x1: Math.min(p.x1, q.x1), y1: Math.min(p.y1, q.y1) },
      },
      message: 'Two lines are cut across each other: both pieces are spoiled there.',
      fix: 'Move one of the pieces away, or unite their shapes.',
    });
  }
  return found;
}

/** Each has something of its own, and both something in common, by more than a touch. */
const shapesCross = (a: CheckedLine, b: CheckedLine): boolean =>
  sharedAreaMm2([a.points], [b.points]) > CROSSING_MM2 &&
  areaOutsideMm2([a.points], [b.points]) > CROSSING_MM2 &&
  areaOutsideMm2([b.points], [a.points]) > CROSSING_MM2;

/** Ends of strokes that reach across by less than this only touch, mm. */
const TOUCH_MM = 0.02;

/** Whether an open line runs across another: its pieces cross with both ends clear of the other line. */
function strokesCross(a: CheckedLine, b: CheckedLine): boolean {
  const [stroke, other] = a.closed ? [b, a] : [a, b];
  const grid = new PieceGrid([other], 2);
  const clear = (p: Point): boolean => ![...grid.near(p)].some((piece) => toPiece(p, piece) < TOUCH_MM);
  const ends = [stroke.points[0]!, stroke.points.at(-1)!].filter(clear);
  let found = false;
  eachPiece(stroke, (p, q) => {
    if (found) return;
    const steps = Math.max(1, Math.ceil(Math.hypot(q.x - p.x, q.y - p.y) / 2));
    for (let k = 0; k <= steps && !found; k += 1)
      for (const near of grid.near({
        x: p.x + ((q.x - p.x) * k) / steps,
        y: p.y + ((q.y - p.y) * k) / steps,
      }))
        found ||= crosses(p, q, near.a, near.b);
  });
  // A stroke that ends on the line, drawn a hair too long, does not run across it.
  return found && ends.length > 1;
}
