import type { Deps } from '@/server/base/deps';
import { listRuns, type RunRow } from '@/server/runs/listRuns';

import { loadBench, type BenchSetup } from './bench';
import { expectedToday } from './today';

/** Everything that the next steps of setups are told from. */
export interface StepsAtHand {
  readonly setups: readonly BenchSetup[];
  /** Open runs, of any setup. */
  readonly runs: readonly RunRow[];
  readonly today: Awaited<ReturnType<typeof expectedToday>>;
}

/** What the next steps of the setups of the bench, or of a rig, are told from. */
export async function stepsAtHand(deps: Deps, rigId?: string): Promise<StepsAtHand> {
  const [setups, runs] = await Promise.all([
    loadBench(deps, rigId),
    listRuns(deps, { show: 'open', sort: 'newest', page: 1 }),
  ]);
  return { setups, runs: runs.rows, today: await expectedToday(deps, setups) };
}
