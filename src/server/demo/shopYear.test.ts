import { sameFigure } from '@/core/setup';
import { getRun } from '@/server/runs/repository';
import { listRuns } from '@/server/runs/listRuns';
import { listJobs } from '@/server/sheetJobs/repository';
import { rigsOf } from '@/server/rigs/repository';
import { loadBench } from '@/server/setups/bench';
import { listSetups } from '@/server/setups/repository';
import { freshDeps } from '@test/database';

import { loadShopYear } from './shopYear';

/* The full shop, a few weeks of it: what pictures and measurements of it rest on. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('shop_year');
  await loadShopYear(deps.db, new Date(Date.UTC(2026, 10, 2, 9)), 3);
});
afterAll(() => deps.close());

test('three rigs and twelve media that were calibrated, and one that was put on yesterday', async () => {
  const bench = await loadBench(deps);
  expect(bench).toHaveLength(13);
  expect(new Set(bench.map((b) => b.setup.rigId)).size).toBe(3);
  const named = bench.filter((b) => b.history.length === 0).map((b) => b.setup.media);
  expect(named).toEqual(['kraft label']);
  for (const { setup, history } of bench.filter((b) => b.history.length > 0)) {
    expect(history[0]!.kind).toBe('calibration');
    expect([setup.media, setup.standing.source]).not.toEqual([setup.media, 'as-found']);
  }
});

test('jobs of both kinds: the newest run is half cut, the newest sheet waits, what was before is closed', async () => {
  const runs = await listRuns(deps, { show: 'all', sort: 'newest', page: 1 });
  expect(runs.rows.map((r) => r.stage)).toEqual(['running', 'closed']);
  const [half] = (await getRun(deps, runs.rows[0]!.id))!.sections;
  expect(half!.state).toBe('cut');
  const sheets = await listJobs(deps, { show: 'all', sort: 'newest', page: 1 });
  expect(sheets.rows.map((r) => r.stage)).toEqual(['frozen']);
});

test('each machine shows what the medium that is on it wants, and another wants other figures', async () => {
  const setups = await listSetups(deps);
  for (const rig of await rigsOf(deps, setups)) {
    const own = setups.filter((s) => s.rigId === rig.id);
    const shown = own.find((s) => s.id === rig.onIt!.setupId)!;
    const wrong = (s: typeof shown) => s.settings.filter((x) => !sameFigure(x.value, x.wanted, x.step));
    expect([rig.name, wrong(shown).map((x) => x.name)]).toEqual([rig.name, []]);
    expect(own.some((s) => wrong(s).length > 0)).toBe(true);
  }
});
