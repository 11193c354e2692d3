/** What the others leave, relative to all: less is rounding. */
const NO_REST = 1e-12;

/** A reading whose leverage leaves less is fitted by itself. */
const NO_FREEDOM = 1e-9;
/**
 * Externally studentised residuals: each judged by the scatter of all the others.
 *
 * Shapes   weighted residuals and leverages, one a row; `rss` their sum of squares, `dof` = n − k.
 * Source   Belsley, Kuh & Welsch 1980, 2.1; the same as R's `rstudent`.
 * Null     where nothing is left to judge by: leverage 1, a perfect fit, or fewer than two degrees of freedom.
 */
export function externallyStudentised(
  weighted: readonly number[],
  leverages: readonly number[],
  rss: number,
  dof: number,
): (number | null)[] {
  return weighted.map((residual, i) => {
    const free = 1 - leverages[i]!;
    const others = rss - (free > 0 ? residual ** 2 / free : 0);
    const judged = dof > 1 && free > NO_FREEDOM && others > NO_REST * Math.max(1, rss);
    return judged ? residual / Math.sqrt((others / (dof - 1)) * free) : null;
  });
}
