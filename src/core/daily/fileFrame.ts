import type { Affine, Point } from '../geometry';
import { CORNERS, markPlaces, type Corner, type MarkKit, type SheetSize } from '../marks';

/** Which way an axis of a file runs on the sheet, seen from the printed side. */
export const HEADINGS = ['right', 'further', 'left', 'nearer'] as const;
export type Heading = (typeof HEADINGS)[number];

/** Where a file's zero lies on the sheet. Of an SVG, zero is the lower-left corner of its page. */
export const ZEROS = ['corner', 'mark', 'middle', 'typed'] as const;
export type FileZero =
  | { readonly at: 'corner'; readonly corner: Corner }
  /** The middle of the mark that is read first. */
  | { readonly at: 'mark' }
  | { readonly at: 'middle' }
  /** A place of the sheet, mm. */
  | { readonly at: 'typed'; readonly xMm: number; readonly yMm: number };

/** How a rig's cut files lie on the sheet. */
export interface FileFrame {
  readonly xRuns: Heading;
  /** Perpendicular to `xRuns`: a quarter turn anticlockwise of it, unless files are mirrored. */
  readonly yRuns: Heading;
  readonly zero: FileZero;
}

/** The sheet's own frame: x right, y further, zero at the near left corner. */
export const SHEET_FRAME: FileFrame = {
  xRuns: 'right',
  yRuns: 'further',
  zero: { at: 'corner', corner: 'near left' },
};

const WAYS: Readonly<Record<Heading, Point>> = {
  right: { x: 1, y: 0 },
  further: { x: 0, y: 1 },
  left: { x: -1, y: 0 },
  nearer: { x: 0, y: -1 },
};

/** Whether two axes stand on each other. */
export const perpendicular = (a: Heading, b: Heading): boolean =>
  WAYS[a].x * WAYS[b].x + WAYS[a].y * WAYS[b].y === 0;

/** The eight ways in which a file can lie along the sheet's edges. */
export const ATTITUDES: readonly Pick<FileFrame, 'xRuns' | 'yRuns'>[] = HEADINGS.flatMap((xRuns) =>
  HEADINGS.filter((yRuns) => perpendicular(xRuns, yRuns)).map((yRuns) => ({ xRuns, yRuns })),
);

/** Whether a file that lies so is the mirror image of what is cut. */
export const isMirrored = ({ xRuns, yRuns }: Pick<FileFrame, 'xRuns' | 'yRuns'>): boolean =>
  WAYS[xRuns].x * WAYS[yRuns].y - WAYS[xRuns].y * WAYS[yRuns].x < 0;

/** The map of an attitude with the file's zero at a place of the sheet: file, mm → sheet, mm. */
export const laidAt = ({ xRuns, yRuns }: Pick<FileFrame, 'xRuns' | 'yRuns'>, zero: Point): Affine => ({
  a11: WAYS[xRuns].x,
  a12: WAYS[yRuns].x,
  a21: WAYS[xRuns].y,
  a22: WAYS[yRuns].y,
  tx: zero.x,
  ty: zero.y,
});

/** What has to be known of a setup to say where its files lie. */
export interface Laid extends SheetSize {
  readonly marks: MarkKit | null;
}

/** Where the zero of a described frame lies on the sheet, mm; null when it is a mark and none is read. */
export function zeroOn(zero: FileZero, { marks, ...sheet }: Laid): Point | null {
  switch (zero.at) {
    case 'corner':
      return cornerOf(zero.corner, sheet);
    case 'mark':
      return marks === null ? null : (markPlaces(marks, sheet)[0]?.centre ?? null);
    case 'middle':
      return { x: sheet.sheetWidthMm / 2, y: sheet.sheetHeightMm / 2 };
    case 'typed':
      return { x: zero.xMm, y: zero.yMm };
    default:
      return zero satisfies never;
  }
}

function cornerOf(corner: Corner, sheet: SheetSize): Point {
  const index = CORNERS.indexOf(corner);
  return { x: index % 2 === 0 ? 0 : sheet.sheetWidthMm, y: index < 2 ? 0 : sheet.sheetHeightMm };
}

/** File, mm → sheet, mm, as a rig's description says; null when its zero is a mark and the setup reads none. */
export function frameMap(frame: FileFrame, laid: Laid): Affine | null {
  const zero = zeroOn(frame.zero, laid);
  return zero && laidAt(frame, zero);
}
