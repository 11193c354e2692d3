import type { Point, Rect } from '../../geometry';

/* What can be wrong with a pair of print and cut before anything is printed. */

export const FINDING_CODES = [
  'in-clear-zone',
  'outside-printable',
  'outside-cuttable',
  'doubled-line',
  'open-path',
  'crosses-itself',
  'lines-cross',
  'pieces-overlap',
  'outside-line',
  'line-on-blank',
  'print-without-line',
  'island',
  'too-small',
  'too-near',
  'bleed-too-small',
  'border-too-small',
  'page-differs',
  'bitmap-enlarged',
  'line-kind',
  'marks-clipped',
  'marks-hard-to-read',
  'not-this-print',
] as const;
export type FindingCode = (typeof FINDING_CODES)[number];

export interface Finding {
  readonly code: FindingCode;
  /** What spoils the job, or what somebody has to look at. */
  readonly severity: 'stop' | 'look';
  /** Sheet frame, mm; null where it concerns all of it. */
  readonly where: Rect | null;
  readonly message: string;
  /** What mends it. */
  readonly fix?: string;
}

export interface Page {
  readonly widthMm: number;
  readonly heightMm: number;
}

export interface PlacedMark {
  readonly x: number;
  readonly y: number;
  readonly sizeMm: number;
  readonly clearMm: number;
}

/** Where the job is printed and cut, and what it has to hide. */
export interface CheckContext {
  readonly media: Page;
  readonly printable: Rect;
  readonly cuttable: Rect;
  readonly marks: readonly PlacedMark[];
  readonly driverPage: Page | null;
  readonly cutterPage: Page | null;
  /** The misregistration that the rig needs hidden; null where nobody says. */
  readonly neededMm: number | null;
  readonly bleedMm: number | null;
  readonly borderMm: number | null;
  readonly smallestMm: number;
  readonly nearestMm: number;
}

/** A line of the cut file, flattened; sheet frame, mm. */
export interface CheckedLine {
  readonly points: readonly Point[];
  readonly closed: boolean;
  /** What tells lines of one kind from those of another in the file. */
  readonly layer: string;
}

/** What is printed, as far as it could be looked at. */
export interface CheckedPrint {
  /** Null where the file does not tell. */
  readonly page: Page | null;
  /** Ink by pixel, 0 to 255, rows from the far edge; null of files that are not drawn here. */
  readonly ink: { readonly width: number; readonly height: number; readonly values: Uint8Array } | null;
  /** Bitmaps with how many pixels an inch they are printed at. */
  readonly bitmapsDpi: readonly number[];
}
