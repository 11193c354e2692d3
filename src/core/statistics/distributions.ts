import chisquareCdf from '@stdlib/stats-base-dists-chisquare-cdf';
import fCdf from '@stdlib/stats-base-dists-f-cdf';
import normalCdfOf from '@stdlib/stats-base-dists-normal-cdf';
import normalQuantileOf from '@stdlib/stats-base-dists-normal-quantile';
import studentCdf from '@stdlib/stats-base-dists-t-cdf';
import studentQuantile from '@stdlib/stats-base-dists-t-quantile';

/** P(Z ≤ z) for a standard normal Z. */
export const normalCdf = (z: number): number => normalCdfOf(z, 0, 1);

export const normalQuantile = (p: number): number => normalQuantileOf(p, 0, 1);

/** P(X ≥ chi2) with `dof` degrees of freedom; 1 when there are none. */
export const chiSquareUpper = (chi2: number, dof: number): number =>
  dof > 0 ? 1 - chisquareCdf(chi2, dof) : 1;

/** P(F ≥ f). */
export const fUpper = (f: number, dof1: number, dof2: number): number => 1 - fCdf(f, dof1, dof2);

/** P(|T| ≥ |t|). */
export const studentTwoSided = (t: number, dof: number): number => 2 * studentCdf(-Math.abs(t), dof);

/** The factor that turns a standard error into a two-sided interval; dof = Infinity gives the normal's. */
export const coverageFactor = (level: number, dof: number): number =>
  Number.isFinite(dof) ? studentQuantile((1 + level) / 2, dof) : normalQuantile((1 + level) / 2);

/**
 * The radius, in standard deviations an axis, that holds a share of the plane when the deviation (the same on both axes) was
 * estimated with `dof` degrees of freedom: radius²/2 follows F(2, dof), whose upper tail is (1 + 2F/dof)^(−dof/2).
 * dof = Infinity gives Rayleigh's √(−2 ln(1 − level)).
 */
export const radialFactor = (level: number, dof: number): number =>
  Number.isFinite(dof)
    ? Math.sqrt(dof * Math.expm1((-2 / dof) * Math.log(1 - level)))
    : Math.sqrt(-2 * Math.log(1 - level));
