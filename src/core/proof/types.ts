import type { Affine, Point, Rect } from '../geometry';
import type { MarkKit } from '../marks';
import type { LineComb } from '../comb';
import type { LengthUnit } from '../units';

import type { GapShape } from './gapShape';
import type { RingChoice, RingRowDrawn } from './rings';

/**
 * How a sheet is mostly read: what its page opens with. Any other way is still there, but on a short sheet: that has one
 * station a set and is read by two picks.
 */
export const READ_BY = ['short', 'comb', 'rings', 'gaps', 'lengths', 'table'] as const;
export type ReadBy = (typeof READ_BY)[number];

/** What a proof sheet is asked to be. Lengths in mm. */
export interface ProofSpec {
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
  readonly workArea: Rect;
  /** The rig's own registration marks, printed on the sheet and kept clear of; null for a rig without. */
  readonly marks: MarkKit | null;
  readonly columns: number;
  readonly rows: number;
  /** A second set of stations, kept for the confirming cut on the same sheet. */
  readonly secondSet: boolean;
  /** Unit of the printed labels; the comb step is a round figure in it. */
  readonly unit: LengthUnit;
  /** δ of the combs: 0.05, 0.1 or 0.2 mm; 0.002, 0.004 or 0.008 in. */
  readonly stepMm: number;
  /** Rows of rings beside the combs, for reading by the even border; nothing: none. */
  readonly rings?: RingChoice | null | undefined;
  /** Every other station is cut from the other side, so that backlash is told from shift; nothing: all one way. */
  readonly bothWays?: boolean | undefined;
  /** How it is mostly read; nothing: by the combs. */
  readonly readBy?: ReadBy | undefined;
  /** Start of the phase sequence, so that sheets differ from each other. */
  readonly seed: number;
}

export interface CheckBars {
  readonly across: number;
  readonly along: number;
}

export type StationSet = 1 | 2;

export interface Station {
  /** `A1` … for the first set, `B1` … for the confirming set. */
  readonly id: string;
  readonly set: StationSet;
  /** Centre of the disc, sheet frame. */
  readonly centre: Point;
  readonly across: LineComb;
  readonly along: LineComb;
  /** Centre of the coarse cross scale. */
  readonly scaleCentre: Point;
  /** Whether its combs are cut from the right and the far side, or from the left and the near side; nothing on a sheet that is cut one way. */
  readonly fromHigh?: boolean | undefined;
  /** How wide the printed ring about its cut ring is, mm: unbroken, it says that the comb’s own length holds. Nothing: a disc. */
  readonly bandMm?: number | undefined;
  /** Its shape for reading by gaps, where the sheet is read so. */
  readonly gapShape?: GapShape | undefined;
  /** Its rows of rings, where the sheet has them. */
  readonly rings?: readonly RingRowDrawn[] | undefined;
}

/** A frozen sheet: everything that later readings need, independent of later versions of the generator. */
export interface ProofSheet {
  readonly version: string;
  readonly spec: ProofSpec;
  /** The work area less what the marks need: everything of ours lies in it. */
  readonly layoutArea: Rect;
  readonly stations: readonly Station[];
  /** How long its check bars are, mm: a round figure in its unit; nothing on sheets of before this was kept. */
  readonly bars?: CheckBars | undefined;
  /** The label of the job in whose waste it was printed; nothing for a sheet of its own. */
  readonly printedOn?: string | undefined;
  /** How its cut files lie: file → sheet, frozen with it; null or nothing: as the sheet itself. */
  readonly fileMap?: Affine | null | undefined;
}

export type ProofRefusal =
  | { readonly code: 'area-outside-sheet' }
  | { readonly code: 'area-too-small'; readonly needsWidthMm: number; readonly needsHeightMm: number }
  | { readonly code: 'too-many-stations'; readonly columnsAtMost: number; readonly rowsAtMost: number };
