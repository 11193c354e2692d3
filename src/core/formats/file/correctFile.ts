import { affineMap, IDENTITY, invertMap, type PlaneMap, type Rect } from '../../geometry';
import { accept, type Outcome, refuse } from '../../outcome';
import { type Drawing, type DrawnPath, mapPath, measure } from '../drawing';
import { readDxf } from '../dxf';
import { readHpgl } from '../hpgl';
import { ELEMENT_LIMIT, PIECE_LIMIT } from '../limits';
import { Notes } from '../notes';
import { type CorrectedSvg, correctSvg, escapeXml } from '../svg';

import type { CutFormat } from './cutFormat';
import { CorrectedFile, FileRefusal } from './report';
import {
  boundsThrough,
  formatOf,
  layersOf,
  noteBelowZero,
  outlinesOf,
  refusedSize,
  staysInView,
  tooFine,
  withinReach,
  WRITE,
} from './soundness';

/** Kept with every corrected file, so that it can be traced to the code that made it. */
export const FILE_CORRECTION_VERSION = 'file-3';

export interface CorrectOptions {
  readonly onProgress?: (share: number) => void;
  /** Layers of a DXF that are cut whatever their state. */
  readonly cutAll?: readonly string[];
  /** Of an SVG made of a DXF or HPGL: its page from the file’s zero, mm; else it ends where the drawing does. */
  readonly page?: Drawing['page'];
}

/**
 * Rewrites a cut file so that a rig which cuts p at T(p) lands where the file meant, in its own or another format.
 *
 * Frame    SVG: mm, y up, origin at the lower-left corner of the page; DXF and HPGL: the file's own axes.
 * Cuts     what can be seen (`CutLines`); of DXF also the layers in `cutAll`, whatever their state.
 * Keeps    SVG to SVG its whole structure; otherwise layers, colours and pens, and says what it could not.
 * Refuses  as values, with what is wrong; nothing in the file is run, fetched or expanded.
 */
export function correctFile(
  text: string,
  transform: PlaneMap,
  wanted: CutFormat | null = null,
  { onProgress = () => undefined, cutAll = [], page = null }: CorrectOptions = {},
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
    const drawing = svgDrawing(svg.value);
    return finished(drawing, correction, 'svg', to, notes, to === 'svg' ? svg.value.svg : null);
  }
  const read =
    from.value === 'dxf' ? readDxf(text, notes, reading, new Set(cutAll)) : readHpgl(text, notes, reading);
  if (!read.ok) return read;
  onProgress(0.6);
  return finished({ ...read.value, page }, correction, from.value, to, notes, null);
}

const svgDrawing = ({ paths, leftUncut, page }: CorrectedSvg): Drawing => ({
  paths,
  leftUncut,
  layers: layersOf(paths),
  page,
  unitMm: 1,
});

/**
 * A cut file as a drawing with its bounds: what a job is laid out from. Cuts and refuses as `correctFile` does.
 */
export function readCutFile(
  text: string,
  cutAll: readonly string[] = [],
): Outcome<{ readonly drawing: Drawing; readonly bounds: Rect; readonly lengthMm: number }, FileRefusal> {
  const from = formatOf(text);
  if (!from.ok) return from;
  const notes = new Notes();
  const still = affineMap(IDENTITY);
  let drawing: Drawing;
  if (from.value === 'svg') {
    const svg = correctSvg(text, still, notes, () => undefined);
    if (!svg.ok) return svg;
    drawing = svgDrawing(svg.value);
  } else {
    const read =
      from.value === 'dxf' ? readDxf(text, notes, undefined, new Set(cutAll)) : readHpgl(text, notes);
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
  if (to === 'svg')
    return content.replace(/<svg[^>]*>/, (tag) => `${tag}\n<title>${escapeXml(label)}</title>`);
  return to === 'dxf' ? `999\n${label.replace(/[^\x20-\x7e]/g, '-')}\n${content}` : content;
}

/** The same without words in it. */
export const writeDrawing = (drawing: Drawing, to: CutFormat): string =>
  WRITE[to](drawing, measure(drawing.paths, affineMap(IDENTITY)).bounds, new Notes());

function finished(
  drawing: Drawing,
  correction: PlaneMap,
  from: CutFormat,
  to: CutFormat,
  notes: Notes,
  written: string | null,
): Outcome<CorrectedFile, FileRefusal> {
  // Told before anything large is worked out.
  const uncut = to === 'dxf' ? (drawing.uncut ?? []) : [];
  if (tooFine([...drawing.paths, ...uncut], correction, to))
    return refuse({ code: 'too-fine', limit: PIECE_LIMIT, to });
  const totals = measure(drawing.paths, correction);
  if (!staysInView(correction, totals.bounds)) return refuse({ code: 'beyond-horizon' });
  const boundsAfter = boundsThrough(totals.bounds, correction);
  const elements =
    drawing.paths.length + uncut.length + (to === 'svg' && written === null ? 2 * drawing.layers.length : 0);
  if (elements > ELEMENT_LIMIT) return refuse({ code: 'too-many-elements', limit: ELEMENT_LIMIT });
  const refused = refusedSize(drawing.paths, totals.bounds, boundsAfter, to);
  if (refused) return refuse(refused);
  noteBelowZero(totals.bounds, boundsAfter, notes);
  const through = (paths: readonly DrawnPath[]): DrawnPath[] => paths.map((p) => mapPath(p, correction));
  const moved = (): Drawing => ({
    ...drawing,
    paths: through(drawing.paths),
    uncut: through(withinReach(uncut, notes)),
  });
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
      leftUncut: drawing.leftUncut ?? [],
      notes: notes.list(),
    },
  });
}
