import type { Point } from '../geometry';
import type { OffsetAxis } from '../units';

import { leastSquares } from './leastSquares';
import type { Observation } from './types';

/** How much scale, turn and lean are expected to differ from true before anything is read. */
const LINEAR_PRIOR = 0.003;

export interface PredictedOffset {
  readonly offsetMm: number;
  readonly uMm: number;
}

/**
 * What the readings so far say about the offset at another place, with honest doubt about far places.
 *
 * Each axis by itself: d = b·(p − c) + e with a prior of ±0.3 % on both slopes and none on e.
 * Used to know which whole number of comb lengths a fine reading belongs to. Null before the first reading.
 */
export function predictOffset(
  observations: readonly Observation[],
  axis: OffsetAxis,
  at: Point,
): PredictedOffset | null {
  const own = observations.filter((o) => o.axis === axis);
  if (own.length === 0) return null;
  const rows = own.map((o) => [(o.xMm - at.x) / o.uMm, (o.yMm - at.y) / o.uMm, 1 / o.uMm]);
  rows.push([1 / LINEAR_PRIOR, 0, 0], [0, 1 / LINEAR_PRIOR, 0]);
  const solved = leastSquares(rows, [...own.map((o) => o.offsetMm / o.uMm), 0, 0]);
  if (!solved.ok) return null;
  return {
    offsetMm: solved.value.coefficients[2]!,
    uMm: Math.sqrt(solved.value.inverseGram.get(2, 2)),
  };
}
