import { legendreRule, normalCdf } from '../statistics';

/** A quantile is halved down to this, relative to its place. */
const HALVED_TO = 1e-9;

/** One normal of a mixture. */
export interface NormalPart {
  readonly weight: number;
  readonly mean: number;
  readonly variance: number;
}

const cdf = (parts: readonly NormalPart[], at: number): number =>
  parts.reduce((sum, p) => sum + p.weight * normalCdf((at - p.mean) / Math.sqrt(p.variance)), 0);

/** The value below which a share of a mixture of normals lies. */
export function mixtureQuantile(parts: readonly NormalPart[], share: number): number {
  const reach = (p: NormalPart): number => 9 * Math.sqrt(p.variance);
  let low = Math.min(...parts.map((p) => p.mean - reach(p)));
  let high = Math.max(...parts.map((p) => p.mean + reach(p)));
  for (let i = 0; i < 60 && high - low > HALVED_TO * (1 + Math.abs(low) + Math.abs(high)); i += 1) {
    const middle = (low + high) / 2;
    if (cdf(parts, middle) < share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** Mean and variance of the whole mixture. */
export function mixtureMoments(parts: readonly NormalPart[]): {
  readonly mean: number;
  readonly variance: number;
} {
  const mean = parts.reduce((sum, p) => sum + p.weight * p.mean, 0);
  return {
    mean,
    variance: parts.reduce((sum, p) => sum + p.weight * (p.variance + (p.mean - mean) ** 2), 0),
  };
}

/** A mixture of normals by column: for very many parts. */
export interface MixtureColumns {
  readonly weight: Float64Array;
  readonly mean: Float64Array;
  readonly variance: Float64Array;
}

/**
 * A mixture of few parts that has the same tails: parts of nearly the same scatter are merged, each bin keeping its
 * mean and variance. Bins are equally wide in standard deviation, so that the widest parts, which hold the tails,
 * are told apart best.
 */
export function gathered({ weight, mean, variance }: MixtureColumns, bins: number): NormalPart[] {
  let least = Infinity;
  let most = 0;
  for (const v of variance) {
    if (v < least) least = v;
    if (v > most) most = v;
  }
  const from = Math.sqrt(least);
  const perBin = most > least ? bins / (Math.sqrt(most) - from) : 0;
  const sums = new Float64Array(3 * bins);
  for (let i = 0; i < weight.length; i += 1) {
    const at = 3 * Math.min(bins - 1, Math.floor((Math.sqrt(variance[i]!) - from) * perBin));
    sums[at]! += weight[i]!;
    sums[at + 1]! += weight[i]! * mean[i]!;
    sums[at + 2]! += weight[i]! * (variance[i]! + mean[i]! * mean[i]!);
  }
  const parts: NormalPart[] = [];
  for (let at = 0; at < sums.length; at += 3) {
    const w = sums[at]!;
    if (w === 0) continue;
    const m = sums[at + 1]! / w;
    parts.push({ weight: w, mean: m, variance: sums[at + 2]! / w - m * m });
  }
  return parts;
}

/** P(|X| > limit) for a mixture of normals. */
export const outsideBand = (parts: readonly NormalPart[], limit: number): number =>
  parts.reduce((sum, p) => {
    const sd = Math.sqrt(p.variance);
    return sum + p.weight * (normalCdf((p.mean - limit) / sd) + normalCdf((-p.mean - limit) / sd));
  }, 0);

/** Standard deviations beyond which a part holds nothing that counts. */
const REACH = 8;
/** Enough for a part whose scatter is a fiftieth of the radius. */
const NODES = legendreRule(72);

/**
 * P(√(X² + Y²) > radius) for X and Y apart, each a mixture of normals.
 *
 * Method   the wider of the two is integrated over by Gauss–Legendre, of the other the normal with its mean and
 *          variance is taken in closed form; what lies beyond the disc is summed, so that small chances stay exact.
 */
export function outsideDisc(x: readonly NormalPart[], y: readonly NormalPart[], radius: number): number {
  const moments = { x: mixtureMoments(x), y: mixtureMoments(y) };
  const [wide, narrow] = moments.x.variance > moments.y.variance ? [x, moments.y] : [y, moments.x];
  const parts = wide.map((p) => {
    const sd = Math.sqrt(p.variance);
    return { mean: p.mean, sd, height: p.weight / (sd * Math.sqrt(2 * Math.PI)) };
  });
  const from = Math.max(-radius, Math.min(...parts.map((p) => p.mean - REACH * p.sd)));
  const to = Math.min(radius, Math.max(...parts.map((p) => p.mean + REACH * p.sd)));
  const beyond = outsideBand(wide, radius);
  if (from >= to) return Math.min(1, beyond);
  // u = radius·sin(t) takes the square-root ends of the chord out of the integrand.
  const t0 = Math.asin(from / radius);
  const t1 = Math.asin(to / radius);
  const whole = [{ weight: 1, mean: narrow.mean, variance: narrow.variance }];
  let sum = 0;
  for (const { node, weight } of NODES) {
    const t = (t0 + t1) / 2 + ((t1 - t0) / 2) * node;
    const u = radius * Math.sin(t);
    const chord = radius * Math.cos(t);
    let density = 0;
    for (const p of parts) density += p.height * Math.exp(-0.5 * ((u - p.mean) / p.sd) ** 2);
    sum += weight * density * outsideBand(whole, chord) * chord;
  }
  return Math.min(1, beyond + (sum * (t1 - t0)) / 2);
}
