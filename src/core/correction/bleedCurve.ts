import type { Point } from '../geometry';
import { radialProbability, radialQuantile } from '../statistics';

import { misregistrationAt, type RigPrediction } from './prediction';

/** So much bleed, or border that may be uneven, hides that share of cuts at the worst place. */
export interface BleedPoint {
  readonly share: number;
  readonly mm: number;
}

const POINTS = 64;
/** Beyond it a promise is no more than the tails of the model. */
const MOST_SHARE = 0.99999;

/** Bleed against the share that it hides at a place, both rising: for reading it both ways. */
export function bleedCurve(prediction: RigPrediction, at: Point): BleedPoint[] {
  const there = misregistrationAt(prediction, at);
  const most = radialQuantile(there, MOST_SHARE);
  return Array.from({ length: POINTS }, (_, i) => {
    const mm = (most * (i + 1)) / POINTS;
    return { mm, share: Math.min(MOST_SHARE, radialProbability(there, mm)) };
  });
}

/*
 * Between the points ln(1 − share) goes with the square of the radius: exact for a round scatter without bias
 * (Rayleigh, closed form), near it for the others.
 */
const rarity = (share: number): number => -Math.log(1 - share);

/** The share of cuts that a bleed hides; null beyond what the curve tells, where all but a few are. */
export function shareHidden(curve: readonly BleedPoint[], mm: number): number | null {
  const i = curve.findIndex((p) => p.mm >= mm);
  if (i < 0) return null;
  const [low, high] = [curve[i - 1] ?? { share: 0, mm: 0 }, curve[i]!];
  const part = (mm ** 2 - low.mm ** 2) / (high.mm ** 2 - low.mm ** 2 || 1);
  return 1 - Math.exp(-(rarity(low.share) + part * (rarity(high.share) - rarity(low.share))));
}

/** The bleed that hides a share of cuts; null beyond what the curve tells. */
export function bleedFor(curve: readonly BleedPoint[], share: number): number | null {
  const i = curve.findIndex((p) => p.share >= share);
  if (i < 0) return null;
  const [low, high] = [curve[i - 1] ?? { share: 0, mm: 0 }, curve[i]!];
  const part = (rarity(share) - rarity(low.share)) / (rarity(high.share) - rarity(low.share) || 1);
  return Math.sqrt(low.mm ** 2 + part * (high.mm ** 2 - low.mm ** 2));
}
