import type { LeftUncut } from '..';
import type { Point, Rect } from '../../geometry';
import type { Note } from '../notes';
import type { CutFormat } from '../formats';
import type { FormatRefusal } from '../registry';

export type FileRefusal =
  | FormatRefusal
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
  /** What is drawn in the file but is no cut line, by layer and reason. */
  readonly leftUncut: readonly LeftUncut[];
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
