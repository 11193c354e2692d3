import { Predictor, type DriftKnowledge } from '../drift';

import { placeOn } from './evaluate';
import type { Strategy } from './planRoll';

/** A point of the curve of expected misses. */
export interface ProfilePoint {
  /** From the run's first registration. */
  readonly yMm: number;
  readonly r95Mm: number;
  /** Begins a new piece: the curve starts anew here. */
  readonly starts: boolean;
}

/** Points in all, and in each piece at least; a picture needs no more. */
const MOST_POINTS = 48;
const LEAST_EACH = 3;

/** How far 95 of 100 cuts may miss along a run, at so many places at most. */
export function missProfile(
  strategy: Strategy,
  knowledge: DriftKnowledge,
  correctCreep: boolean,
  mostPoints = MOST_POINTS,
): ProfilePoint[] {
  const predictor = new Predictor(knowledge, { way: strategy.way, takenOut: correctCreep });
  const all = strategy.sections;
  const shown = Math.min(all.length, Math.floor(mostPoints / LEAST_EACH));
  const each = Math.max(LEAST_EACH, Math.min(25, Math.floor(mostPoints / shown)));
  // Of very many sections every n-th is drawn; they differ little.
  const stride = Math.ceil(all.length / shown);
  return all
    .filter((_, i) => i % stride === 0)
    .flatMap((section) =>
      Array.from({ length: each }, (_, i) => {
        const fromMark = ((section.endMm - section.startMm) * i) / (each - 1);
        return {
          yMm: section.startMm + fromMark,
          r95Mm: predictor.r95Mm(placeOn(strategy, section, fromMark), 'picture'),
          starts: i === 0,
        };
      }),
    );
}
