import { Matrix, SingularValueDecomposition } from 'ml-matrix';

import { RANK_RATIO } from '../tolerance';
import { accept, refuse, type Outcome } from '../outcome';

export interface LeastSquares {
  readonly coefficients: readonly number[];
  /** (XᵀX)⁻¹ of the rows as given, k × k. */
  readonly inverseGram: Matrix;
  /** value − fitted, one a row. */
  readonly residuals: readonly number[];
  /** Diagonal of the hat matrix. */
  readonly leverages: readonly number[];
  /** Smallest and largest singular value of the column-scaled design. */
  readonly singular: readonly [least: number, most: number];
  /** The one over the other. */
  readonly rankRatio: number;
}

export type LeastSquaresRefusal =
  | { readonly code: 'too-few-rows'; readonly required: number; readonly received: number }
  | { readonly code: 'rank-deficient'; readonly rankRatio: number };

/**
 * Minimises ‖y − Xβ‖² for rows already divided by their uncertainty.
 *
 * Shapes   `design` n × k row by row, `values` n.
 * Method   columns scaled to unit length, QR of [X y] by Givens rotations a row at a time, so that Q is never formed;
 *          rank from the singular values of R; Golub & Van Loan, Matrix Computations, 4th ed., 5.1.8 and 5.3.
 *          Never the normal equations.
 * Refuses  too-few-rows (n < k), rank-deficient (ratio below RANK_RATIO).
 */
export function leastSquares(
  design: readonly (readonly number[])[],
  values: readonly number[],
): Outcome<LeastSquares, LeastSquaresRefusal> {
  const n = design.length;
  const k = design[0]?.length ?? 0;
  if (n < Math.max(1, k)) return refuse({ code: 'too-few-rows', required: k, received: n });
  const norms = columnNorms(design, k);
  if (norms.some((norm) => !(norm > 0))) return refuse({ code: 'rank-deficient', rankRatio: 0 });

  const augmented = triangle(design, values, norms);
  const r = augmented.subMatrix(0, k - 1, 0, k - 1);
  const singularValues = new SingularValueDecomposition(r).diagonal;
  const singular = [Math.min(...singularValues), Math.max(...singularValues)] as const;
  const rankRatio = singular[0] / singular[1];
  if (!(rankRatio >= RANK_RATIO)) return refuse({ code: 'rank-deficient', rankRatio });

  const scaled = backSubstitute(
    r,
    norms.map((_, j) => augmented.get(j, k)),
  );
  const coefficients = scaled.map((c, j) => c / norms[j]!);
  const inverseR = invertUpper(r);
  const inverseGram = inverseR.mmul(inverseR.transpose());
  for (let i = 0; i < k; i += 1)
    for (let j = 0; j < k; j += 1) inverseGram.set(i, j, inverseGram.get(i, j) / (norms[i]! * norms[j]!));

  // A row's leverage is the squared length of x·R⁻¹.
  const whitening = Float64Array.from({ length: k * k }, (_, i) => {
    const row = Math.floor(i / k);
    return inverseR.get(row, i % k) / norms[row]!;
  });
  const leverages: number[] = new Array(n);
  const residuals: number[] = new Array(n);
  for (let i = 0; i < n; i += 1) {
    const row = design[i]!;
    let leverage = 0;
    let fitted = 0;
    for (let j = 0; j < k; j += 1) {
      fitted += row[j]! * coefficients[j]!;
      let q = 0;
      for (let l = 0; l <= j; l += 1) q += row[l]! * whitening[l * k + j]!;
      leverage += q * q;
    }
    leverages[i] = leverage;
    residuals[i] = values[i]! - fitted;
  }
  return accept({ coefficients, inverseGram, residuals, leverages, singular, rankRatio });
}

function columnNorms(design: readonly (readonly number[])[], k: number): number[] {
  const largest = new Array<number>(k).fill(0);
  for (const row of design)
    for (let j = 0; j < k; j += 1) largest[j] = Math.max(largest[j]!, Math.abs(row[j]!));
  // Divided by the largest first, so that squares neither overflow nor vanish.
  const sums = new Array<number>(k).fill(0);
  for (const row of design)
    for (let j = 0; j < k; j += 1) if (largest[j]! > 0) sums[j]! += (row[j]! / largest[j]!) ** 2;
  return sums.map((sum, j) => largest[j]! * Math.sqrt(sum));
}

/** The triangle of [X/norms y], row by row: each is turned into what the earlier ones left (Givens). */
function triangle(
  design: readonly (readonly number[])[],
  values: readonly number[],
  norms: readonly number[],
): Matrix {
  const k = norms.length;
  const width = k + 1;
  const top = new Float64Array(width * width);
  const row = new Float64Array(width);
  for (let i = 0; i < design.length; i += 1) {
    for (let j = 0; j < k; j += 1) row[j] = design[i]![j]! / norms[j]!;
    row[k] = values[i]!;
    for (let j = 0; j < width; j += 1) {
      const below = row[j]!;
      if (below === 0) continue;
      const above = top[j * width + j]!;
      const length = Math.sqrt(above * above + below * below);
      const cos = above / length;
      const sin = below / length;
      for (let l = j; l < width; l += 1) {
        const t = top[j * width + l]!;
        const r = row[l]!;
        top[j * width + l] = cos * t + sin * r;
        row[l] = cos * r - sin * t;
      }
    }
  }
  return Matrix.from1DArray(width, width, top);
}

function backSubstitute(r: Matrix, right: readonly number[]): number[] {
  const k = right.length;
  const solution = new Array<number>(k).fill(0);
  for (let i = k - 1; i >= 0; i -= 1) {
    let sum = right[i]!;
    for (let j = i + 1; j < k; j += 1) sum -= r.get(i, j) * solution[j]!;
    solution[i] = sum / r.get(i, i);
  }
  return solution;
}

function invertUpper(r: Matrix): Matrix {
  const k = r.columns;
  const inverse = Matrix.zeros(k, k);
  for (let j = 0; j < k; j += 1) {
    const unit = Array.from({ length: k }, (_, i) => Number(i === j));
    backSubstitute(r, unit).forEach((value, i) => inverse.set(i, j, value));
  }
  return inverse;
}

/**
 * The same where no row has to do with both halves of the columns: two problems of half the width, a quarter of the work.
 *
 * Shapes   `first[i]` says which half row i belongs to; the rows hold their own half's columns only. Coefficients and
 *          inverse Gram: first half, second half.
 * Refuses  as `leastSquares`, for either half or for both together.
 */
export function leastSquaresApart(
  design: readonly (readonly number[])[],
  values: readonly number[],
  first: readonly boolean[],
): Outcome<LeastSquares, LeastSquaresRefusal> {
  const halves: LeastSquares[] = [];
  for (const half of [true, false]) {
    const solved = leastSquares(
      design.filter((_, i) => first[i] === half),
      values.filter((_, i) => first[i] === half),
    );
    if (!solved.ok) return solved;
    halves.push(solved.value);
  }
  const [a, b] = halves as [LeastSquares, LeastSquares];
  const singular = [Math.min(a.singular[0], b.singular[0]), Math.max(a.singular[1], b.singular[1])] as const;
  const rankRatio = singular[0] / singular[1];
  if (!(rankRatio >= RANK_RATIO)) return refuse({ code: 'rank-deficient', rankRatio });
  const k = a.coefficients.length;
  const inverseGram = Matrix.zeros(k + b.coefficients.length, k + b.coefficients.length);
  inverseGram.setSubMatrix(a.inverseGram, 0, 0).setSubMatrix(b.inverseGram, k, k);
  const next = { a: 0, b: 0 };
  const order = first.map((isFirst) => (isFirst ? { of: a, at: next.a++ } : { of: b, at: next.b++ }));
  return accept({
    coefficients: [...a.coefficients, ...b.coefficients],
    inverseGram,
    residuals: order.map(({ of, at }) => of.residuals[at]!),
    leverages: order.map(({ of, at }) => of.leverages[at]!),
    singular,
    rankRatio,
  });
}
