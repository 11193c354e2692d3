import { Matrix, QrDecomposition, SingularValueDecomposition } from 'ml-matrix';

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
  /** Smallest over largest singular value of the column-scaled design. */
  readonly rankRatio: number;
}

export type LeastSquaresRefusal =
  | { readonly code: 'too-few-rows'; readonly required: number; readonly received: number }
  | { readonly code: 'rank-deficient'; readonly rankRatio: number };

/**
 * Minimises ‖y − Xβ‖² for rows already divided by their uncertainty.
 *
 * Shapes   `design` n × k row by row, `values` n.
 * Method   columns scaled to unit length, Householder QR, rank from the singular values of R;
 *          Golub & Van Loan, Matrix Computations, 4th ed., 5.3. Never the normal equations.
 * Refuses  too-few-rows (n < k), rank-deficient (ratio below RANK_RATIO).
 */
export function leastSquares(
  design: readonly (readonly number[])[],
  values: readonly number[],
): Outcome<LeastSquares, LeastSquaresRefusal> {
  const columns = design[0]?.length ?? 0;
  if (design.length < Math.max(1, columns))
    return refuse({ code: 'too-few-rows', required: columns, received: design.length });
  const x = new Matrix(design as number[][]);
  const norms = Array.from({ length: columns }, (_, j) => Math.hypot(...columnChunks(x, j)));
  if (norms.some((norm) => !(norm > 0))) return refuse({ code: 'rank-deficient', rankRatio: 0 });
  for (let j = 0; j < columns; j += 1) x.mulColumn(j, 1 / norms[j]!);

  const qr = new QrDecomposition(x);
  const r = qr.upperTriangularMatrix;
  const singular = new SingularValueDecomposition(r).diagonal;
  const rankRatio = Math.min(...singular) / Math.max(...singular);
  if (!(rankRatio >= RANK_RATIO)) return refuse({ code: 'rank-deficient', rankRatio });

  const q = qr.orthogonalMatrix;
  const qty = Array.from({ length: columns }, (_, j) => {
    let sum = 0;
    for (let i = 0; i < values.length; i += 1) sum += q.get(i, j) * values[i]!;
    return sum;
  });
  const coefficients = backSubstitute(r, qty).map((c, j) => c / norms[j]!);
  const inverseR = invertUpper(r);
  const inverseGram = inverseR.mmul(inverseR.transpose());
  for (let i = 0; i < columns; i += 1)
    for (let j = 0; j < columns; j += 1)
      inverseGram.set(i, j, inverseGram.get(i, j) / (norms[i]! * norms[j]!));

  const leverages: number[] = new Array(design.length);
  const residuals: number[] = new Array(design.length);
  for (let i = 0; i < design.length; i += 1) {
    const row = design[i]!;
    let leverage = 0;
    let fitted = 0;
    for (let j = 0; j < columns; j += 1) {
      leverage += q.get(i, j) ** 2;
      fitted += row[j]! * coefficients[j]!;
    }
    leverages[i] = leverage;
    residuals[i] = values[i]! - fitted;
  }
  return accept({ coefficients, inverseGram, residuals, leverages, rankRatio });
}

/** Column norms in pieces, since a spread of 20,000 arguments would overflow the stack. */
function columnChunks(x: Matrix, column: number): number[] {
  const chunks: number[] = [];
  for (let from = 0; from < x.rows; from += 1000) {
    let sum = 0;
    for (let i = from; i < Math.min(x.rows, from + 1000); i += 1) sum += x.get(i, column) ** 2;
    chunks.push(Math.sqrt(sum));
  }
  return chunks;
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
