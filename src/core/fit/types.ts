import type { Affine, Homography, Point } from '../geometry';
import type { OffsetAxis } from '../units';

/** One offset read on one axis at one place. Positions and offsets in mm; `uMm` is a standard uncertainty. */
export interface Observation {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly xMm: number;
  readonly yMm: number;
  /** Where the cut landed minus where the print is: + is right (across) or further along (along). */
  readonly offsetMm: number;
  readonly uMm: number;
}

/** The ladder, simplest first. */
export const MODELS = ['shift', 'rigid', 'similarity', 'affine', 'projective'] as const;

export type ModelName = (typeof MODELS)[number];

/** Affine with a bow, quadratic along the feed: of long pieces only, and only when asked for. */
export const ROLL_MODEL = 'roll';
export type FittedModel = ModelName | typeof ROLL_MODEL;

export const PARAMETER_COUNT: Readonly<Record<FittedModel, number>> = {
  shift: 2,
  rigid: 3,
  similarity: 4,
  affine: 6,
  projective: 8,
  roll: 8,
};

/** The six terms people reason in. Scales are factors (1 is true); angles in radians. */
export interface Terms {
  readonly shiftXMm: number;
  readonly shiftYMm: number;
  readonly turnRad: number;
  readonly scaleAcross: number;
  readonly scaleAlong: number;
  readonly leanRad: number;
}

export type TermName = keyof Terms;

export const TERM_NAMES = [
  'shiftXMm',
  'shiftYMm',
  'turnRad',
  'scaleAcross',
  'scaleAlong',
  'leanRad',
] as const satisfies readonly TermName[];

/**
 * d(p) = B·(p − origin) + e, with the covariance of (b11, b12, b21, b22, ex, ey).
 * Units: B dimensionless, e mm, covariance accordingly.
 */
export interface AffineField {
  readonly origin: Point;
  readonly b11: number;
  readonly b12: number;
  readonly b21: number;
  readonly b22: number;
  readonly exMm: number;
  readonly eyMm: number;
}

/** Which noise the intervals rest on. */
export type NoiseUsed =
  | { readonly kind: 'given-u'; readonly factor: 1 }
  | { readonly kind: 'residual-scatter'; readonly factor: number };

export interface ObservationDiagnostics {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly residualMm: number;
  readonly leverage: number;
  /** Externally studentised; null where nothing is left to judge it by. */
  readonly studentised: number | null;
}

export interface ModelFit<M extends FittedModel = ModelName> {
  readonly status: 'ok';
  readonly model: M;
  readonly k: number;
  readonly dof: number;
  /** By name: shift tx, ty; rigid theta, tx, ty; similarity a, b, tx, ty; affine a11 … ty; projective h11 … h32; roll a11 … ty, bowX, bowY (mm per mm²). */
  readonly params: Readonly<Record<string, number>>;
  readonly seKnownU: Readonly<Record<string, number>>;
  readonly seScaled: Readonly<Record<string, number>>;
  /** T: where a cut commanded at p lands. Of the projective and the roll model: its tangent at the work-area centre. */
  readonly transform: Affine;
  /** The whole T of the projective model; null for the others, whose transform says it all. */
  readonly homography: Homography | null;
  /** d about the work-area centre. */
  readonly field: AffineField;
  /** 6 × 6, of the field's coefficients, from the given u. */
  readonly covarianceKnownU: readonly (readonly number[])[];
  readonly noise: NoiseUsed;
  readonly terms: Terms;
  /** Standard errors with the noise that was used. */
  readonly termSe: Terms;
  readonly chi2: number;
  readonly chi2P: number;
  readonly rmsComponentMm: number;
  readonly rmsRadialMm: number;
  readonly maxRadialMm: number;
  /** χ² + 2k: exact penalty when u is known. */
  readonly aicKnownU: number;
  /** n·ln(χ²/n) + 2K + small-sample term, K = k + 1; null with too few readings. */
  readonly aiccUnknownSigma: number | null;
  readonly rankRatio: number;
  readonly observations: readonly ObservationDiagnostics[];
}

/** Of a fit, what a correction is made from. */
export type FieldEstimate = Pick<ModelFit, 'model' | 'field' | 'covarianceKnownU' | 'noise'>;

export type FitRefusal =
  | { readonly code: 'no-uncertainty'; readonly stationId: string }
  | { readonly code: 'not-finite'; readonly stationId: string }
  | { readonly code: 'too-few-readings'; readonly required: number; readonly received: number }
  | { readonly code: 'one-axis-only'; readonly missing: OffsetAxis }
  | { readonly code: 'coincident-stations' }
  | { readonly code: 'single-row' }
  | { readonly code: 'single-column' }
  | { readonly code: 'collinear-stations' }
  | { readonly code: 'not-determined'; readonly rankRatio: number }
  | { readonly code: 'folded'; readonly determinant: number };

export interface RefusedFit<M extends FittedModel = ModelName> {
  readonly status: 'refused';
  readonly model: M;
  readonly reason: FitRefusal['code'];
  readonly message: string;
}

export type ModelOutcome<M extends FittedModel = ModelName> = ModelFit<M> | RefusedFit<M>;

export interface NestedF {
  readonly small: FittedModel;
  readonly big: FittedModel;
  readonly df1: number;
  readonly df2: number;
  readonly F: number;
  readonly p: number;
}

export interface LadderFit {
  readonly version: string;
  readonly workAreaCentre: Point;
  /** Lowest AIC: it is what is explained. Null when nothing could be fitted. */
  readonly recommended: ModelName | null;
  /** The widest model up to affine that the readings determine: it is what is corrected with. */
  readonly widest: ModelName | null;
  readonly models: Readonly<Record<ModelName, ModelOutcome>>;
  readonly nestedF: readonly NestedF[];
  readonly suspects: readonly SuspectReading[];
}

export interface SuspectReading {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly studentised: number;
  readonly limit: number;
}
