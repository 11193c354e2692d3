import { LOADS_TO_TELL } from '@/core/record';
import type { Deps } from '@/server/base/deps';

import type { BenchSetup } from './bench';
import { endOfDay, expectedNow, type ExpectedNow } from './expectedNow';
import { loadScatterOf, setupRecord } from './setupRecord';

export type OwnExpected = Extract<ExpectedNow, { readonly by: 'own-loads' }>;

/** What was worked out before, by everything that it depends on: it changes with a load, an event, a figure or the day. */
const known = new Map<string, OwnExpected | null>();
/** A shop has some dozens of setups. */
const MOST_KNOWN = 500;

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

async function expectedOf(
  deps: Deps,
  { setup, events, lastCut, history }: BenchSetup,
): Promise<OwnExpected | null> {
  const key = JSON.stringify([setup, events.at(-1)?.at, lastCut, history.at(-1)?.at, endOfDay(deps.now())]);
  const before = known.get(key);
  if (before !== undefined) return before;
  const record = await setupRecord(deps, setup, deps.now());
  const expected = await expectedNow(deps, setup, record, loadScatterOf(setup, setup.marks, record.loads));
  const own = expected?.by === 'own-loads' ? expected : null;
  if (known.size >= MOST_KNOWN) known.delete(known.keys().next().value!);
  known.set(key, own);
  return own;
}
