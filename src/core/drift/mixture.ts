import { normalCdf } from '../statistics';

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
  for (let i = 0; i < 60 && high - low > 1e-9 * (1 + Math.abs(low) + Math.abs(high)); i += 1) {
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
