import {
  affineMap,
  IDENTITY,
  mapPoint,
  invertMap,
  type PlaneMap,
  type Point,
  type Rect,
} from '../../geometry';
import { accept, refuse, type Outcome } from '../../outcome';
import { FILE_RESOLUTION_MM } from '../../tolerance';
import {
  CHORD_MM,
  flatten,
  mapPath,
  mapPoints,
  measure,
  piecesOf,
  type Drawing,
  type DrawnPath,
} from '../drawing';
import { DXF_CHORD_MM, readDxf, writeDxf, type DxfRefusal } from '../dxf';
import { HPGL_CHORD_MM, HPGL_UNIT_MM, readHpgl, writeHpgl, type HpglRefusal } from '../hpgl';
import { ELEMENT_LIMIT, FILE_LIMIT_BYTES, PIECE_LIMIT, REACH_LIMIT_MM } from '../limits';
import { Notes, type Note } from '../notes';
import { correctSvg, drawingToSvg, escapeXml, type SvgRefusal } from '../svg';

import type { CutFormat } from './cutFormat';

/** Kept with every corrected file, so that it can be traced to the code that made it. */
export const FILE_CORRECTION_VERSION = 'file-2';

export type FileRefusal =
  | SvgRefusal
  | DxfRefusal
  | HpglRefusal
  | { readonly code: 'empty' }
  | { readonly code: 'file-too-large'; readonly bytes: number; readonly limit: number }
  | { readonly code: 'binary' }
  | { readonly code: 'unknown-format'; readonly begins: string }
  | { readonly code: 'beyond-horizon' }
  | { readonly code: 'out-of-reach'; readonly limitMm: number }
  | { readonly code: 'too-fine'; readonly limit: number; readonly to: CutFormat }
  | { readonly code: 'too-small'; readonly resolutionMm: number };

/** What was done to a file. Lengths in mm, in the frame of the file (of SVG: y up from the lower-left corner). */
export interface FileReport {
  readonly version: string;
  readonly from: CutFormat;
  readonly to: CutFormat;
  readonly paths: number;
  readonly points: number;
  readonly lengthMm: number;
  readonly boundsBefore: Rect;
  readonly boundsAfter: Rect;
  readonly farthestMoveMm: number;
  readonly farthestAt: Point;
  /** Things that were changed or could not be kept, with counts. */
  readonly notes: readonly Note[];
}

/** Outlines for a picture, thinned: x, y, x, y … before and after. */
export interface MovedOutline {
  readonly before: readonly number[];
  readonly after: readonly number[];
}

export interface CorrectedFile {
  readonly content: string;
  readonly report: FileReport;
  readonly outlines: readonly MovedOutline[];
}

/**
 * Rewrites a cut file so that a rig which cuts p at T(p) lands where the file meant, in its own or another format.
 *
 * Frame    SVG: mm, y up, origin at the lower-left corner of the page; DXF and HPGL: the file's own axes.
 * Keeps    SVG to SVG its whole structure; otherwise layers, colours and pens, and says what it could not.
 * Refuses  as values, with what is wrong; nothing in the file is run, fetched or expanded.
 */
export function correctFile(
  text: string,
  transform: PlaneMap,
  wanted: CutFormat | null = null,
  onProgress: (share: number) => void = () => undefined,
): Outcome<CorrectedFile, FileRefusal> {
  const from = formatOf(text);
  if (!from.ok) return from;
  const to = wanted ?? from.value;
  const notes = new Notes();
  const correction = invertMap(transform);
  const reading = (share: number): void => onProgress(0.6 * share);
  if (from.value === 'svg') {
    const svg = correctSvg(text, transform, notes, reading);
    if (!svg.ok) return svg;
    const { paths, page } = svg.value;
    const drawing = { paths, layers: layersOf(paths), page, unitMm: 1 };
    return finished(drawing, correction, 'svg', to, notes, to === 'svg' ? svg.value.svg : null);
  }
  const read = from.value === 'dxf' ? readDxf(text, notes, reading) : readHpgl(text, notes, reading);
  if (!read.ok) return read;
  onProgress(0.6);
  return finished(read.value, correction, from.value, to, notes, null);
}

/** A cut file as a drawing with its bounds: what a job is laid out from. Refuses as `correctFile` does. */
export function readCutFile(
  text: string,
): Outcome<{ readonly drawing: Drawing; readonly bounds: Rect; readonly lengthMm: number }, FileRefusal> {
  const from = formatOf(text);
  if (!from.ok) return from;
  const notes = new Notes();
  const still = affineMap(IDENTITY);
  let drawing: Drawing;
  if (from.value === 'svg') {
    const svg = correctSvg(text, still, notes, () => undefined);
    if (!svg.ok) return svg;
    const { paths, page } = svg.value;
    drawing = { paths, layers: layersOf(paths), page, unitMm: 1 };
  } else {
    const read = from.value === 'dxf' ? readDxf(text, notes) : readHpgl(text, notes);
    if (!read.ok) return read;
    drawing = read.value;
  }
  const { bounds, lengthMm } = measure(drawing.paths, still);
  return accept({ drawing, bounds, lengthMm });
}

/**
 * Writes a drawing. The label goes where the format has room for words that are not cut: an SVG title, a DXF
 * comment; HP-GL has none, its file name has to do.
 */
export function writeCutFile(drawing: Drawing, to: CutFormat, label: string): string {
  const notes = new Notes();
  const { bounds } = measure(drawing.paths, affineMap(IDENTITY));
  const content = WRITE[to](drawing, bounds, notes);
  if (to === 'svg') return content.replace(/(<svg[^>]*>)/, `$1\n<title>${escapeXml(label)}</title>`);
  return to === 'dxf' ? `999\n${label.replace(/[^\x20-\x7e]/g, '-')}\n${content}` : content;
}

function finished(
  drawing: Drawing,
  correction: PlaneMap,
  from: CutFormat,
  to: CutFormat,
  notes: Notes,
  written: string | null,
): Outcome<CorrectedFile, FileRefusal> {
  // Told before anything large is worked out.
  if (tooFine(drawing.paths, correction, to)) return refuse({ code: 'too-fine', limit: PIECE_LIMIT, to });
  const totals = measure(drawing.paths, correction);
  if (!staysInView(correction, totals.bounds)) return refuse({ code: 'beyond-horizon' });
  const boundsAfter = boundsThrough(totals.bounds, correction);
  const elements = drawing.paths.length + (to === 'svg' && written === null ? 2 * drawing.layers.length : 0);
  if (elements > ELEMENT_LIMIT) return refuse({ code: 'too-many-elements', limit: ELEMENT_LIMIT });
  const refused = refusedSize(drawing.paths, totals.bounds, boundsAfter, to);
  if (refused) return refuse(refused);
  noteBelowZero(totals.bounds, boundsAfter, notes);
  const moved = (): Drawing => ({ ...drawing, paths: drawing.paths.map((p) => mapPath(p, correction)) });
  const content = written ?? WRITE[to](moved(), boundsAfter, notes);
  return accept({
    content,
    outlines: outlinesOf(drawing.paths, correction, totals.bounds),
    report: {
      version: FILE_CORRECTION_VERSION,
      from,
      to,
      paths: totals.paths,
      points: totals.points,
      lengthMm: totals.lengthMm,
      boundsBefore: totals.bounds,
      boundsAfter,
      farthestMoveMm: totals.farthestMoveMm,
      farthestAt: totals.farthestAt,
      notes: notes.list(),
    },
  });
}

/** Less than this below zero no cutter shows, mm. */
const BELOW_ZERO_MM = 0.02;

/** A cutter clips what lies below its zero: told when the correction has moved lines there. */
function noteBelowZero(before: Rect, after: Rect, notes: Notes): void {
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

/** How far apart two places have to be to be told apart in a format, and how fine its lines follow a curve; mm. */
const RESOLUTION_MM: Readonly<Record<CutFormat, number>> = {
  svg: FILE_RESOLUTION_MM,
  dxf: FILE_RESOLUTION_MM,
  hpgl: HPGL_UNIT_MM,
};
const CHORDS_MM: Readonly<Record<CutFormat, number | null>> = {
  svg: null,
  dxf: DXF_CHORD_MM,
  hpgl: HPGL_CHORD_MM,
};

/** What cannot be written so that it can be read again: too far away, too fine, or smaller than a step. */
function refusedSize(
  paths: readonly DrawnPath[],
  before: Rect,
  after: Rect,
  to: CutFormat,
): FileRefusal | null {
  const reach = [before, after].flatMap((b) => [b.x0, b.y0, b.x1, b.y1]);
  if (!reach.every((v) => Math.abs(v) <= REACH_LIMIT_MM) || !paths.every(sound))
    return { code: 'out-of-reach', limitMm: REACH_LIMIT_MM };
  const resolutionMm = RESOLUTION_MM[to];
  if (Math.max(after.x1 - after.x0, after.y1 - after.y0) < 2 * resolutionMm)
    return { code: 'too-small', resolutionMm };
  return null;
}

/** Whether curves would become more lines than a file may have. */
function tooFine(paths: readonly DrawnPath[], correction: PlaneMap, to: CutFormat): boolean {
  const chord = correction.kind === 'affine' ? CHORDS_MM[to] : CHORD_MM;
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

const WRITE: Readonly<Record<CutFormat, (drawing: Drawing, bounds: Rect, notes: Notes) => string>> = {
  svg: drawingToSvg,
  dxf: (drawing, _, notes) => writeDxf(drawing, notes),
  hpgl: (drawing, _, notes) => writeHpgl(drawing, notes),
};

/** The format by how the text begins; names are not trusted. */
export function formatOf(text: string): Outcome<CutFormat, FileRefusal> {
  if (text.length > FILE_LIMIT_BYTES)
    return refuse({ code: 'file-too-large', bytes: text.length, limit: FILE_LIMIT_BYTES });
  const head = text.slice(0, 2000).replace(/^\ufeff/, '');
  if (head.trim() === '') return refuse({ code: 'empty' });
  if (head.includes('\u0000') || (head.match(/\ufffd/g)?.length ?? 0) > 3) return refuse({ code: 'binary' });
  if (/^\s*</.test(head)) return accept('svg');
  if (/^\s*(0|999)\s*[\r\n]/.test(head)) return accept('dxf');
  if (
    /^[\s;\u0003]*(\u001b|(IN|DF|PU|PD|PA|PR|SP|IP|SC|CI|AA|AR|EA|ER|VS|FS|LB|CO)[\s\d;,.+-]|(IN|PU|PD)[A-Z])/i.test(
      head,
    )
  )
    return accept('hpgl');
  return refuse({ code: 'unknown-format', begins: head.trim().slice(0, 20) });
}

function layersOf(paths: readonly DrawnPath[]): Drawing['layers'] {
  const layers = new Map<string, string | null>();
  for (const { layer, colour } of paths) if (!layers.has(layer)) layers.set(layer, colour);
  return [...layers].map(([name, colour]) => ({ name, colour }));
}

const corners = (b: Rect): Point[] => [
  { x: b.x0, y: b.y0 },
  { x: b.x1, y: b.y0 },
  { x: b.x1, y: b.y1 },
  { x: b.x0, y: b.y1 },
];

/** A projective map has a horizon; nothing that is cut may lie on or beyond it. */
const staysInView = (map: PlaneMap, bounds: Rect): boolean =>
  map.kind === 'affine' || corners(bounds).every((p) => map.h31 * p.x + map.h32 * p.y + 1 > 0.1);

function boundsThrough(bounds: Rect, map: PlaneMap): Rect {
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
function outlinesOf(paths: readonly DrawnPath[], correction: PlaneMap, bounds: Rect): MovedOutline[] {
  const chord = Math.max(1e-3, Math.hypot(bounds.x1 - bounds.x0, bounds.y1 - bounds.y0) / 2000);
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
