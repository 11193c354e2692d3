import { fUpper } from '../statistics';

import type { ModelFit, NoiseUsed } from './types';

/** The given u, or the residual scatter when that is larger (maths.md, Fitting). */
export function noiseUsed(chi2: number, dof: number): NoiseUsed {
  const factor = dof > 0 ? Math.sqrt(chi2 / dof) : 1;
  return factor > 1 ? { kind: 'residual-scatter', factor } : { kind: 'given-u', factor: 1 };
}

/** Degrees of freedom for intervals: Student's when the scatter was used, the normal's when u was given. */
export const intervalDof = (noise: NoiseUsed, dof: number): number =>
  noise.kind === 'residual-scatter' ? dof : Infinity;

/** Squared residuals of earlier sheets over their given variances: how far u told the scatter of who reads here. */
export interface EyeOnRecord {
  readonly chi2: number;
  readonly dof: number;
}

/** Degrees of freedom of the record from which it is asked. */
const LEAST_ON_RECORD = 6;
/** A sheet that scatters more than its record does once in so many is judged by itself. */
const CONTRADICTS = 0.01;

/**
 * The noise of one sheet, told by the sheets before it too: few stations say little about the eye that read them, a shop's
 * log says it well. A sheet that scatters far more than its record (F test) keeps its own figure.
 *
 * Method   pooled variance of the residuals over their given variances; never below the given u.
 */
export function noiseWithRecord({ chi2, dof, noise }: ModelFit, record: EyeOnRecord): NoiseUsed {
  if (record.dof < LEAST_ON_RECORD) return noise;
  const ratio = chi2 / dof / (record.chi2 / record.dof);
  if (dof > 0 && fUpper(ratio, dof, record.dof) < CONTRADICTS) return noise;
  return noiseUsed(chi2 + record.chi2, dof + record.dof);
}
