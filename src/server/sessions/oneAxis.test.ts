import { coarseOffset, nearestLengths } from '@/core/comb';
import { loadField, lookAtComb, type SimulatedRig } from '@/core/rigsim';
import { seededRandom } from '@/core/random/random';
import type { OffsetAxis } from '@/core/units';
import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { setupRecord } from '@/server/setups/setupRecord';
import { freshDeps } from '@test/database';
import { TRUE_TERMS } from '@test/sheets';

import { applyCorrection } from './applyCorrection';
import { closeSession, closeAccepting } from './closeSession';
import { finishReading, goRoundAgain, reopenReading } from './finishReading';
import { kindsOfFault } from './faults';
import { getSession } from './loadSession';
import { markPrinted } from './printSheet';
import { saveReading } from './readings';
import { currentPass } from './session';
import { assess } from './assess';
import { startSession } from './startSession';

/* One axis read, typed and proved; then the other, on the second set of the same sheet. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
let rig: SimulatedRig;
beforeAll(async () => {
  deps = await freshDeps('one_axis');
  const offset = { unit: 'mm', step: 0.05, value: 0, min: null, max: null, display: 'signed' } as const;
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'film', toleranceMm: 0.3 },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, changeable: 'settings' },
    settings: [
      { name: 'X', direction: 'right', ...offset },
      { name: 'Y', direction: 'further', ...offset },
    ],
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
  const { settings } = (await getSetup(deps, setupId))!;
  rig = {
    ...{
      seed: 5,
      centre: { x: 105, y: 150 },
      loadScatterMm: 0,
      truth: { ...TRUE_TERMS, shiftXMm: 0.4, shiftYMm: -0.5 },
    },
    settingsAtTruth: Object.fromEntries(settings.map((s) => [s.id, 0])),
    effects: Object.fromEntries(settings.map((s) => [s.id, s.effect])),
  };
});
afterAll(() => deps.close());

async function readAxis(sessionId: string, axis: OffsetAxis): Promise<void> {
  const pass = currentPass((await getSession(deps, sessionId))!);
  const field = loadField(rig, pass.settingsAtCut, pass.load);
  const random = seededRandom(pass.position);
  for (const station of pass.stations) {
    const { pick, coarseMm } = lookAtComb(station[axis], station.scaleCentre, field, random);
    const lengths = nearestLengths(station[axis], pick.line, pick.between, coarseOffset(coarseMm));
    const reading = { passId: pass.id, stationId: station.id, axis, pick: { ...pick, lengths }, coarseMm };
    expect(await saveReading(deps, 'KT', reading)).toMatchObject({ ok: true });
  }
}
const told = async (id: string) => {
  const session = (await getSession(deps, id))!;
  return { session, a: assess(session, currentPass(session))! };
};
const started = async (): Promise<string> => {
  const answer = await startSession(deps, 'KT', { setupId, kind: 'calibration' });
  if (!answer.ok) throw new Error(JSON.stringify(answer.refusal));
  await markPrinted(deps, 'KT', answer.value.sessionId);
  return answer.value.sessionId;
};

test('across is read, typed and proved; along is read of the same set and typed after it', async () => {
  const id = await started();
  await readAxis(id, 'across');
  expect((await finishReading(deps, 'KT', id)).ok).toBe(true);
  const first = await told(id);
  expect(first.session.stage).toBe('correct');
  expect(first.a).toMatchObject({ axis: 'across', state: null });
  expect(kindsOfFault(first.session, currentPass(first.session))).toBeNull();
  expect((await applyCorrection(deps, 'KT', { sessionId: id, how: 'settings' })).ok).toBe(true);
  expect((await getSetup(deps, setupId))!.settings.map((s) => s.value)).toEqual([-0.4, 0]);

  await markPrinted(deps, 'KT', id);
  await readAxis(id, 'across');
  expect((await finishReading(deps, 'KT', id)).ok).toBe(true);
  const proof = await told(id);
  expect(proof.session.stage).toBe('prove');
  expect(proof.a.axis).toBe('across');
  expect(proof.a.r95Mm).toBeLessThan(0.15);

  expect((await reopenReading(deps, 'KT', id)).ok).toBe(true);
  await readAxis(id, 'along');
  expect((await finishReading(deps, 'KT', id)).ok).toBe(true);
  const both = await told(id);
  expect(both.a).toMatchObject({ axis: null, state: 'out-of-plumb' });
  expect((await goRoundAgain(deps, 'KT', id)).ok).toBe(true);
  expect((await applyCorrection(deps, 'KT', { sessionId: id, how: 'settings' })).ok).toBe(true);
  expect((await getSetup(deps, setupId))!.settings.map((s) => s.value)).toEqual([-0.4, 0.5]);
  const { session } = await told(id);
  expect(session.passes.map((p) => [p.sheet.label, p.set])).toEqual([
    ['0001', 1],
    ['0001', 2],
    ['0002', 1],
  ]);
  expect((await closeAccepting(deps, 'KT', id)).ok).toBe(true);
});

test('closed with one axis proved it gives no verdict, and what stood before stands; the record leaves it out', async () => {
  const id = await started();
  await readAxis(id, 'along');
  expect((await finishReading(deps, 'KT', id)).ok).toBe(true);
  expect((await closeSession(deps, 'KT', id)).ok).toBe(true);
  const { session } = await told(id);
  expect(session).toMatchObject({ stage: 'closed', outcome: null, unproved: false });
  const setup = (await getSetup(deps, setupId))!;
  const { loads } = await setupRecord(deps, setup, new Date(Date.now() + 1000));
  // The sheet of the session before, once; nothing of this one.
  expect(loads).toHaveLength(1);
});
