import { LOADS_TO_TELL } from '@/core/record';
import { onePerProcess } from '@/process/onePerProcess';
import { contentHash } from '@/server/base/contentHash';
import type { Deps } from '@/server/base/deps';
import { Remembered } from '@/server/base/remembered';

import type { BenchSetup } from './bench';
import { endOfDay, expectedNow, type ExpectedNow } from './expectedNow';
import { loadScatterOf, setupRecord } from './setupRecord';

export type OwnExpected = Extract<ExpectedNow, { readonly by: 'own-loads' }>;

/** A shop has some dozens of setups. */
const MOST_KNOWN = 500;
/** What was worked out before, by everything that it depends on: it changes with a load, an event, a figure or the day. */
const known = onePerProcess('expected today', () => new Remembered<OwnExpected | null>(MOST_KNOWN));

/** What the log expects of each setup’s next load today, of those whose own loads tell it; by setup. */
export async function expectedToday(
  deps: Deps,
  bench: readonly BenchSetup[],
): Promise<ReadonlyMap<string, OwnExpected>> {
  const found = new Map<string, OwnExpected>();
  for (const b of bench) {
    if (b.fullLoads < LOADS_TO_TELL) continue;
    const expected = await expectedOf(deps, b);
    if (expected) found.set(b.setup.id, expected);
  }
  return found;
}

function expectedOf(
  deps: Deps,
  { setup, events, lastCut, history }: BenchSetup,
): Promise<OwnExpected | null> {
  const stamp = contentHash([setup, events.at(-1)?.at, lastCut, history.at(-1)?.at, endOfDay(deps.now())]);
  return known.of(setup.id, stamp, async () => {
    const record = await setupRecord(deps, setup, deps.now());
    const expected = await expectedNow(deps, setup, record, loadScatterOf(setup, setup.marks, record.loads));
    return expected?.by === 'own-loads' ? expected : null;
  });
}
