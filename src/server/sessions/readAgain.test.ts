import { eq } from 'drizzle-orm';

import { repeatReadings } from '@/db/schema';
import { pickNearest } from '@/core/comb';
import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { freshDeps } from '@test/database';
import { readByTruth } from '@test/reading';

import { closeSession, discardSession, undoClose } from './closeSession';
import { finishReading } from './finishReading';
import { getSession } from './loadSession';
import { markPrinted } from './printSheet';
import {
  combsAgain,
  keepLook,
  looksAgain,
  MOST_ROUNDS,
  nextAgain,
  studyOfPass,
  takeBackLook,
  type CombAgain,
} from './readAgain';
import { currentPass, passReadings } from './session';
import { assess } from './assess';
import { startSession } from './startSession';

/* Combs read again by two persons: kept once, taken back, made a study, and reckoned with from the next session on. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
let sessionId: string;
const started = async (): Promise<string> => {
  const answer = await startSession(deps, 'KT', { setupId, kind: 'calibration' });
  if (!answer.ok) throw new Error(JSON.stringify(answer.refusal));
  await markPrinted(deps, 'KT', answer.value.sessionId);
  await readByTruth(deps, answer.value.sessionId, { x: 0.3, y: 0 }, (await getSetup(deps, setupId))!);
  return answer.value.sessionId;
};
beforeAll(async () => {
  deps = await freshDeps('read_again');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'film', settings: [] },
    ...{ sheetWidthMm: 400, sheetHeightMm: 600, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 380, areaHeightMm: 570, toleranceMm: 0.4 },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
  sessionId = await started();
});
afterAll(() => deps.close());

const pass = async () => currentPass((await getSession(deps, sessionId))!);
const firstOf = async ({ station, axis }: CombAgain): Promise<number> =>
  (await pass()).readings.find((r) => r.stationId === station.id && r.axis === axis)!.offsetMm;

/** A look at a comb that sees it off by so much from what was read first. */
async function look(who: string, comb: CombAgain, round: number, offMm = 0, request?: string) {
  const p = await pass();
  const { line, between } = pickNearest(comb.station[comb.axis], (await firstOf(comb)) + offMm, true);
  const sent = { passId: p.id, stationId: comb.station.id, axis: comb.axis, round, line, between };
  return keepLook(deps, who, sent, { request });
}

test('five stations are read again, each round in another order, until somebody has read enough', async () => {
  const p = await pass();
  const combs = combsAgain(p);
  expect(combs).toHaveLength(10);
  const orders = new Set<string>();
  let looks = await looksAgain(deps, p.id);
  for (let n = 0; n < MOST_ROUNDS * combs.length; n += 1) {
    const next = nextAgain(combs, looks, p.sheet.number, 'ZZ')!;
    expect(next.done).toBe(n % combs.length);
    const { station, axis } = next.comb;
    const name = `${station.id} ${axis}`;
    const made = {
      id: '',
      stationId: station.id,
      axis,
      round: next.round,
      offsetMm: 0,
      person: 'ZZ',
      comb: name,
    };
    looks = [...looks, made];
    if (next.done === combs.length - 1)
      orders.add(
        looks
          .slice(-combs.length)
          .map((l) => l.comb)
          .join(),
      );
  }
  expect(orders.size).toBe(MOST_ROUNDS);
  expect(nextAgain(combs, looks, p.sheet.number, 'ZZ')).toBeNull();
  expect(nextAgain(combs, looks, p.sheet.number, 'MO')!.round).toBe(1);
});

test('sent twice it is kept once; read again in the same round the newest counts; taken back it stays in the log', async () => {
  const combs = combsAgain(await pass());
  const request = crypto.randomUUID();
  const twice = await Promise.all([
    look('MO', combs[0]!, 1, 0, request),
    look('MO', combs[0]!, 1, 0, request),
  ]);
  expect(twice).toEqual([
    { ok: true, value: { round: 1 } },
    { ok: true, value: { round: 1 } },
  ]);
  await look('MO', combs[0]!, 1, 0.1);
  const p = await pass();
  expect(await looksAgain(deps, p.id)).toMatchObject([{ person: 'MO', round: 1 }]);
  expect((await looksAgain(deps, p.id))[0]!.offsetMm).toBeCloseTo((await firstOf(combs[0]!)) + 0.1, 6);
  expect(await takeBackLook(deps, 'KT', p.id)).toMatchObject({ ok: false });
  expect(await takeBackLook(deps, 'MO', p.id)).toMatchObject({ ok: true });
  expect(await looksAgain(deps, p.id)).toEqual([]);
  expect(await deps.db.select().from(repeatReadings).where(eq(repeatReadings.passId, p.id))).toHaveLength(2);
  expect(await studyOfPass(deps, p.id)).toBeNull();
});

test.each([
  ['no comb of this sheet', { stationId: 'Z9' }, 'not-found'],
  ['a line that no comb has', { line: 30 }, 'invalid-input'],
  ['a sixth round', { round: 6 }, 'invalid-input'],
  ['no axis', { axis: 'up' }, 'invalid-input'],
  ['no pass', { passId: crypto.randomUUID() }, 'not-found'],
])('%s is refused', async (_, wrong, code) => {
  const p = await pass();
  const sent = { passId: p.id, stationId: 'A1', axis: 'across', round: 1, line: 0, between: false, ...wrong };
  expect(await keepLook(deps, 'KT', sent)).toMatchObject({ ok: false, refusal: { code } });
});

test('an eye that differs is reckoned with from the next session on, and its own session stays as it was', async () => {
  const p = await pass();
  const before = assess((await getSession(deps, sessionId))!, p)!;
  for (const [i, comb] of combsAgain(p).entries()) {
    await look('KT', comb, 1, i % 2 ? 0.1 : -0.1);
    await look('MO', comb, 1, i % 3 ? 0.05 : -0.05);
    await look('MO', comb, 2, i % 2 ? 0.05 : -0.1);
  }
  const study = (await studyOfPass(deps, p.id))!;
  expect(study).toMatchObject({ combs: 10, persons: 2, repeats: 2, used: 40, of: 40 });
  expect(study.acuityMm).toBeGreaterThan(0.05);
  const own = (await getSession(deps, sessionId))!;
  expect(own.acuityMm).toBeNull();
  expect(assess(own, currentPass(own))!.r95Mm).toBe(before.r95Mm);
  expect((await finishReading(deps, 'KT', sessionId)).ok).toBe(true);
  expect((await closeSession(deps, 'KT', sessionId)).ok).toBe(true);

  const later = (await getSession(deps, await started()))!;
  expect(later.acuityMm).toBeCloseTo(study.acuityMm!, 9);
  const [reading] = passReadings(later, currentPass(later));
  expect(reading!.observation.uMm).toBeCloseTo(Math.hypot(0.1 / Math.sqrt(12), study.acuityMm!), 6);
  expect(reading!.interval.acuityMm).toBe(later.acuityMm);
  // What was reckoned with another acuity says nothing about the eye.
  expect(later.record.loads.map((l) => l.eye)).toEqual([{ chi2: 0, dof: 0 }]);
});

test('a discarded session takes no looks until it is opened again', async () => {
  const open = await startSession(deps, 'KT', { setupId, kind: 'calibration' });
  const id = open.ok ? open.value.sessionId : '';
  expect((await discardSession(deps, 'KT', id)).ok).toBe(true);
  const p = currentPass((await getSession(deps, id))!);
  const sent = { passId: p.id, stationId: 'A1', axis: 'across', round: 1, line: 0, between: false };
  expect(await keepLook(deps, 'KT', sent)).toMatchObject({ ok: false, refusal: { code: 'refused' } });
  expect((await undoClose(deps, 'KT', id)).ok).toBe(true);
  expect(await keepLook(deps, 'KT', sent)).toMatchObject({ ok: true });
});
