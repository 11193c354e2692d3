import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { setupRecord } from '@/server/setups/setupRecord';
import { freshDeps } from '@test/database';
import { readByTruth } from '@test/reading';
import { TWO_MARKS } from '@test/setups';

import { registerAgain } from './applyCorrection';
import { closeSession } from './closeSession';
import { finishReading } from './finishReading';
import { getSession } from './loadSession';
import { markPrinted } from './printSheet';
import { currentPass, mayRegisterAgain } from './session';
import { assess } from './assess';
import { startSession } from './startSession';

/* A sheet registered twice without unloading: what reading the marks makes up of what loads differ by. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('register_again');
});
afterAll(() => deps.close());

async function rig(name: string, marks: boolean): Promise<string> {
  const added = await addRig(deps, 'KT', {
    ...{ name, printer: 'p', cutter: 'c', media: 'film', settings: [], toleranceMm: 0.4 },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270 },
    marks: marks ? TWO_MARKS : null,
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  return added.value.setupId;
}

/** Set A read, registered again, set B read: where it landed the second time. */
async function twice(setupId: string, secondXMm: number) {
  const started = await startSession(deps, 'KT', { setupId, kind: 'calibration' });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  const { sessionId } = started.value;
  const setup = (await getSetup(deps, setupId))!;
  await markPrinted(deps, 'KT', sessionId);
  await readByTruth(deps, sessionId, { x: 0.1, y: 0 }, setup);
  await finishReading(deps, 'KT', sessionId);
  const answers = await Promise.all([1, 2].map(() => registerAgain(deps, 'KT', sessionId)));
  if (answers.every((a) => !a.ok)) return { sessionId, answers };
  await markPrinted(deps, 'KT', sessionId);
  await readByTruth(deps, sessionId, { x: secondXMm, y: 0 }, setup);
  await finishReading(deps, 'KT', sessionId);
  return { sessionId, answers };
}

test('pressed by two it is done once; set B is the same load with nothing changed, and the record holds the pair', async () => {
  const setupId = await rig('Marks', true);
  for (const x of [0.1, 0.2, 0]) {
    const { sessionId, answers } = await twice(setupId, x);
    expect(answers.map((a) => a.ok).sort()).toEqual([false, true]);
    const session = (await getSession(deps, sessionId))!;
    expect(session.stage).toBe('prove');
    expect(session.passes.map((p) => [p.set, p.load, p.purpose])).toEqual([
      [1, 1, 'measure'],
      [2, 1, 'prove'],
    ]);
    expect(session.passes[0]!.correction!.done).toBe('leave');
    expect(mayRegisterAgain(session)).toBe(false);
    expect(assess(session, currentPass(session))!.r95Mm).toBeGreaterThan(0);
    await closeSession(deps, 'KT', sessionId);
  }
  const setup = (await getSetup(deps, setupId))!;
  const { registered } = await setupRecord(deps, setup, new Date(Date.now() + 1000));
  expect(registered.map((p) => Math.abs(Math.round(20 * p.xMm) / 20))).toEqual([0, 0.1, 0.1]);
  expect(registered.every((p) => p.varMm2 > 0)).toBe(true);
});

test('a rig without marks has nothing to register', async () => {
  const { answers } = await twice(await rig('Plain', false), 0.1);
  expect(answers).toMatchObject([{ ok: false }, { ok: false }]);
});
