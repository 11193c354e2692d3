import { FORMATS, type CutFormat } from '@/core/drawing/formats';

import { correctFile, formatOf, readCutFile, type CorrectedFile, type FileRefusal } from '../drawing/file';
import { affineMap, applyAffine, compose, IDENTITY, invertAffine, type Affine, type Rect } from '../geometry';
import { accept, refuse, type Outcome } from '../outcome';

import { frameMap, type FileFrame, type Laid } from './fileFrame';
import { formatsIn, pageIn } from './ownFiles';
import { layingsByMarks, sameMap } from './findMarks';

/** What settled where a file lies: what the rig's description says, marks drawn in the file, or whoever sent it. */
export type SettledBy = 'description' | 'marks' | 'sender';

export interface Lies {
  /** File, mm → sheet, mm. */
  readonly map: Affine;
  readonly by: SettledBy;
  /** The marks in the file are where the rig's description has them. */
  readonly marksAgree: boolean;
  /** The marks say otherwise than the rig's description; they are followed. */
  readonly marksDiffer: boolean;
  /** The drawing on the sheet, as it was meant, mm. */
  readonly bounds: Rect;
  /** How far it reaches over the sheet's edge, mm; 0 when it stays on it. */
  readonly overMm: number;
}

export interface DailyFile extends CorrectedFile {
  readonly lies: Lies;
  /** T of the file's own axes; null when the file was given back as it came. */
  readonly transform: Affine | null;
}

export type DailyRefusal =
  | FileRefusal
  /** As an SVG part of the sheet would lie below the page’s corner, which is zero. */
  | { readonly code: 'below-zero' }
  /** Nothing says where the file lies; `ways` is in how many ways marks in it would fit. */
  | { readonly code: 'frame-unknown'; readonly ways: number };

export interface Daily extends Laid {
  /** The rig's description of its cut files; null while nobody told. */
  readonly frame: FileFrame | null;
  /** T that files undo, in the sheet's frame; null when the settings do it all. */
  readonly fileTransform: Affine | null;
}

/**
 * Corrects a cut file by a setup's standing correction: finds out where the file lies on the sheet, takes T into the
 * file's own axes, and rewrites the file. One that has nothing to carry and keeps its format comes back byte for byte.
 *
 * Cuts     `cutAll`: layers of a DXF that are cut although they are off, frozen or invisible.
 * Frame    `own`: the file's axes are the sheet's, whatever the rig's description says.
 * Refuses  what `correctFile` refuses, and a file of which nothing says where it lies: that is asked, never guessed.
 */
export function correctDaily(
  text: string,
  setup: Daily,
  own: boolean,
  to: CutFormat | null = null,
  cutAll: readonly string[] = [],
): Outcome<DailyFile, DailyRefusal> {
  const read = readCutFile(text, cutAll);
  if (!read.ok) return read;
  const { drawing, bounds } = read.value;
  const found = own ? [] : setup.marks === null ? [] : layingsByMarks(drawing, setup.marks, setup);
  const settled = own ? bySender() : settle(setup, found);
  if (settled === null) return refuse({ code: 'frame-unknown', ways: found.length });
  const onSheet = boundsOn(bounds, settled.map);
  const lies: Lies = { ...settled, bounds: onSheet, overMm: overSheet(onSheet, setup) };
  const { fileTransform } = setup;
  // What the sheet's T is in the file's axes.
  const transform = fileTransform && compose(invertAffine(lies.map), compose(fileTransform, lies.map));
  const from = formatOf(text);
  // A page of its own is made for what had none.
  const paged = to !== null && from.ok && from.value !== to && FORMATS[to].cornerIsZero;
  if (paged && !formatsIn(lies.map, sheetOf(setup)).includes(to)) return refuse({ code: 'below-zero' });
  const page = paged ? pageIn(lies.map, sheetOf(setup)) : null;
  const done = correctFile(text, affineMap(transform ?? IDENTITY), to, { cutAll, page });
  if (!done.ok) return done;
  const asItCame = transform === null && from.ok && (to === null || to === from.value) && cutAll.length === 0;
  return accept({ ...done.value, content: asItCame ? text : done.value.content, lies, transform });
}

type Settled = Pick<Lies, 'map' | 'by' | 'marksAgree' | 'marksDiffer'>;

const bySender = (): Settled => ({ map: IDENTITY, by: 'sender', marksAgree: false, marksDiffer: false });

function settle(setup: Daily, found: readonly Affine[]): Settled | null {
  const described = setup.frame && frameMap(setup.frame, setup);
  if (!described)
    return found.length === 1 ? { map: found[0]!, by: 'marks', marksAgree: false, marksDiffer: false } : null;
  const same = found.find((f) => sameMap(f, described));
  if (same || found.length !== 1)
    return { map: described, by: 'description', marksAgree: same !== undefined, marksDiffer: false };
  return { map: found[0]!, by: 'marks', marksAgree: false, marksDiffer: true };
}

const sheetOf = ({ sheetWidthMm, sheetHeightMm }: Laid): Rect => ({
  ...{ x0: 0, y0: 0, x1: sheetWidthMm, y1: sheetHeightMm },
});

function boundsOn(b: Rect, map: Affine): Rect {
  const [p, q] = [applyAffine(map, { x: b.x0, y: b.y0 }), applyAffine(map, { x: b.x1, y: b.y1 })];
  return {
    x0: Math.min(p.x, q.x),
    y0: Math.min(p.y, q.y),
    x1: Math.max(p.x, q.x),
    y1: Math.max(p.y, q.y),
  };
}

const overSheet = (b: Rect, { sheetWidthMm, sheetHeightMm }: Laid): number =>
  Math.max(0, -b.x0, -b.y0, b.x1 - sheetWidthMm, b.y1 - sheetHeightMm);
