import { USUAL_POLICY } from '@/core/control';
import { addRig } from '@/server/rigs/writeRig';
import { getRig } from '@/server/rigs/repository';
import { recordEvent } from '@/server/setups/history';
import { loadBench } from '@/server/setups/bench';
import { freshDeps } from '@test/database';

import { applyCorrection } from '@/server/sessions/applyCorrection';
import { closeSession, discardSession } from '@/server/sessions/closeSession';
import { finishReading } from '@/server/sessions/finishReading';
import { markPrinted } from '@/server/sessions/printSheet';
import { startSession } from '@/server/sessions/startSession';
import { getSetup } from '@/server/setups/repository';
import { readByTruth } from '@test/reading';

import { chartCsv } from '@/server/api/scriptChart';

import { chartLoads } from './chartLoads';
import { foundOf } from './foundTerms';
import { setPolicy } from './setPolicy';

let deps: Awaited<ReturnType<typeof freshDeps>>;
let rigId: string;
let setupId: string;
beforeAll(async () => {
  deps = await freshDeps('watch');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'gloss film' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, toleranceMm: 0.4, settings: [] },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ rigId, setupId } = added.value);
});
afterAll(() => deps.close());

const rig = async () => (await getRig(deps, rigId))!;
const say = async (more: object) =>
  setPolicy(deps, 'KT', { rigId, version: (await rig()).version, ...USUAL_POLICY, ...more });

test('a rig asks after everything until somebody says otherwise; its setups follow it', async () => {
  expect((await rig()).checkAfter).toEqual(USUAL_POLICY);
  expect(await say({ events: ['new-blade', 'moved'], idleDays: 30, signals: false })).toMatchObject({
    ok: true,
  });
  // In the order of the list, whichever way they were ticked.
  const kept = { events: ['moved', 'new-blade'], idleDays: 30, signals: false };
  expect((await rig()).checkAfter).toEqual(kept);
  const [setup] = await loadBench(deps, rigId);
  expect(setup!.setup.checkAfter).toEqual(kept);
  expect(setup!.lastCut).toBeNull();
  await recordEvent(deps, 'KT', { setupId, kind: 'moved', note: '' });
  expect((await loadBench(deps, rigId))[0]!.events.map((e) => e.kind)).toEqual(['moved']);
});

test('of two who change it at once the second is told, and nothing of theirs is kept', async () => {
  const { version } = await rig();
  const policy = (idleDays: number) => ({ rigId, version, ...USUAL_POLICY, idleDays });
  const answers = await Promise.all([setPolicy(deps, 'KT', policy(7)), setPolicy(deps, 'AF', policy(8))]);
  expect(answers.filter((a) => a.ok)).toHaveLength(1);
  expect(answers.find((a) => !a.ok)).toMatchObject({ refusal: { code: 'stale' } });
  expect((await rig()).version).toBe(version + 1);
  expect((await rig()).checkAfter.idleDays).toBe(answers[0]!.ok ? 7 : 8);
});

test.each([
  [{ events: ['thunder'] }, 'events.0'],
  [{ idleDays: 0 }, 'idleDays'],
  [{ idleDays: 2.5 }, 'idleDays'],
  [{ signals: 'yes' }, 'signals'],
])('%j is refused with its field', async (wrong, field) => {
  const answer = await say(wrong);
  expect(answer).toMatchObject({ ok: false, refusal: { code: 'invalid-input' } });
  expect(JSON.stringify(answer)).toContain(field);
});

test('a rig that is not there is said to be so', async () => {
  const nowhere = { rigId: '00000000-0000-4000-8000-000000000000', version: 1, ...USUAL_POLICY };
  expect(await setPolicy(deps, 'KT', nowhere)).toMatchObject({ refusal: { code: 'not-found', what: 'rig' } });
});

test.each([
  ['no such chart', () => setupId, { chart: 'pie' }, 400],
  ['no such term', () => setupId, { term: 'wobble' }, 400],
  ['nothing read yet', () => setupId, {}, 422],
  ['no such setup', () => '00000000-0000-4000-8000-000000000000', {}, 404],
  ['no id at all', () => '1 or 1', {}, 404],
])('a chart of %s is refused with a reason', async (_, id, query, status) => {
  const answer = await chartCsv(deps, id(), new URLSearchParams(query as Record<string, string>));
  expect(answer.status).toBe(status);
  expect(((await answer.json()) as { error: { message: string } }).error.message).toMatch(/^[A-Z“].+\.$/);
});

test('read sessions are watched: a creep is told, a calibration ends it, what was discarded does not count', async () => {
  let day = 0;
  const at = { ...deps, now: () => new Date(Date.UTC(2026, 0, 1 + day, 9)) };
  const setup = (await getSetup(at, setupId))!;
  const read = async (kind: 'calibration' | 'quick-check', xMm: number): Promise<string> => {
    day += 7;
    const started = await startSession(at, 'KT', { setupId, kind });
    if (!started.ok) throw new Error(JSON.stringify(started.refusal));
    const { sessionId } = started.value;
    await markPrinted(at, 'KT', sessionId);
    await readByTruth(at, sessionId, { x: xMm, y: 0 }, setup);
    expect(await finishReading(at, 'KT', sessionId)).toMatchObject({ ok: true });
    return sessionId;
  };
  const since = async () => (await loadBench(at, rigId))[0]!.watch.map((a) => a.watch?.since ?? null);

  const first = await read('calibration', 0.5);
  await applyCorrection(at, 'KT', { sessionId: first, how: 'file' });
  await markPrinted(at, 'KT', first);
  await readByTruth(at, first, { x: 0.5, y: 0 }, setup);
  await finishReading(at, 'KT', first);
  await closeSession(at, 'KT', first);
  const sets = (await foundOf(at, rigId)).get(setupId)!;
  // The proof was cut with its file: it lands true, and says what the file undid.
  expect(sets.map((f) => [f.position, f.terms.shiftXMm])).toEqual([
    [1, expect.closeTo(0.5, 1)],
    [2, expect.closeTo(0, 1)],
  ]);
  expect(sets[1]!.fileMm.x).toBeCloseTo(0.5, 1);
  expect(await since()).toEqual([null, null]);

  const crept = [];
  for (const more of [0.1, 0.2, 0.3, 0.4]) {
    crept.push(await read('quick-check', 0.5 + more));
    await closeSession(at, 'KT', crept.at(-1)!);
  }
  expect(await since()).toEqual([expect.any(Date), null]);
  expect((await foundOf(at, rigId)).get(setupId)).toHaveLength(6);
  const byMistake = await read('quick-check', 3);
  const charted = async () => chartLoads(at, (await getSetup(at, setupId))!);
  expect((await charted()).record.at).toHaveLength(6);
  await discardSession(at, 'KT', byMistake);
  expect((await foundOf(at, rigId)).get(setupId)).toHaveLength(6);

  // The same as charts: the first set of each load, breaks where it was corrected, every one a row of the table.
  const { record, events } = await charted();
  expect(record.anew).toEqual(['event', 'corrected', null, null, null].map((a, i) => (i === 0 ? null : a)));
  expect(record.shiftOnly).toEqual([false, true, true, true, true]);
  expect(record.mm.shiftXMm.map((v) => Number(v.toFixed(1)))).toEqual([0.5, 0.1, 0.2, 0.3, 0.4]);
  const csv = await chartCsv(at, setupId, new URLSearchParams({ chart: 'loads' }));
  const rows = (await csv.text()).trim().split('\r\n');
  expect([csv.status, rows.length]).toEqual([200, 6]);
  expect(rows[2]!.split(',').at(-1)).toBe('corrected');
  await recordEvent(at, 'KT', { setupId, kind: 'moved', note: '' });
  expect((await charted()).events).toHaveLength(events.length + 1);

  const again = await read('calibration', 0.9);
  await applyCorrection(at, 'KT', { sessionId: again, how: 'file' });
  await markPrinted(at, 'KT', again);
  await readByTruth(at, again, { x: 0.9, y: 0 }, setup);
  await finishReading(at, 'KT', again);
  await closeSession(at, 'KT', again);
  expect(await since()).toEqual([null, null]);
});
