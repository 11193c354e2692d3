/**
 * Log density of offsets that are readings' noise plus random effects, each effect a column with its prior's deviation in it.
 * Effects that are there under every kind are worked out once.
 *
 * Shapes   `offsets` n, `us` n standard uncertainties, columns of n each.
 * Method   N(d; 0, D + U Uᵀ) by the matrix inversion and determinant lemmas, Cholesky of I + Uᵀ D⁻¹ U row by row (Rasmussen &
 *          Williams, Gaussian Processes for Machine Learning, A.3; from memory). Constant terms of n and D are left out.
 */
export class Marginal {
  /** Columns over u; and of the Cholesky factor a row each, with L⁻¹ Uᵀ D⁻¹ d. */
  private readonly columns: Float64Array[] = [];
  private readonly rows: Float64Array[] = [];
  private readonly solved: number[] = [];
  private readonly whitened: Float64Array;
  private readonly chi2: number;

  constructor(
    offsets: readonly number[],
    private readonly us: readonly number[],
    always: readonly (readonly number[])[],
  ) {
    this.whitened = Float64Array.from(offsets, (d, i) => d / us[i]!);
    this.chi2 = this.whitened.reduce((sum, v) => sum + v * v, 0);
    for (const column of always) this.push(column);
  }

  /** The log density with further effects, and the share of the offsets' χ² that all effects take up. */
  with(columns: readonly (readonly number[])[]): { readonly log: number; readonly explained: number } {
    const kept = this.columns.length;
    for (const column of columns) this.push(column);
    let [logDet, taken] = [0, 0];
    this.rows.forEach((row, p) => {
      logDet += 2 * Math.log(row[p]!);
      taken += this.solved[p]! ** 2;
    });
    for (const list of [this.columns, this.rows, this.solved]) list.length = kept;
    return {
      log: -0.5 * (this.chi2 - taken + logDet),
      explained: this.chi2 > 0 ? taken / this.chi2 : 0,
    };
  }

  private push(column: readonly number[]): void {
    const own = Float64Array.from(column, (v, i) => v / this.us[i]!);
    const p = this.columns.length;
    const row = new Float64Array(p + 1);
    for (let q = 0; q < p; q += 1) {
      let sum = dot(own, this.columns[q]!);
      for (let r = 0; r < q; r += 1) sum -= row[r]! * this.rows[q]![r]!;
      row[q] = sum / this.rows[q]![q]!;
    }
    let square = 1 + dot(own, own);
    let solved = dot(own, this.whitened);
    for (let r = 0; r < p; r += 1) {
      square -= row[r]! ** 2;
      solved -= row[r]! * this.solved[r]!;
    }
    row[p] = Math.sqrt(square);
    this.columns.push(own);
    this.rows.push(row);
    this.solved.push(solved / row[p]!);
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
}
