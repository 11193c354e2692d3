import { affineMap, IDENTITY, invertMap, type PlaneMap, type Rect } from '../../geometry';
import { accept, type Outcome, refuse } from '../../outcome';
import { type Drawing, type DrawnPath, mapPath, measure } from '..';
import { ELEMENT_LIMIT, PIECE_LIMIT } from '../limits';
import { Notes } from '../notes';
import type { CutFormat } from '../formats';
import { CUT_FILE_FORMATS } from '../registry';

import { CorrectedFile, FileRefusal } from './report';
import {
  boundsThrough,
  formatOf,
  noteBelowZero,
  outlinesOf,
  refusedSize,
  staysInView,
  tooFine,
  withinReach,
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
  const { read, moveInPlace } = CUT_FILE_FORMATS[from.value];
  const notes = new Notes();
  const correction = invertMap(transform);
  const options = { cutAll, onProgress: (share: number): void => onProgress(0.6 * share) };
  if (moveInPlace) {
    const moved = moveInPlace(text, transform, notes, options);
    if (!moved.ok) return moved;
    const { drawing, content } = moved.value;
    return finished(drawing, correction, from.value, to, notes, to === from.value ? content : null);
  }
  const drawing = read(text, notes, options);
  if (!drawing.ok) return drawing;
  onProgress(0.6);
  return finished({ ...drawing.value, page }, correction, from.value, to, notes, null);
}

/**
 * A cut file as a drawing with its bounds: what a job is laid out from. Cuts and refuses as `correctFile` does.
 */
export function readCutFile(
  text: string,
  cutAll: readonly string[] = [],
): Outcome<{ readonly drawing: Drawing; readonly bounds: Rect; readonly lengthMm: number }, FileRefusal> {
  const from = formatOf(text);
  if (!from.ok) return from;
  const read = CUT_FILE_FORMATS[from.value].read(text, new Notes(), { cutAll });
  if (!read.ok) return read;
  const { bounds, lengthMm } = measure(read.value.paths, affineMap(IDENTITY));
  return accept({ drawing: read.value, bounds, lengthMm });
}

/** Writes a drawing; its title goes where the format has room for words that are not cut. */
export const writeDrawing = (drawing: Drawing, to: CutFormat): string =>
  CUT_FILE_FORMATS[to].write(drawing, measure(drawing.paths, affineMap(IDENTITY)).bounds, new Notes());

function finished(
  drawing: Drawing,
  correction: PlaneMap,
  from: CutFormat,
  to: CutFormat,
  notes: Notes,
  written: string | null,
): Outcome<CorrectedFile, FileRefusal> {
  // Told before anything large is worked out.
  const { layerStates, elementsALayer, write } = CUT_FILE_FORMATS[to];
  const uncut = layerStates ? (drawing.uncut ?? []) : [];
  if (tooFine([...drawing.paths, ...uncut], correction, to))
    return refuse({ code: 'too-fine', limit: PIECE_LIMIT, to });
  const totals = measure(drawing.paths, correction);
  if (!staysInView(correction, totals.bounds)) return refuse({ code: 'beyond-horizon' });
  const boundsAfter = boundsThrough(totals.bounds, correction);
  const elements =
    drawing.paths.length + uncut.length + (written === null ? elementsALayer * drawing.layers.length : 0);
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
  const content = written ?? write(moved(), boundsAfter, notes);
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
