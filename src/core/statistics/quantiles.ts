import chisquareQuantile from '@stdlib/stats-base-dists-chisquare-quantile';
import fQuantileOf from '@stdlib/stats-base-dists-f-quantile';

/* Apart from the other distributions: no page has to fetch them. */

/** The χ² below which a share p of it lies. */
export const chiSquareQuantile = (p: number, dof: number): number => chisquareQuantile(p, dof);

/** The f below which a share p of F lies; `dof2` = Infinity: of χ² over its degrees of freedom. */
export const fQuantile = (p: number, dof1: number, dof2: number): number =>
  Number.isFinite(dof2) ? fQuantileOf(p, dof1, dof2) : chiSquareQuantile(p, dof1) / dof1;
