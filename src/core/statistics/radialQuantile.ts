import { normalCdf, normalQuantile } from './distributions';

/** A radius is found to this part of itself. */
const EXACT_RADIUS = 1e-7;

/** A share is met this exactly where no picture is drawn. */
const EXACT_SHARE = 1e-9;

/** A bivariate normal misregistration: mean (mm) and covariance (mm²). */
export interface Misregistration {
  readonly meanX: number;
  readonly meanY: number;
  readonly varX: number;
  readonly varY: number;
  readonly covXY: number;
}

const NODES = 48;
const REACH = 8; // standard deviations beyond which a normal holds less than 1e-15

/** A shorter axis under this share of the longer one is none: the sum over it would only add rounding. */
const ALL_BUT_A_LINE = 1e-9;

const LEGENDRE = legendreRule(NODES);

/** As exact as can be, or as a line on a screen needs it: within a few percent of the radius at worst. */
export type Precision = 'exact' | 'picture';
const PICTURE_NODES = 26;
const PICTURE_LEGENDRE = legendreRule(PICTURE_NODES);
const PICTURE_SHARE = 5e-4;

/** Variance along the longer principal axis. */
const majorVariance = ({ varX, varY, covXY }: Misregistration): number =>
  (varX + varY) / 2 + Math.hypot((varX - varY) / 2, covXY);

/**
 * P(√(X² + Y²) ≤ radius) for a bivariate normal.
 *
 * Units    mm.
 * Method   turned to principal axes; the longer integrated in closed form, the shorter by Gauss–Legendre over where it has
 *          any weight. That way round a thin ellipse is as smooth to the nodes as a round one.
 */
export function radialProbability(
  m: Misregistration,
  radiusMm: number,
  precision: Precision = 'exact',
): number {
  if (radiusMm <= 0) return 0;
  const majorVar = majorVariance(m);
  const major = Math.sqrt(majorVar);
  const minor = Math.sqrt(Math.max(0, m.varX + m.varY - majorVar));
  const angle = 0.5 * Math.atan2(2 * m.covXY, m.varX - m.varY);
  const meanU = m.meanX * Math.cos(angle) + m.meanY * Math.sin(angle);
  const meanV = -m.meanX * Math.sin(angle) + m.meanY * Math.cos(angle);
  if (major === 0) return Math.hypot(meanU, meanV) <= radiusMm ? 1 : 0;
  const within = (chord: number): number =>
    normalCdf((chord - meanU) / major) - normalCdf((-chord - meanU) / major);
  if (minor < ALL_BUT_A_LINE * major)
    return Math.abs(meanV) < radiusMm ? within(Math.sqrt(radiusMm ** 2 - meanV ** 2)) : 0;
  const from = Math.max(-radiusMm, meanV - REACH * minor);
  const to = Math.min(radiusMm, meanV + REACH * minor);
  if (from >= to) return 0;
  // v = radius·sin(t) takes the square-root ends of the chord out of the integrand.
  const t0 = Math.asin(from / radiusMm);
  const t1 = Math.asin(to / radiusMm);
  let sum = 0;
  for (const { node, weight } of precision === 'exact' ? LEGENDRE : PICTURE_LEGENDRE) {
    const t = (t0 + t1) / 2 + ((t1 - t0) / 2) * node;
    const v = radiusMm * Math.sin(t);
    const chord = radiusMm * Math.cos(t);
    const density = Math.exp(-0.5 * ((v - meanV) / minor) ** 2) / (minor * Math.sqrt(2 * Math.PI));
    sum += weight * density * within(chord) * chord;
  }
  return Math.min(1, (sum * (t1 - t0)) / 2);
}

/**
 * The radius that holds a share of all cuts, to 1e-7 of the largest reach; coarser for a picture.
 *
 * Method   false position with the Illinois correction on `radialProbability` (Dowell & Jarratt 1971), between
 *          what the major axis alone needs (Anderson 1955: no bias makes it less) and the bias plus what a
 *          scatter as wide as the major axis on both needs (Rayleigh).
 * Example  zero mean, σ on both axes, 0.95 → 2.4477 σ (Rayleigh, closed form).
 */
export function radialQuantile(m: Misregistration, share: number, precision: Precision = 'exact'): number {
  const major = Math.sqrt(majorVariance(m));
  const bias = Math.hypot(m.meanX, m.meanY);
  if (major === 0) return bias;
  const missAt = (at: number) => ({ at, miss: radialProbability(m, at, precision) - share });
  // A little wider than that, for the rounding of the integral.
  let low = missAt(0.999 * normalQuantile((1 + share) / 2) * major);
  let high = missAt(1.001 * (bias + Math.sqrt(-2 * Math.log(1 - share)) * major));
  let lastSide = 0;
  const enough = precision === 'exact' ? EXACT_SHARE : PICTURE_SHARE;
  for (let i = 0; i < 100 && high.at - low.at > EXACT_RADIUS * high.at; i += 1) {
    const at = low.at + ((high.at - low.at) * -low.miss) / (high.miss - low.miss);
    const { miss } = missAt(at);
    if (Math.abs(miss) < enough) return at;
    const side = Math.sign(miss);
    const keep = side === lastSide ? 0.5 : 1;
    if (side < 0) {
      low = { at, miss };
      high = { at: high.at, miss: high.miss * keep };
    } else {
      high = { at, miss };
      low = { at: low.at, miss: low.miss * keep };
    }
    lastSide = side;
  }
  return (low.at + high.at) / 2;
}

/** Gauss–Legendre nodes and weights on [−1, 1] by Newton's method (Abramowitz & Stegun 25.4.29). */
export function legendreRule(count: number): readonly { node: number; weight: number }[] {
  return Array.from({ length: count }, (_, i) => {
    let x = Math.cos((Math.PI * (i + 0.75)) / (count + 0.5));
    let slope = 1;
    for (let step = 0; step < 12; step += 1) {
      let previous = 1;
      let value = x;
      for (let n = 2; n <= count; n += 1)
        [previous, value] = [value, ((2 * n - 1) * x * value - (n - 1) * previous) / n];
      slope = (count * (x * value - previous)) / (x * x - 1);
      x -= value / slope;
    }
    return { node: x, weight: 2 / ((1 - x * x) * slope * slope) };
  });
}
