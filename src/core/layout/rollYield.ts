import type { DriftKnowledge } from '../drift';

import { impose } from './impose';
import { plannedShareOf, strategy, type RollJob, type RollRig, type StrategyName } from './planRoll';

/** What a roll yields. */
export interface RollYield {
  /** Copies in full rows that fit and keep what is allowed to be spoiled. */
  readonly copies: number;
  /** Of those, what can be promised to somebody: without the share that may be spoiled. */
  readonly promised: number;
  readonly sections: number;
}

const NOTHING: RollYield = { copies: 0, promised: 0, sections: 0 };

/**
 * Planning backwards: how many copies a length of roll holds in one way of running it, within the tolerance.
 *
 * Units    mm; `turned` as the items are to lie.
 * Method   bisection over full rows: more rows need more media and spoil no smaller share.
 * Example  20 of 300 × 183.4 mm with 3.5 mm between, four across, from 931 mm of roll.
 */
export function rollYield(
  job: RollJob,
  knowledge: DriftKnowledge,
  sectionsOnRecord: number,
  rig: RollRig,
  name: StrategyName,
  turned: boolean,
  rollLeftMm: number,
): RollYield {
  const laid: RollJob = {
    ...job,
    mayTurn: false,
    rollLeftMm,
    ...(turned ? { itemWidthMm: job.itemHeightMm, itemHeightMm: job.itemWidthMm } : {}),
  };
  const share = plannedShareOf(job, sectionsOnRecord);
  const at = (rows: number) => {
    const imposed = impose({ ...laid, copies: 1 });
    if (!imposed.ok) return null;
    const copies = rows * imposed.value.columns;
    const filled = impose({ ...laid, copies });
    if (!filled.ok) return null;
    const way = strategy(name, { ...laid, copies }, filled.value, knowledge, share, rig);
    return way.missing === null && way.fitsRoll && way.keepsPromise
      ? { copies, promised: Math.floor(copies * (1 - job.promise)), sections: way.sections.length }
      : null;
  };
  let best = at(1);
  if (best === null) return NOTHING;
  let good = 1;
  let bad = Math.ceil(rollLeftMm / laid.itemHeightMm) + 1;
  while (bad - good > 1) {
    const middle = Math.floor((good + bad) / 2);
    const found = at(middle);
    if (found) [good, best] = [middle, found];
    else bad = middle;
  }
  return best;
}
