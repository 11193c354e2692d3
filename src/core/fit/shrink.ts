import { Matrix, inverse } from 'ml-matrix';

import type { AffineField, FieldEstimate } from './types';

export interface ShrunkFit {
  /** What is corrected with. */
  readonly field: AffineField;
  /** Share of the linear terms kept, 0 to 1. */
  readonly kept: number;
  /** Wald statistic of the linear terms; null when there are none. */
  readonly wald: number | null;
}

/** How many free linear terms each model has; a shift has none. */
const LINEAR_TERMS = { shift: 0, rigid: 1, similarity: 2, affine: 4, projective: 4 } as const;

/**
 * The affine fit with its linear terms shrunk together towards “true”, by max(0, 1 − (p − 2)/W).
 *
 * For the affine p = 4, so the factor is max(0, 1 − 2/W). Source: positive-part James–Stein
 * (James & Stein 1961; Baranchik 1970; from memory). Fewer than three linear terms are not shrunk.
 * The shift at the work-area centre is kept as fitted.
 */
export function shrinkForCorrection(fit: FieldEstimate): ShrunkFit {
  // What was not looked at has no doubt of its own: it is nought and stays so.
  const looked = [0, 1, 2, 3].filter((i) => fit.covarianceKnownU[i]![i]! > 0).length;
  const terms = Math.min(LINEAR_TERMS[fit.model], looked);
  if (terms < 3) return { field: fit.field, kept: 1, wald: null };
  const { b11, b12, b21, b22 } = fit.field;
  const beta = Matrix.columnVector([b11, b12, b21, b22]);
  const covariance = new Matrix(fit.covarianceKnownU.slice(0, 4).map((row) => row.slice(0, 4)));
  const wald = beta.transpose().mmul(inverse(covariance)).mmul(beta).get(0, 0) / fit.noise.factor ** 2;
  const kept = wald > 0 ? Math.max(0, 1 - (terms - 2) / wald) : 0;
  return {
    field: { ...fit.field, b11: b11 * kept, b12: b12 * kept, b21: b21 * kept, b22: b22 * kept },
    kept,
    wald,
  };
}
