import type { Point } from '../geometry';

/** Shapes that cutters' sensors look for. */
export const MARK_SHAPES = ['disc', 'ring', 'cross', 'bracket', 'square', 'bar'] as const;
export type MarkShape = (typeof MARK_SHAPES)[number];

export const CORNERS = ['near left', 'near right', 'far left', 'far right'] as const;
export type Corner = (typeof CORNERS)[number];

/** How the leading mark is told from the others. */
export const LEAD_SIGNS = ['larger', 'doubled', 'underlined', 'none'] as const;
export type LeadSign = (typeof LEAD_SIGNS)[number];

/** Who puts the marks on the sheet: we, the machine’s own driver, or the program that prints. */
export const LAID_BY = ['us', 'machine', 'program'] as const;
export type LaidBy = (typeof LAID_BY)[number];

export const SIDES = ['left', 'right', 'near', 'far'] as const;
export type Side = (typeof SIDES)[number];

/** The registration marks that a rig's cutter reads. Lengths in mm; insets run from the sheet's edge to the mark's centre. */
export interface MarkKit {
  readonly count: 1 | 2 | 3 | 4;
  readonly shape: MarkShape;
  readonly sizeMm: number;
  readonly lineMm: number;
  /** `#rrggbb`. */
  readonly colour: string;
  readonly insetLeftMm: number;
  readonly insetRightMm: number;
  readonly insetNearMm: number;
  readonly insetFarMm: number;
  /** Marks that look otherwise than `shape`, by corner. */
  readonly shapes?: Partial<Readonly<Record<Corner, MarkShape>>> | undefined;
  /** Nothing else may be printed this close to a mark's outline. */
  readonly clearMm: number;
  /** Sides on which more or less has to be clear than `clearMm`. */
  readonly clearSidesMm?: Partial<Readonly<Record<Side, number>>> | undefined;
  /** One closed line through the four corners instead of marks at them. */
  readonly frame?: boolean | undefined;
  /** Theirs are not printed by us; their zones are kept free all the same. */
  readonly laidBy?: LaidBy | undefined;
  readonly leading: Corner;
  readonly leadSign: LeadSign;
  /** Further marks along both sides at most this far apart; null for none. Four marks only. */
  readonly everyMm: number | null;
  /** The printer leaves this much unprinted at every edge. */
  readonly printerEdgeMm: number;
  /** Nearer than this the sensor may take the sheet's edge for a mark. */
  readonly sensorEdgeMm: number;
}

export interface MarkPlace {
  readonly name: string;
  readonly centre: Point;
  readonly leading: boolean;
  /** Towards the sheet's middle: which way brackets open and second discs stand. */
  readonly inward: Point;
}
