import { eq } from 'drizzle-orm';
import fc from 'fast-check';

import type { Outcome } from '@/core/outcome';
import { acts, corrections, fits, passes, readings, sessions } from '@/db/schema';
import { freshDeps } from '@test/database';

import { applyCorrection } from './applyCorrection';
import type { UseCaseRefusal } from '@/server/base/deps';
import { getSession, openSession } from './loadSession';
import { clearReading, saveReading } from './readings';
import { archiveSetup } from '@/server/setups/archiveSetup';
import { getSetup } from '@/server/setups/repository';
import { addRig } from '@/server/rigs/writeRig';
import { currentPass, type Session } from './session';
import { closeSession, discardSession, undoClose } from './closeSession';
import { decideReadings, finishReading, goRoundAgain, reopenReading, saveBars } from './finishReading';
import { changeSessionSheet, markPrinted } from './printSheet';
import { defaultOptions } from './sheets';
import { startSession } from './startSession';

/*
 * Sessions taken through whatever two people press, in any order, from pages that are out of date, pressed twice, at
 * the same moment, with the rig being taken off the bench: nothing throws, a refusal changes nothing, nothing is kept
 * twice, nothing after the end.
 */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('session_model');
});
afterAll(() => deps.close());

let setups = 0;
async function setup(): Promise<string> {
  const added = await addRig(deps, 'KT', {
    ...{
      name: `Card rig ${(setups += 1)}`,
      printer: 'desk printer',
      cutter: 'small cutter',
      media: 'matt card',
    },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, toleranceMm: 0.4 },
    settings: (['right', 'further'] as const).map((direction, i) => ({
      ...{ name: 'XY'[i]!, unit: 'mm' as const, step: 0.05, value: 0, min: -9, max: 9 },
      ...{ display: 'signed' as const, direction },
    })),
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  return added.value.setupId;
}

const ACTS = [
  ...['read', 'read', 'read', 'read', 'read', 'print', 'print', 'finish', 'finish', 'correct', 'correct'],
  ...[
    'clear',
    'aside',
    'again',
    'reread',
    'lay out',
    'bars',
    'close',
    'open again',
    'discard',
    'archive',
    'start',
  ],
] as const;
const press = fc.record({
  act: fc.constantFrom(...ACTS),
  who: fc.constantFrom('KT', 'IM'),
  at: fc.nat(40),
  other: fc.boolean(),
  /** From a page that was loaded some presses ago. */
  stale: fc.boolean(),
  twice: fc.constantFrom('once', 'once', 'once', 'same number', 'at the same moment'),
});
type Press = typeof press extends fc.Arbitrary<infer T> ? T : never;
type Done = Promise<{ readonly ok: boolean }>;

function pressed(s: Session, p: Press, request: string): Done {
  const stamp = { request, version: s.version };
  const pass = currentPass(s);
  const station = pass.stations[p.at % pass.stations.length]!;
  const comb = { stationId: station.id, axis: p.other ? ('across' as const) : ('along' as const) };
  switch (p.act) {
    case 'read':
      return saveReading(
        deps,
        p.who,
        { passId: pass.id, ...comb, pick: { line: (p.at % 9) - 4, between: false, lengths: 0 }, coarseMm: 0 },
        { request },
      );
    case 'clear':
      return clearReading(deps, p.who, { passId: pass.id, comb }, { request });
    case 'print':
      return markPrinted(deps, p.who, s.id, stamp);
    case 'lay out':
      return changeSessionSheet(
        deps,
        p.who,
        { sessionId: s.id, options: { ...defaultOptions(s.setup, 'mm'), columns: 2, rows: 2 } },
        stamp,
      );
    case 'finish':
      return finishReading(deps, p.who, s.id, { request });
    case 'correct':
      return applyCorrection(deps, p.who, { sessionId: s.id, how: p.other ? 'settings' : 'file' }, stamp);
    case 'aside':
      return decideReadings(deps, p.who, { sessionId: s.id, which: [comb], aside: p.other }, stamp);
    case 'again':
      return goRoundAgain(deps, p.who, s.id, stamp);
    case 'reread':
      return reopenReading(deps, p.who, s.id, stamp);
    case 'bars':
      return saveBars(deps, p.who, { sessionId: s.id, acrossMm: 100 + p.at / 100, alongMm: null }, stamp);
    case 'close':
      return closeSession(deps, p.who, s.id, stamp);
    case 'discard':
      return discardSession(deps, p.who, s.id, stamp);
    case 'open again':
      return undoClose(deps, p.who, s.id, stamp);
    case 'archive':
      return archiveSetup(deps, p.who, { setupId: s.setup.id, archived: p.other }, { request });
    case 'start':
      return startSession(deps, p.who, { setupId: s.setup.id, kind: 'calibration', unit: 'mm' }, { request });
  }
}

async function kept(sessionId: string) {
  const own = await deps.db.select({ id: passes.id }).from(passes).where(eq(passes.sessionId, sessionId));
  let [entered, fitted] = [0, 0];
  for (const { id } of own) {
    entered += await deps.db.$count(readings, eq(readings.passId, id));
    fitted += await deps.db.$count(fits, eq(fits.passId, id));
  }
  return { entered, fitted };
}

/** What holds of every session at any time. */
async function sound(s: Session): Promise<void> {
  expect(s.closedAt === null).toBe(s.stage !== 'closed');
  if (s.discarded) expect([s.stage, s.outcome]).toEqual(['closed', null]);
  const open = await openSession(deps, s.setup.id, 'calibration');
  expect(open === s.id).toBe(s.stage !== 'closed');
  // Off the bench nothing is open.
  if ((await getSetup(deps, s.setup.id))!.archived) expect(open).toBeNull();
  for (const pass of s.passes) {
    if (pass.readings.length > 0) expect(pass.sheet.printedAt).not.toBeNull();
    // A pass that was corrected from is followed by its proof.
    if (pass.correction?.done && pass.correction.done !== 'leave')
      expect(s.passes.some((p) => p.position === pass.position + 1 && p.purpose === 'prove')).toBe(true);
  }
  if (s.stage === 'correct') expect(currentPass(s).correction).not.toBeNull();
}

test('whatever two people press, in whatever order, from whatever page', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(press, { minLength: 12, maxLength: 45 }), async (presses) => {
      const begun = await startSession(deps, 'KT', { setupId: await setup(), kind: 'calibration' });
      if (!begun.ok) throw new Error(JSON.stringify(begun.refusal));
      const id = begun.value.sessionId;
      let page = (await getSession(deps, id))!;
      let before = page;
      let had = await kept(id);
      for (const p of presses) {
        if (!p.stale) page = before;
        const request = crypto.randomUUID();
        const done =
          p.twice === 'at the same moment'
            ? await Promise.all([
                pressed(page, p, request),
                pressed(page, { ...p, who: 'IM' }, crypto.randomUUID()),
              ])
            : [await pressed(page, p, request)];
        const after = (await getSession(deps, id))!;
        const has = await kept(id);
        if (done.every((d) => !d.ok)) expect([after, has]).toEqual([before, had]);
        await sound(after);
        expect(has.entered).toBeGreaterThanOrEqual(had.entered);
        // Nothing is entered after the end, and no press fits twice.
        if (before.stage === 'closed' && p.act === 'read') expect(has).toEqual(had);
        expect(has.fitted - had.fitted).toBeLessThanOrEqual(1);
        if (p.twice === 'same number' && done[0]!.ok) {
          const again = await pressed(page, p, request);
          expect(again.ok).toBe(true);
          expect([(await getSession(deps, id))!, await kept(id)]).toEqual([after, has]);
        }
        [before, had] = [after, has];
      }
    }),
    { numRuns: 14 },
  );
});

test('thirty readings and a close at the same moment: each is kept or refused, none after the end', async () => {
  const begun = await startSession(deps, 'KT', { setupId: await setup(), kind: 'calibration' });
  if (!begun.ok) throw new Error('start');
  const id = begun.value.sessionId;
  await markPrinted(deps, 'KT', id);
  const pass = currentPass((await getSession(deps, id))!);
  const combs = pass.stations.flatMap((s) =>
    (['across', 'along'] as const).map((axis) => ({ stationId: s.id, axis })),
  );
  const pick = { line: 1, between: false, lengths: 0 };
  const read = (i: number) =>
    saveReading(deps, 'KT', { passId: pass.id, ...combs[i % combs.length]!, pick, coarseMm: null });
  const sent: Promise<Outcome<unknown, UseCaseRefusal>>[] = Array.from({ length: 30 }, (_, i) => read(i));
  sent.splice(15, 0, closeSession(deps, 'IM', id));
  const done = await Promise.all(sent);
  const accepted = done.filter((d, i) => i !== 15 && d.ok).length;
  const { closedAt } = (await getSession(deps, id))!;
  expect(closedAt).not.toBeNull();
  expect(await deps.db.$count(readings, eq(readings.passId, pass.id))).toBe(accepted);
  expect((await read(3)).ok).toBe(false);
});

test('a reading answers which change of the session it was: the next is one on, the same number again the same', async () => {
  const begun = await startSession(deps, 'KT', { setupId: await setup(), kind: 'calibration' });
  if (!begun.ok) throw new Error('start');
  const id = begun.value.sessionId;
  await markPrinted(deps, 'KT', id);
  const session = (await getSession(deps, id))!;
  const pass = currentPass(session);
  const comb = { stationId: pass.stations[0]!.id, axis: 'along' as const };
  const [request, again] = [crypto.randomUUID(), crypto.randomUUID()];
  const read = (line: number, number: string) =>
    saveReading(
      deps,
      'KT',
      { passId: pass.id, ...comb, pick: { line, between: false, lengths: 0 }, coarseMm: 0.5 },
      { request: number },
    );
  const first = await read(1, request);
  expect(first).toEqual({ ok: true, value: { changes: session.changes + 1 } });
  expect(await read(2, again)).toEqual({ ok: true, value: { changes: session.changes + 2 } });
  expect(await read(1, request)).toEqual(first);
  const logged = await deps.db
    .select({ pick: readings.pick, coarseMm: readings.coarseMm, replacedAt: readings.replacedAt })
    .from(readings)
    .where(eq(readings.passId, pass.id))
    .orderBy(readings.enteredAt, readings.replacedAt);
  expect(logged).toMatchObject([
    { pick: { line: 1 }, coarseMm: 0.5, replacedAt: expect.any(Date) as Date },
    { pick: { line: 2 }, coarseMm: 0.5, replacedAt: null },
  ]);
  expect(await clearReading(deps, 'KT', { passId: pass.id, comb })).toEqual({
    ok: true,
    value: { changes: session.changes + 3 },
  });
  expect((await getSession(deps, id))!.changes).toBe(session.changes + 3);
  expect(currentPass((await getSession(deps, id))!).readings).toEqual([]);
});

test('the same press under the same number answers the same; the number of something else is refused', async () => {
  const setupId = await setup();
  const request = crypto.randomUUID();
  const first = await startSession(deps, 'KT', { setupId, kind: 'calibration', unit: 'mm' }, { request });
  expect(await startSession(deps, 'KT', { setupId, kind: 'calibration', unit: 'mm' }, { request })).toEqual(
    first,
  );
  expect(await deps.db.$count(sessions, eq(sessions.setupId, setupId))).toBe(1);
  const [logged] = await deps.db.select().from(acts).where(eq(acts.request, request));
  expect(logged).toMatchObject({ act: 'start calibration', subjectId: setupId, by: 'KT' });
  expect(await archiveSetup(deps, 'KT', { setupId, archived: true }, { request })).toMatchObject({
    ok: false,
    refusal: { code: 'stale' },
  });
});

test('two who press “I have typed them” at once: the settings change once, by the amount that was told', async () => {
  const setupId = await setup();
  const begun = await startSession(deps, 'KT', { setupId, kind: 'calibration' });
  if (!begun.ok) throw new Error('start');
  const id = begun.value.sessionId;
  await markPrinted(deps, 'KT', id);
  const pass = currentPass((await getSession(deps, id))!);
  for (const { id: stationId } of pass.stations)
    for (const axis of ['across', 'along'] as const)
      await saveReading(deps, 'KT', {
        ...{ passId: pass.id, stationId, axis, coarseMm: 0 },
        pick: { line: 3, between: false, lengths: 0 },
      });
  await finishReading(deps, 'KT', id);
  const { version } = (await getSession(deps, id))!;
  const done = await Promise.all(
    ['KT', 'IM'].map((who) => applyCorrection(deps, who, { sessionId: id, how: 'settings' }, { version })),
  );
  expect(done.map((d) => d.ok).sort()).toEqual([false, true]);
  const after = (await getSession(deps, id))!;
  expect(after.passes).toHaveLength(2);
  const told = after.passes[0]!.correction!.changes;
  const shows = (await getSetup(deps, setupId))!.settings;
  for (const c of told) expect(shows.find((s) => s.id === c.settingId)!.value).toBe(c.to);
  // Of this session: the walks before it may have typed something too.
  const typed = await deps.db
    .select({ done: corrections.done })
    .from(corrections)
    .innerJoin(fits, eq(fits.id, corrections.fitId))
    .where(eq(fits.passId, pass.id));
  expect(typed).toEqual([{ done: 'settings' }]);
});
