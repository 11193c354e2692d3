import type { ClosedPath } from '../artwork/offset';
import type { Affine, Point, Rect } from '../geometry';
import type { NestedSheets } from '../layout/nest';
import type { MarkKit } from '../marks';

/** What is done to a line; each kind has a layer of its own in SVG and DXF and a pen of its own in HPGL. */
export const LINE_KINDS = ['cut-through', 'kiss-cut', 'score', 'perforate', 'pen'] as const;
export type LineKind = (typeof LINE_KINDS)[number];
/** A piece of artwork: what is printed of it and where it is cut, mm about the picture's lower-left corner. */
export interface JobPiece {
  readonly id: string;
  /** The picture as it is printed: its size, and its lower-left corner (beyond the first picture's where it was bled). */
  readonly picture: { readonly widthMm: number; readonly heightMm: number; readonly at: Point };
  /** What there is to see of it: outer lines of the ink, for how much room it takes. */
  readonly ink: readonly (readonly Point[])[];
  readonly lines: readonly ClosedPath[];
  readonly bleedMm: number;
  /** What is done to its outline and its holes. */
  readonly kind: LineKind;
  /** A line round all of it, so far outside: cut through beside a kiss cut, or torn off along a perforation. */
  readonly second?:
    { readonly byMm: number; readonly kind: LineKind; readonly lines: readonly ClosedPath[] } | undefined;
  /** Null: fill the sheet; 0: left out. */
  readonly copies: number | null;
}

/** A piece that was put elsewhere by hand, from where the rule put it. */
export interface Nudge {
  /** From 0, as its place in the sheet's list. */
  readonly sheet: number;
  readonly index: number;
  readonly dxMm: number;
  readonly dyMm: number;
}

/** How pieces are laid out. */
export interface JobLayout {
  readonly gapMm: number;
  readonly centre: boolean;
  readonly mayTurn: boolean;
  /** A station of the proof sheet in the waste of each sheet, where there is room for it; nothing: none. */
  readonly witness?: boolean | undefined;
  /** What was put elsewhere; laid out anew, nothing is. */
  readonly nudged?: readonly Nudge[] | undefined;
  /** True shapes nested, sheet by sheet, instead of their rectangles; laid out anew, they are not. */
  readonly nested?: NestedSheets | undefined;
}

/** A layout as the rule alone has it. */
export const byRule = ({ gapMm, centre, mayTurn, witness }: JobLayout): JobLayout => ({
  ...{ gapMm, centre, mayTurn, witness },
  nudged: [],
});

/** The sheet as its setup has it. */
export interface JobSheet {
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
  /** What may be printed and cut. */
  readonly area: Rect;
  readonly marks: MarkKit | null;
}

export interface PlacedPiece {
  readonly piece: string;
  /** From the piece's frame to the sheet. */
  readonly map: Affine;
  /** Where it lies, bleed and all. */
  readonly box: Rect;
}

/** The geometry of a job: what is frozen when it is printed. */
export interface JobGeometry {
  readonly version: string;
  readonly sheet: JobSheet;
  readonly layout: JobLayout;
  readonly pieces: readonly JobPiece[];
  readonly sheets: readonly (readonly PlacedPiece[])[];
  /** Where number and code of the job stand. */
  readonly label: Rect;
  /** The middle of each sheet's witness; null where it has no room. */
  readonly witness?: readonly (Point | null)[] | undefined;
}
