import { affineMap, IDENTITY, mapPoint, type PlaneMap, type Point, type Rect } from '../../geometry';
import { accept, type Outcome, refuse } from '../../outcome';
import { CHORD_MM, type DrawnPath, flatten, mapPoints, measure, piecesOf } from '..';
import { FILE_LIMIT_BYTES, PIECE_LIMIT, REACH_LIMIT_MM } from '../limits';
import { Notes } from '../notes';
import { CUT_FORMATS, type CutFormat } from '../formats';
import { CUT_FILE_FORMATS } from '../registry';

import type { FileRefusal, MovedOutline } from './report';

/** Chords are not looked at finer. */
const LEAST_CHORD_MM = 1e-3;

/** Less than this below zero no cutter shows, mm. */
const BELOW_ZERO_MM = 0.02;

/** A cutter clips what lies below its zero: told when the correction has moved lines there. */
export function noteBelowZero(before: Rect, after: Rect, notes: Notes): void {
  const below = (was: number, is: number): number => (was >= -BELOW_ZERO_MM && is < -BELOW_ZERO_MM ? -is : 0);
  const [across, along] = [below(before.x0, after.x0), below(before.y0, after.y0)];
  const parts = [
    across > 0 ? `${across.toFixed(2)} mm in x` : '',
    along > 0 ? `${along.toFixed(2)} mm in y` : '',
  ].filter((words) => words !== '');
  if (parts.length > 0)
    notes.add(
      `corrected lines reach below zero by ${parts.join(' and ')}, where a cutter may clip them: draw the design that much further in, print and cut alike`,
    );
}

/** What cannot be written so that it can be read again: too far away, too fine, or smaller than a step. */
export function refusedSize(
  paths: readonly DrawnPath[],
  before: Rect,
  after: Rect,
  to: CutFormat,
): FileRefusal | null {
  const reach = [before, after].flatMap((b) => [b.x0, b.y0, b.x1, b.y1]);
  if (!reach.every((v) => Math.abs(v) <= REACH_LIMIT_MM) || !paths.every(sound))
    return { code: 'out-of-reach', limitMm: REACH_LIMIT_MM };
  const { resolutionMm } = CUT_FILE_FORMATS[to];
  if (Math.max(after.x1 - after.x0, after.y1 - after.y0) < 2 * resolutionMm)
    return { code: 'too-small', resolutionMm };
  return null;
}

/** Of what is not cut: what lies too far away to be written is left out, and no reason to refuse the file. */
export function withinReach(uncut: readonly DrawnPath[], notes: Notes): readonly DrawnPath[] {
  if (uncut.length === 0) return uncut;
  const kept = uncut.filter((path) => {
    const { x0, y0, x1, y1 } = measure([path], affineMap(IDENTITY)).bounds;
    return sound(path) && [x0, y0, x1, y1].every((v) => Math.abs(v) <= REACH_LIMIT_MM);
  });
  notes.add('not cut, and too far away to be kept: left out', uncut.length - kept.length);
  return kept;
}

/** Whether curves would become more lines than a file may have. */
export function tooFine(paths: readonly DrawnPath[], correction: PlaneMap, to: CutFormat): boolean {
  const chord = correction.kind === 'affine' ? CUT_FILE_FORMATS[to].chordMm : CHORD_MM;
  return chord !== null && paths.some(curved) && piecesOf(paths, chord, PIECE_LIMIT) > PIECE_LIMIT;
}

const curved = (path: DrawnPath): boolean => path.segments.some((s) => s.kind !== 'lines');

/** A curve with a figure that is none, or one of an arc so large that its end is lost in rounding, is not a cut line. */
const sound = (path: DrawnPath): boolean =>
  path.segments.every((s) => {
    if (s.kind === 'lines') return true;
    if (s.kind === 'cubic') return [s.c1, s.c2].every((p) => Math.hypot(p.x, p.y) <= LARGEST_CURVE_MM);
    return [s.u, s.v, s.centre].every((p) => Math.hypot(p.x, p.y) <= LARGEST_CURVE_MM);
  });

/** Beyond it half a micron is lost in the sixteen digits of a figure. */
const LARGEST_CURVE_MM = 1e9;

/** The format by how the text begins; names are not trusted. */
export function formatOf(text: string): Outcome<CutFormat, FileRefusal> {
  if (text.length > FILE_LIMIT_BYTES)
    return refuse({ code: 'file-too-large', bytes: text.length, limit: FILE_LIMIT_BYTES });
  const head = text.slice(0, 2000).replace(/^\ufeff/, '');
  if (head.trim() === '') return refuse({ code: 'empty' });
  if (head.includes('\u0000') || (head.match(/\ufffd/g)?.length ?? 0) > 3) return refuse({ code: 'binary' });
  const format = CUT_FORMATS.find((f) => CUT_FILE_FORMATS[f].begins(head));
  if (format) return accept(format);
  return refuse({ code: 'unknown-format', begins: head.trim().slice(0, 20) });
}

const corners = (b: Rect): Point[] => [
  { x: b.x0, y: b.y0 },
  { x: b.x1, y: b.y0 },
  { x: b.x1, y: b.y1 },
  { x: b.x0, y: b.y1 },
];

/** A projective map has a horizon; nothing that is cut may lie on or beyond it. */
export const staysInView = (map: PlaneMap, bounds: Rect): boolean =>
  map.kind === 'affine' || corners(bounds).every((p) => map.h31 * p.x + map.h32 * p.y + 1 > 0.1);

export function boundsThrough(bounds: Rect, map: PlaneMap): Rect {
  const moved = corners(bounds).map((p) => mapPoint(map, p));
  return {
    x0: Math.min(...moved.map((p) => p.x)),
    y0: Math.min(...moved.map((p) => p.y)),
    x1: Math.max(...moved.map((p) => p.x)),
    y1: Math.max(...moved.map((p) => p.y)),
  };
}

const MOST_OUTLINES = 400;

const MOST_OUTLINE_POINTS = 40_000;

/** What a preview needs and no more: curves as coarse as the picture, the first outlines of a crowd. */
export function outlinesOf(paths: readonly DrawnPath[], correction: PlaneMap, bounds: Rect): MovedOutline[] {
  const chord = Math.max(LEAST_CHORD_MM, Math.hypot(bounds.x1 - bounds.x0, bounds.y1 - bounds.y0) / 2000);
  const outlines: MovedOutline[] = [];
  let points = 0;
  for (const path of paths.slice(0, MOST_OUTLINES)) {
    const whole = flatten(path, chord);
    const before = whole.length > MOST_OUTLINE_POINTS ? whole.slice(0, MOST_OUTLINE_POINTS) : whole;
    points += before.length;
    if (points > 2 * MOST_OUTLINE_POINTS) break;
    outlines.push({ before, after: mapPoints(before, (p) => mapPoint(correction, p)) });
  }
  return outlines;
}
