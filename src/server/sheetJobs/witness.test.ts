import { eq } from 'drizzle-orm';
import sharp from 'sharp';

import { pickNearest } from '@/core/comb';
import { sheetCuts, standingCorrections } from '@/db/schema';
import { addRig } from '@/server/rigs/writeRig';
import { closeSession, discardSession } from '@/server/sessions/closeSession';
import { finishReading } from '@/server/sessions/finishReading';
import { getSession } from '@/server/sessions/loadSession';
import { saveReading } from '@/server/sessions/readings';
import { currentPass, sheetName } from '@/server/sessions/session';
import { assess } from '../sessions/assess';
import { startSession } from '@/server/sessions/startSession';
import { getSetup } from '@/server/setups/repository';
import { freshDeps } from '@test/database';

import { createJob } from './createJob';
import { newJobSchema } from './shapes';
import { freezeJob } from './freezeJob';
import { cutAgain } from './steps';
import { readWitness, witnessesOf } from './witness';

/* A job's witness read as a quick check: begun once, with the job's own correction, and kept in the log. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
let jobId: string;
const SHIFTED = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.2, ty: 0 };
beforeAll(async () => {
  deps = await freshDeps('witness');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Desk rig', printer: 'desk printer', cutter: 'small cutter', media: 'label sheet' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 8, marginNearMm: 8 },
    ...{ areaWidthMm: 194, areaHeightMm: 281, toleranceMm: 0.5, settings: [] },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
  await deps.db
    .update(standingCorrections)
    .set({ fileTransform: SHIFTED })
    .where(eq(standingCorrections.setupId, setupId));
  const art =
    '<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"><rect width="90" height="90" fill="#fff"/><circle cx="45" cy="45" r="40" fill="#c0392b"/></svg>';
  const bytes = await sharp(Buffer.from(art)).png().toBuffer();
  const recipe = { size: { widthMm: 48 } };
  const made = await createJob(deps, 'KT', {
    art: { bytes, name: 'disc.png' },
    job: newJobSchema.parse({ setupId, name: 'jar label', recipe, copies: 4 }),
  });
  if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  ({ jobId } = made.value);
});
afterAll(() => deps.close());

const begin = (more: object = {}) => readWitness(deps, 'KT', { jobId, revision: 1, sheet: 0, ...more });

test('a draft has no cut file to read; frozen it is begun once by whoever presses, and read as a check', async () => {
  expect(await begin()).toMatchObject({ ok: false, refusal: { code: 'not-found' } });
  expect((await freezeJob(deps, 'KT', { jobId: jobId })).ok).toBe(true);
  const both = await Promise.all([begin(), begin()]);
  const ids = both.map((b) => (b.ok ? b.value.sessionId : ''));
  expect(ids[0]).toBe(ids[1]);
  const session = (await getSession(deps, ids[0]!))!;
  const pass = currentPass(session);
  expect(session).toMatchObject({ kind: 'quick-check', stage: 'read' });
  expect(pass.fileTransform).toEqual(SHIFTED);
  expect(sheetName(pass.sheet)).toBe('the witness of P0001');
  expect(await witnessesOf(deps, jobId)).toMatchObject([{ open: true, outcome: null }]);

  const [station] = pass.stations;
  for (const axis of ['across', 'along'] as const)
    await saveReading(deps, 'KT', {
      ...{ passId: pass.id, stationId: station!.id, axis, coarseMm: 0 },
      pick: pickNearest(station![axis], axis === 'across' ? 0.1 : 0),
    });
  expect((await finishReading(deps, 'KT', session.id)).ok).toBe(true);
  const read = (await getSession(deps, session.id))!;
  expect(assess(read, currentPass(read))).toMatchObject({ scope: 'one-place', state: 'plumb' });
  expect((await closeSession(deps, 'KT', session.id)).ok).toBe(true);
  expect(await witnessesOf(deps, jobId)).toMatchObject([
    { open: false, outcome: 'plumb', sessionId: session.id },
  ]);
  // A check clears nothing of what stands.
  expect((await getSetup(deps, setupId))!.standing.fileTransform).toEqual(SHIFTED);
  expect(await begin()).toMatchObject({ ok: true, value: { sessionId: session.id } });
});

test.each([
  ['a sheet that the job has not', { sheet: 7 }, 'refused'],
  ['a cut file that was not made', { revision: 9 }, 'not-found'],
  ['no job', { jobId: crypto.randomUUID() }, 'not-found'],
])('%s is refused', async (_, more, code) => {
  expect(await begin(more)).toMatchObject({ ok: false, refusal: { code } });
});

test('a cut file that follows a scaled print has no witness to read: it would put the print’s scale into the log', async () => {
  await deps.db.insert(sheetCuts).values({
    ...{ jobId, revision: 9, madeBy: 'KT', madeAt: deps.now() },
    made: { correction: SHIFTED, standingId: null, printScale: 1.004 },
  });
  expect(await begin({ revision: 9 })).toMatchObject({ ok: false, refusal: { code: 'refused' } });
  await deps.db.delete(sheetCuts).where(eq(sheetCuts.revision, 9));
});

test('while another check of the setup is open it waits; thrown away it is begun anew', async () => {
  expect((await cutAgain(deps, 'KT', { jobId, correction: 'none' })).ok).toBe(true);
  const open = await startSession(deps, 'KT', { setupId, kind: 'quick-check' });
  if (!open.ok) throw new Error(JSON.stringify(open.refusal));
  expect(await begin({ revision: 2 })).toMatchObject({ ok: false, refusal: { code: 'refused' } });
  expect((await discardSession(deps, 'KT', open.value.sessionId)).ok).toBe(true);
  const first = await begin({ revision: 2 });
  if (!first.ok) throw new Error(JSON.stringify(first.refusal));
  expect(currentPass((await getSession(deps, first.value.sessionId))!).fileTransform).toBeNull();
  expect((await discardSession(deps, 'KT', first.value.sessionId)).ok).toBe(true);
  const anew = await begin({ revision: 2 });
  expect(anew).toMatchObject({ ok: true });
  expect(anew).not.toEqual(first);
  expect((await witnessesOf(deps, jobId)).map((w) => w.revision)).toEqual([1, 2]);
});
