import { fitModel } from './fitModel';
import type { ModelFit, Observation } from './types';

/** Keeps a residual of nothing from dividing. */
const NO_RESIDUAL_MM = 1e-12;

/** Residuals beyond so many u count less: 95 % efficient where all are honest (Huber 1964; memory). */
const HUBER = 1.345;
const ROUNDS = 30;
const SETTLED = 1e-4;

/**
 * The same model with single wild readings counting less: shown beside the plain fit, never corrected with.
 *
 * Method   iteratively reweighted least squares with Huber's weights on residual/u, u as given.
 * Null     when the weighted readings do not determine the model.
 */
export function robustFit(plain: ModelFit, observations: readonly Observation[]): ModelFit | null {
  let fit = plain;
  let weights = observations.map(() => 1);
  for (let round = 0; round < ROUNDS; round += 1) {
    const next = observations.map((o, i) =>
      Math.min(1, (HUBER * o.uMm) / Math.max(NO_RESIDUAL_MM, Math.abs(fit.observations[i]!.residualMm))),
    );
    const moved = Math.max(...next.map((w, i) => Math.abs(w - weights[i]!)));
    weights = next;
    const outcome = fitModel(
      plain.model,
      observations.map((o, i) => ({ ...o, uMm: o.uMm / Math.sqrt(weights[i]!) })),
      plain.field.origin,
    );
    if (outcome.status !== 'ok') return null;
    fit = outcome;
    if (moved < SETTLED) break;
  }
  return fit;
}
