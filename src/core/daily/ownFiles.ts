import { mapPath, type Drawing } from '../formats/drawing';
import { CUT_FORMATS, type CutFormat } from '../formats/file';
import { affineMap, applyAffine, invertAffine, type Affine, type Point, type Rect } from '../geometry';

import { laidAt, zeroOn, type FileFrame, type Heading, type Laid } from './fileFrame';

/* Files that we make ourselves, in the frame that the rig's cutter takes. */

/** What lies in a frame's axes that lay on the sheet. The page of an SVG begins at the file's zero. */
export function inFrame(drawing: Drawing, map: Affine, sheet: Rect): Drawing {
  const toFile = affineMap(invertAffine(map));
  const seen = cornersThrough(sheet, invertAffine(map));
  return {
    ...drawing,
    paths: drawing.paths.map((p) => mapPath(p, toFile)),
    page: { widthMm: Math.max(...seen.map((p) => p.x)), heightMm: Math.max(...seen.map((p) => p.y)) },
  };
}

/** Rounding aside, nothing of a sheet lies below the zero of an SVG’s page. */
const BELOW_MM = 1e-6;

/** The formats in which a frame can be written: an SVG has no zero but its page’s corner, and nothing below it. */
export function formatsIn(map: Affine | null, sheet: Rect): CutFormat[] {
  if (map === null) return [...CUT_FORMATS];
  const above = cornersThrough(sheet, invertAffine(map)).every((p) => p.x >= -BELOW_MM && p.y >= -BELOW_MM);
  return CUT_FORMATS.filter((f) => f !== 'svg' || above);
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
  /** From the section’s start; null for its middle. */
  readonly zeroYMm: number | null;
}

/**
 * A rig’s frame for sections: x from the printable area’s left, y from the leading mark’s line.
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
  const edge = (laid.sheetWidthMm - printableWidthMm) / 2;
  return {
    xRuns,
    yRuns,
    zeroXMm: zero.x - edge,
    zeroYMm: frame.zero.at === 'middle' ? null : zero.y - (laid.marks?.insetNearMm ?? 0),
  };
}

/** The same for one section of a length: section, mm ← file, mm. */
export const sectionMap = (frame: SectionFrame, lengthMm: number): Affine =>
  laidAt(frame, { x: frame.zeroXMm, y: frame.zeroYMm ?? lengthMm / 2 });
