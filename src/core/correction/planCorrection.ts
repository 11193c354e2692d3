import { applyAffine, invertAffine, rectCentre, rectLattice, type Affine, type Rect } from '../geometry';
import {
  addFields,
  decompose,
  fieldToTransform,
  shrinkForCorrection,
  zeroField,
  type AffineField,
  type FieldEstimate,
} from '../fit';

import {
  bleedNeeded,
  NEXT_LOADS,
  NEXT_LOADS_BY_LOG,
  TOLD_BY_ONE_LOAD,
  misregistrationAt,
  worstR95,
  type LoadScatter,
  type RigPrediction,
  type ScatterShares,
  type WorstPlace,
} from './prediction';
import type { MachineSetting } from './setting';
import { meanSquareMm2, solveSettings, type SettingsSolution } from './solveSettings';

export const CORRECTION_VERSION = 'correction-7';

export interface CorrectionPlan {
  readonly version: string;
  /** Change something, or leave it alone because what was found is no larger than its own doubt. */
  readonly decision: 'correct' | 'leave';
  /** Best estimate of the misregistration, shrunk: what is corrected. */
  readonly field: AffineField;
  /** Share of the linear terms that the shrinkage kept; 1 where the log took its place. */
  readonly kept: number;
  readonly meanSquareMm2: number;
  /** Estimation variance over the area, the scatter of the load that told it included, mm². */
  readonly estimationVarianceMm2: number;
  readonly settings: SettingsSolution;
  /** T of what is left after typing: the file takes its inverse. */
  readonly restTransform: Affine;
  /** T of everything, for when the file alone is used. */
  readonly wholeTransform: Affine;
  /** Whether the rest is worth a corrected file: its largest displacement exceeds the reading noise. */
  readonly restWorthwhile: boolean;
  /** How much bleed hides what is there now, for who cannot or will not correct it. */
  readonly bleed: ReturnType<typeof bleedNeeded>;
  /** 6 × 6 about the work-area centre, noise factor included; and the scatter of loads: for maps of the prediction. */
  readonly covariance: readonly (readonly number[])[];
  /** The same with the doubt of what the typed settings do. */
  readonly covarianceTyped: readonly (readonly number[])[];
  readonly load: LoadScatter;
  /** How often that scatter counts for loads to come: once where the log told what is corrected. */
  readonly shares: ScatterShares;
  readonly before: WorstPlace;
  readonly afterSettings: WorstPlace;
  readonly afterBoth: WorstPlace;
  /** When nothing is typed and the file carries it all. */
  readonly afterFile: WorstPlace;
}

/** Leave it alone unless the mean square exceeds this many times its estimation variance (maths.md). */
const LEAVE_ALONE_RATIO = 2;

/** What the log and a load tell together of what is to be corrected. */
export interface ToldByLog {
  readonly field: AffineField;
  /** 6 × 6, the load's scatter in it. */
  readonly covariance: readonly (readonly number[])[];
}

/** Of readings at one place: what they decide there alone. */
export interface Narrow {
  /** Where it is decided and what is typed is chosen by. */
  readonly about: Rect;
  /** What is corrected of what was found; the rest is in the promise, and in no file. */
  readonly corrected: (found: AffineField) => AffineField;
}

/**
 * What to type, what to put into the file, and what to expect then.
 *
 * Corrects with what the log and the load tell together; without a log with the shrunk widest fit, whose intervals come
 * from the unshrunk one. Decides to leave a rig alone
 * whose fitted mean square is within twice its estimation variance: adjusting on noise makes a stable
 * process worse (Deming's funnel, rule 2; from memory).
 */
export function planCorrection(
  fit: FieldEstimate,
  settings: readonly MachineSetting[],
  workArea: Rect,
  load: LoadScatter,
  readingNoiseMm: number,
  byLog: ToldByLog | null = null,
  narrow: Narrow | null = null,
): CorrectionPlan {
  const { field: found, kept } = byLog ? { field: byLog.field, kept: 1 } : shrinkForCorrection(fit);
  const field = withoutTurnOfLoad(found, load);
  const covariance =
    byLog?.covariance ?? fit.covarianceKnownU.map((row) => row.map((v) => v * fit.noise.factor ** 2));
  const shares = byLog ? NEXT_LOADS_BY_LOG : NEXT_LOADS;
  const about = narrow?.about ?? workArea;
  const estimationVarianceMm2 = meanVarianceMm2(
    { bias: field, covariance, load },
    about,
    byLog ? NO_SCATTER : TOLD_BY_ONE_LOAD,
  );
  const solution = solveSettings(field, settings, about, estimationVarianceMm2);
  const covarianceTyped = covariance.map((row, i) =>
    row.map((v, j) => v + solution.effectCovariance[i]![j]!),
  );
  const meanSquare = meanSquareMm2(field, about);
  const decision = meanSquare > LEAVE_ALONE_RATIO * estimationVarianceMm2 ? 'correct' : 'leave';
  const r95 = (bias: AffineField, doubt: RigPrediction['covariance']): WorstPlace =>
    worstR95({ bias, covariance: doubt, load, shares }, workArea);
  const corrected = narrow ? narrow.corrected(field) : field;
  const left = narrow ? addFields(field, corrected, -1) : zeroField(rectCentre(workArea));
  const rest = narrow ? addFields(solution.leftOver, left, -1) : solution.leftOver;
  return {
    version: CORRECTION_VERSION,
    decision,
    field,
    kept,
    meanSquareMm2: meanSquare,
    estimationVarianceMm2,
    settings: solution,
    restTransform: fieldToTransform(rest),
    wholeTransform: fieldToTransform(corrected),
    restWorthwhile: largestMm(rest, about) > readingNoiseMm,
    bleed: bleedNeeded({ bias: field, covariance, load, shares }, workArea),
    covariance,
    covarianceTyped,
    load,
    shares,
    before: r95(field, covariance),
    afterSettings: r95(solution.leftOver, covarianceTyped),
    afterBoth: r95(left, covarianceTyped),
    afterFile: r95(left, covariance),
  };
}

const NO_SCATTER: ScatterShares = { shift: 0, turn: 0 };

/** A turn that comes anew with every load is scatter: it is neither typed nor put into a file (maths.md). */
function withoutTurnOfLoad(found: AffineField, { turnRad, pivot }: LoadScatter): AffineField {
  if (turnRad === 0) return found;
  const { turnRad: turned } = decompose(fieldToTransform(found));
  const turn = { origin: pivot, b11: 0, b12: -1, b21: 1, b22: 0, exMm: 0, eyMm: 0 };
  return addFields(found, turn, -turned);
}

/** K = T⁻¹: command K(p) and the cut lands on p. */
export const correctionMap = (transform: Affine): Affine => invertAffine(transform);

/** Mean over the area of the trace of the covariance of what was found; exact on a 3 × 3 Simpson lattice. */
function meanVarianceMm2(prediction: RigPrediction, workArea: Rect, shares: ScatterShares): number {
  const simpson = [1, 4, 1];
  return rectLattice(workArea, 3, 3).reduce((sum, p, i) => {
    const m = misregistrationAt(prediction, p, shares);
    return sum + (simpson[i % 3]! * simpson[Math.floor(i / 3)]! * (m.varX + m.varY)) / 36;
  }, 0);
}

/** The largest displacement over the area; an affine field has it at a corner. */
export function largestMm(field: AffineField, workArea: Rect): number {
  const transform = fieldToTransform(field);
  return Math.max(
    ...rectLattice(workArea, 2, 2).map((p) => {
      const landed = applyAffine(transform, p);
      return Math.hypot(landed.x - p.x, landed.y - p.y);
    }),
  );
}
