import { mapPath, type Drawing } from '../drawing';
import { CUT_FORMATS, FORMATS, type CutFormat } from '../drawing/formats';
import {
  affineMap,
  applyAffine,
  compose,
  IDENTITY,
  invertAffine,
  type Affine,
  type Point,
  type Rect,
} from '../geometry';

import { laidAt, zeroOn, type FileFrame, type Heading, type Laid } from './fileFrame';

/* Files that we make ourselves, in the frame that the rig's cutter takes. */

/** What lies in a frame's axes that lay on the sheet. The page of an SVG begins at the file's zero. */
export function inFrame(drawing: Drawing, map: Affine, sheet: Rect): Drawing {
  const toFile = affineMap(invertAffine(map));
  return {
    ...drawing,
    paths: drawing.paths.map((p) => mapPath(p, toFile)),
    page: pageIn(map, sheet),
  };
}

/** How far a sheet reaches from a file’s zero, mm: the page of an SVG. */
export function pageIn(map: Affine, sheet: Rect): { readonly widthMm: number; readonly heightMm: number } {
  const seen = cornersThrough(sheet, invertAffine(map));
  return { widthMm: Math.max(...seen.map((p) => p.x)), heightMm: Math.max(...seen.map((p) => p.y)) };
}

/** Rounding aside, nothing of a sheet lies below the zero of an SVG’s page. */
const BELOW_MM = 1e-6;

/** The formats in which a frame can be written: some have no zero but their page’s corner, and nothing below it. */
export function formatsIn(map: Affine | null, sheet: Rect): CutFormat[] {
  if (map === null) return [...CUT_FORMATS];
  const above = cornersThrough(sheet, invertAffine(map)).every((p) => p.x >= -BELOW_MM && p.y >= -BELOW_MM);
  return CUT_FORMATS.filter((f) => above || !FORMATS[f].cornerIsZero);
}

/** What to say where an SVG was asked for. */
export const NO_SVG =
  'In this rig’s frame part of the sheet lies below zero, which an SVG’s page cannot show. Take DXF or HPGL.';

function cornersThrough(r: Rect, map: Affine): Point[] {
  return [r.x0, r.x1].flatMap((x) => [r.y0, r.y1].map((y) => applyAffine(map, { x, y })));
}

/** How the files of a run’s sections lie: each section is a sheet whose marks stand at its kit’s insets. */
export interface SectionFrame {
  readonly xRuns: Heading;
  readonly yRuns: Heading;
  readonly zeroXMm: number;
  /** Sections differ in length: from the section’s start, its middle or its end. */
  readonly zeroYFrom: 'start' | 'middle' | 'end';
  readonly zeroYMm: number;
}

/** Where a section’s own zero (the printable area’s left, the leading mark’s line) lies on the setup’s sheet, mm. */
export const sectionOrigin = (laid: Laid, printableWidthMm: number): Point => ({
  x: (laid.sheetWidthMm - printableWidthMm) / 2,
  y: laid.marks?.insetNearMm ?? 0,
});

/**
 * A rig’s frame for sections: x from the printable area’s left, y from the leading mark’s line. What a sheet has at its far
 * edge or in its middle a section has there too, whatever its length.
 * Null   while nobody told, or when its zero is a mark and none is read.
 */
export function sectionFrame(
  frame: FileFrame | null,
  laid: Laid,
  printableWidthMm: number,
): SectionFrame | null {
  const zero = frame && zeroOn(frame.zero, laid);
  if (!zero) return null;
  const { xRuns, yRuns } = frame;
  const origin = sectionOrigin(laid, printableWidthMm);
  const [near, far] = [origin.y, laid.marks?.insetFarMm ?? 0];
  const along = zeroAlong(frame.zero, laid);
  const zeroYMm = {
    start: zero.y - near,
    middle: (far - near) / 2,
    end: zero.y - (laid.sheetHeightMm - far),
  }[along];
  return { xRuns, yRuns, zeroXMm: zero.x - origin.x, zeroYFrom: along, zeroYMm };
}

/** To which end of the sheet a zero belongs. */
function zeroAlong(zero: FileFrame['zero'], { marks }: Laid): SectionFrame['zeroYFrom'] {
  if (zero.at === 'middle') return 'middle';
  const corner = zero.at === 'corner' ? zero.corner : zero.at === 'mark' ? marks!.leading : null;
  return corner?.startsWith('far') ? 'end' : 'start';
}

const SHARE = { start: 0, middle: 0.5, end: 1 } as const;

/** The same for one section of a length: section, mm ← file, mm. */
export const sectionMap = (frame: SectionFrame, lengthMm: number): Affine =>
  laidAt(frame, { x: frame.zeroXMm, y: SHARE[frame.zeroYFrom] * lengthMm + frame.zeroYMm });

/** T of a setup’s sheet in the axes of a run’s sections. */
export function sectionTransform(transform: Affine, laid: Laid, printableWidthMm: number): Affine {
  const origin = sectionOrigin(laid, printableWidthMm);
  const lay: Affine = { ...IDENTITY, tx: origin.x, ty: origin.y };
  return compose(invertAffine(lay), compose(transform, lay));
}
