import { normalCdf } from '../statistics';

/** One sight of an offset: it lies in (lo, hi), seen with an eye of acuity σ; mm. */
export interface PickedInterval {
  readonly loMm: number;
  readonly hiMm: number;
  readonly acuityMm: number;
}

export interface IntervalEstimate {
  readonly meanMm: number;
  readonly sdMm: number;
  readonly lo95Mm: number;
  readonly hi95Mm: number;
}

const GRID = 2001;
const REACH = 6;

/** Likelihood of a pick at offset d: Φ((hi − d)/σ) − Φ((lo − d)/σ) (maths.md). */
export const pickLikelihood = (pick: PickedInterval, offsetMm: number): number =>
  normalCdf((pick.hiMm - offsetMm) / pick.acuityMm) - normalCdf((pick.loMm - offsetMm) / pick.acuityMm);

/**
 * What a few picks of the same offset say, with a flat prior: for intervals from one or two readings,
 * where least squares would pretend that rounding is normal. Null when the picks contradict each other.
 *
 * Method   product of pick likelihoods on a grid of 2001 places over the picks' reach.
 * Example  one pick, δ = 0.1, σ → 0: uniform, sd 0.1/√12 = 0.0289.
 */
export function intervalEstimate(picks: readonly PickedInterval[]): IntervalEstimate | null {
  const from = Math.max(...picks.map((p) => p.loMm - REACH * p.acuityMm));
  const to = Math.min(...picks.map((p) => p.hiMm + REACH * p.acuityMm));
  if (picks.length === 0 || !(to > from)) return null;
  const places = Array.from({ length: GRID }, (_, i) => from + ((to - from) * (i + 0.5)) / GRID);
  const weights = places.map((d) => picks.reduce((product, p) => product * pickLikelihood(p, d), 1));
  const total = weights.reduce((sum, w) => sum + w, 0);
  if (!(total > 0)) return null;
  const meanMm = places.reduce((sum, d, i) => sum + d * weights[i]!, 0) / total;
  const variance = places.reduce((sum, d, i) => sum + (d - meanMm) ** 2 * weights[i]!, 0) / total;
  return {
    meanMm,
    sdMm: Math.sqrt(variance),
    lo95Mm: quantile(places, weights, 0.025 * total),
    hi95Mm: quantile(places, weights, 0.975 * total),
  };
}

function quantile(places: readonly number[], weights: readonly number[], target: number): number {
  let sum = 0;
  for (let i = 0; i < places.length; i += 1) {
    sum += weights[i]!;
    if (sum >= target) return places[i]!;
  }
  return places.at(-1)!;
}
