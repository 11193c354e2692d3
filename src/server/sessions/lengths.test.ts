import { desc, isNull } from 'drizzle-orm';

import { fits, lengths } from '@/db/schema';
import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { freshDeps } from '@test/database';
import { readByTruth } from '@test/reading';

import { finishReading } from './finishReading';
import { clearLength, saveLength } from './lengths';
import { getSession } from './loadSession';
import { markPrinted } from './printSheet';
import { currentPass, featuresOf } from './session';
import { assess } from './assess';
import { startSession } from './startSession';

/* Long lengths kept with a set: by two at once, corrected, taken back, joined and logged. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let sessionId: string;
beforeAll(async () => {
  deps = await freshDeps('lengths');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'film', settings: [] },
    ...{ sheetWidthMm: 400, sheetHeightMm: 600, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 380, areaHeightMm: 570, toleranceMm: 0.4 },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const started = await startSession(deps, 'KT', { setupId: added.value.setupId, kind: 'calibration' });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  ({ sessionId } = started.value);
  await markPrinted(deps, 'KT', sessionId);
  const setup = (await getSetup(deps, added.value.setupId))!;
  await readByTruth(deps, sessionId, { x: 0.3, y: 0 }, setup);
});
afterAll(() => deps.close());

const session = async () => (await getSession(deps, sessionId))!;
const pass = async () => currentPass(await session());
/** The sides and a diagonal of the set, as they are on the sheet. */
async function spans() {
  const { id, ...rest } = await pass();
  const places = featuresOf(rest);
  const [first, last] = [places[0]!, places.at(-1)!];
  return { passId: id, from: first.id, to: last.id, mm: Math.hypot(last.x - first.x, last.y - first.y) };
}

test('a length is kept once, whichever end is named first and however often it is sent; the newest counts', async () => {
  const { passId, from, to, mm } = await spans();
  const length = { passId, from, to, printMm: mm, cutMm: mm + 0.7, resolutionMm: 0.5 };
  const request = crypto.randomUUID();
  const kept = await Promise.all([
    saveLength(deps, 'KT', length, { request }),
    saveLength(deps, 'KT', length, { request }),
    saveLength(deps, 'MO', { ...length, from: to, to: from, cutMm: mm + 0.5 }),
  ]);
  expect(kept.every((k) => k.ok)).toBe(true);
  expect((await pass()).lengths).toHaveLength(1);
  expect(await deps.db.select().from(lengths)).toHaveLength(2);
});

test.each([
  ['a station that is none of this set', { to: 'Z9' }, 'to'],
  ['one station twice', { to: undefined }, 'to'],
  ['inches taken for mm', { cutMm: 20 }, 'cutMm'],
  ['a print half as long', { printMm: 100 }, 'printMm'],
  ['no ruler', { resolutionMm: 0 }, 'resolutionMm'],
  ['no number', { cutMm: 'long' }, 'cutMm'],
])('%s is refused by its field', async (_, wrong, field) => {
  const { passId, from, to, mm } = await spans();
  const sent = { passId, from, to, printMm: null, cutMm: mm, resolutionMm: 0.5, ...wrong };
  const answer = await saveLength(deps, 'KT', { ...sent, to: sent.to ?? from });
  expect(answer).toMatchObject({ ok: false, refusal: { code: 'invalid-input' } });
  expect(Object.keys((answer as { refusal: { fields: object } }).refusal.fields)).toEqual([field]);
});

test('it is joined with the stations, kept with the fit, and gone again when taken back', async () => {
  const [kept] = (await pass()).lengths;
  const before = assess(await session(), await pass())!;
  expect(before.estimate.field.b22).not.toBe(before.fit.field.b22);
  expect((await finishReading(deps, 'KT', sessionId)).ok).toBe(true);
  const [fit] = await deps.db.select().from(fits).orderBy(desc(fits.createdAt)).limit(1);
  expect(fit!.inputs).toMatchObject({ lengths: [{ from: kept!.from }], estimate: { model: 'affine' } });
  // What was proposed is void.
  const passId = (await pass()).id;
  expect((await clearLength(deps, 'MO', { passId, lengthId: kept!.id })).ok).toBe(true);
  expect((await session()).stage).toBe('read');
  expect(await clearLength(deps, 'MO', { passId, lengthId: kept!.id })).toMatchObject({
    refusal: { code: 'not-found' },
  });
  const after = assess(await session(), await pass())!;
  expect(after.estimate.field.b22).toBe(after.fit.field.b22);
  expect(await deps.db.select().from(lengths).where(isNull(lengths.replacedAt))).toEqual([]);
  expect((await deps.db.select().from(lengths)).every((l) => l.replacedAt !== null)).toBe(true);
});
