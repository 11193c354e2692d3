import { LEAST_SIZE_MM } from '../tolerance';

/* Normal beliefs about six coefficients. Matrices lie flat, by rows: this is walked thousands of times a page. */

export const SIZE = 6;
/** Looked up once: where a test runs in a world of its own, asking for it by name is what takes longest. */
const Flat = Float64Array;
export type Vector = Float64Array;
export type Square = Float64Array;

export const squareOf = (rows: readonly (readonly number[])[]): Square => Flat.from(rows.flat());
export const rowsOf = (m: Square): number[][] =>
  Array.from({ length: SIZE }, (_, i) => Array.from(m.subarray(SIZE * i, SIZE * (i + 1))));
export function plus(a: Square, b: Square): Square {
  const sum = new Flat(SIZE * SIZE);
  for (let k = 0; k < sum.length; k += 1) sum[k] = a[k]! + b[k]!;
  return sum;
}
/** A covariance with variances added on its diagonal. */
export function widened(m: Square, variances: Vector): Square {
  const wide = new Flat(m);
  for (let i = 0; i < SIZE; i += 1) wide[(SIZE + 1) * i]! += variances[i]!;
  return wide;
}

export interface Gaussian {
  readonly mean: Vector;
  readonly covariance: Square;
}

/** Below this no variance is taken to be: a sum of squares that rounding left nothing of. */
const LEAST_VARIANCE = LEAST_SIZE_MM ** 2;

/**
 * What is believed after something was seen of it: y = x + noise.
 *
 * Method  Kalman's update by a Cholesky factor of P + R (Anderson & Moore 1979; from memory).
 * Returns the belief and the log density of what was seen, constants left out.
 */
export function seen(
  before: Gaussian,
  y: Vector,
  noise: Square,
): { readonly after: Gaussian; readonly logDensity: number } {
  const p = before.covariance;
  const l = cholesky(plus(p, noise));
  const z = new Flat(SIZE);
  for (let i = 0; i < SIZE; i += 1) z[i] = y[i]! - before.mean[i]!;
  forward(l, z, 0);
  // W = L⁻¹P by columns, which are P's rows; the mean moves by Wᵀz and the covariance shrinks by WᵀW.
  const w = new Flat(p);
  for (let j = 0; j < SIZE; j += 1) forward(l, w, SIZE * j);
  const mean = new Flat(before.mean);
  const covariance = new Flat(p);
  let logDensity = 0;
  for (let i = 0; i < SIZE; i += 1) {
    mean[i]! += dot(w, SIZE * i, z, 0);
    logDensity -= 0.5 * z[i]! * z[i]! + Math.log(l[(SIZE + 1) * i]!);
    for (let j = 0; j <= i; j += 1) {
      const left = p[SIZE * i + j]! - dot(w, SIZE * i, w, SIZE * j);
      covariance[SIZE * i + j] = left;
      covariance[SIZE * j + i] = left;
    }
  }
  return { after: { mean, covariance }, logDensity };
}

/** Two offsets that were read at one place: each a combination of the six, with the covariance of reading them. */
export interface Spot {
  readonly rows: readonly [Vector, Vector];
  readonly y: readonly [number, number];
  /** Of the first, of both, of the second. */
  readonly noise: readonly [number, number, number];
}

const combined = (row: Vector, m: Square, i: number): number => {
  let sum = 0;
  for (let k = 0; k < SIZE; k += 1) sum += row[k]! * m[SIZE * k + i]!;
  return sum;
};

/** A matrix as two combinations see it: (a′Ma, a′Mb, b′Mb). */
export function seenBy(m: Square, [a, b]: Spot['rows']): [number, number, number] {
  const [ma, mb] = [a, b].map((row) => Flat.from({ length: SIZE }, (_, i) => combined(row, m, i))) as [
    Vector,
    Vector,
  ];
  return [dot(a, 0, ma, 0), dot(b, 0, ma, 0), dot(b, 0, mb, 0)];
}

/** What is believed after two offsets at one place: the same update for y = Hx + noise, two rows instead of six. */
export function seenAt(before: Gaussian, { rows, y, noise }: Spot): ReturnType<typeof seen> {
  const { mean: m, covariance: p } = before;
  const own = seenBy(p, rows);
  const [xx, xy, yy] = [own[0] + noise[0], own[1] + noise[1], own[2] + noise[2]];
  const det = Math.max(LEAST_VARIANCE ** 2, xx * yy - xy * xy);
  const z = [y[0] - dot(rows[0], 0, m, 0), y[1] - dot(rows[1], 0, m, 0)] as const;
  const solved = [(yy * z[0] - xy * z[1]) / det, (xx * z[1] - xy * z[0]) / det] as const;
  const [ka, kb] = rows.map((row) => Flat.from({ length: SIZE }, (_, i) => combined(row, p, i))) as [
    Vector,
    Vector,
  ];
  const mean = new Flat(m);
  const covariance = new Flat(p);
  for (let i = 0; i < SIZE; i += 1) {
    mean[i]! += ka[i]! * solved[0] + kb[i]! * solved[1];
    for (let j = 0; j < SIZE; j += 1)
      covariance[SIZE * i + j]! -=
        (yy * ka[i]! * ka[j]! - xy * (ka[i]! * kb[j]! + kb[i]! * ka[j]!) + xx * kb[i]! * kb[j]!) / det;
  }
  const logDensity = -0.5 * (z[0] * solved[0] + z[1] * solved[1]) - 0.5 * Math.log(det);
  return { after: { mean, covariance }, logDensity };
}

function dot(a: Float64Array, i: number, b: Float64Array, j: number): number {
  let sum = 0;
  for (let k = 0; k < SIZE; k += 1) sum += a[i + k]! * b[j + k]!;
  return sum;
}

/** The lower factor, in place. */
function cholesky(m: Float64Array): Square {
  for (let i = 0; i < SIZE; i += 1)
    for (let j = 0; j <= i; j += 1) {
      let sum = m[SIZE * i + j]!;
      for (let k = 0; k < j; k += 1) sum -= m[SIZE * i + k]! * m[SIZE * j + k]!;
      m[SIZE * i + j] =
        i === j ? Math.sqrt(sum > LEAST_VARIANCE ? sum : LEAST_VARIANCE) : sum / m[(SIZE + 1) * j]!;
    }
  return m;
}

/** L⁻¹b in place, b beginning at `from`. */
function forward(l: Square, b: Float64Array, from: number): void {
  for (let i = 0; i < SIZE; i += 1) {
    let sum = b[from + i]!;
    for (let k = 0; k < i; k += 1) sum -= l[SIZE * i + k]! * b[from + k]!;
    b[from + i] = sum / l[(SIZE + 1) * i]!;
  }
}

export interface Weighted extends Gaussian {
  readonly weight: number;
}

/** One Gaussian with the mean and covariance of several. */
export function momentsOf(parts: readonly Weighted[]): Gaussian {
  const all = parts.reduce((sum, p) => sum + p.weight, 0);
  const mean = new Flat(SIZE);
  for (const p of parts) for (let i = 0; i < SIZE; i += 1) mean[i]! += (p.weight / all) * p.mean[i]!;
  const covariance = new Flat(SIZE * SIZE);
  for (const p of parts)
    for (let i = 0; i < SIZE; i += 1)
      for (let j = 0; j < SIZE; j += 1)
        covariance[SIZE * i + j]! +=
          (p.weight / all) *
          (p.covariance[SIZE * i + j]! + (p.mean[i]! - mean[i]!) * (p.mean[j]! - mean[j]!));
  return { mean, covariance };
}
