import { coarseOffset, nearestLengths } from '@/core/comb';
import { loadField, lookAtComb, type SimulatedRig } from '@/core/rigsim';
import { seededRandom } from '@/core/random/random';
import { assessPass } from '@/core/calibration';
import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { setupRecord } from '@/server/setups/setupRecord';
import { freshDeps } from '@test/database';
import { TRUE_TERMS } from '@test/sheets';

import { assess, knownOf } from './assess';
import { closeAccepting } from './closeSession';
import { finishReading, goRoundAgain } from './finishReading';
import { getSession } from './loadSession';
import { changeSessionSheet, markPrinted } from './printSheet';
import { saveReading } from './readings';
import { answerShort, typeShort, widenSheet } from './shortSheet';
import { currentPass, isShort, pushesAtHand, settingsAtCut, type Session } from './session';
import { foundOut, sayDirection, takeDirections } from './signs';
import { startSession } from './startSession';
import type { ShortPicks } from './shapes';

/* Two picks, two answers: on rigs that were proved before, on one nobody knows the directions of, and by two at once. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('short_sheet');
});
afterAll(() => deps.close());

interface Hidden {
  readonly setupId: string;
  readonly rig: SimulatedRig;
}

async function hidden(name: string, x: number, y: number, unknown: readonly string[] = []): Promise<Hidden> {
  const offset = { unit: 'mm', step: 0.05, value: 0, min: null, max: null, display: 'signed' } as const;
  const added = await addRig(deps, 'KT', {
    ...{ name, printer: 'printer', cutter: 'cutter', media: `film ${name}`, toleranceMm: 0.3 },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, changeable: 'settings' },
    settings: [
      { name: 'X', direction: 'right', directionKnown: !unknown.includes('X'), ...offset },
      { name: 'Y', direction: 'further', directionKnown: !unknown.includes('Y'), ...offset },
    ],
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const { settings } = (await getSetup(deps, added.value.setupId))!;
  const [across, along] = settings.map((s) => s.effect);
  // What X of an unknown one really does: the other way.
  const turned = (e: typeof across) => ({ ...e!, exMm: unknown.includes('X') ? -e!.exMm : e!.exMm });
  return {
    setupId: added.value.setupId,
    rig: {
      ...{ seed: 5, centre: { x: 105, y: 150 }, loadScatterMm: 0 },
      truth: { ...TRUE_TERMS, shiftXMm: x, shiftYMm: y },
      settingsAtTruth: Object.fromEntries(settings.map((s) => [s.id, 0])),
      effects: { [settings[0]!.id]: turned(across), [settings[1]!.id]: turned(along) },
    },
  };
}

async function short({ setupId }: Hidden): Promise<string> {
  const answer = await startSession(deps, 'KT', { setupId, kind: 'calibration', readBy: 'short' });
  if (!answer.ok) throw new Error(JSON.stringify(answer.refusal));
  await markPrinted(deps, 'KT', answer.value.sessionId);
  return answer.value.sessionId;
}

const loaded = async (id: string): Promise<Session> => (await getSession(deps, id))!;

/** What an eye picks of the newest set. */
async function picksOf({ rig }: Hidden, id: string): Promise<ShortPicks> {
  const pass = currentPass(await loaded(id));
  const [station] = pass.stations;
  const field = loadField(rig, pass.settingsAtCut, pass.load);
  const of = (axis: 'across' | 'along') => {
    const { pick, coarseMm } = lookAtComb(
      ...([station![axis], station!.scaleCentre, field, seededRandom(1)] as const),
    );
    const lengths = nearestLengths(station![axis], pick.line, pick.between, coarseOffset(coarseMm));
    return { pick: { ...pick, lengths }, coarseMm };
  };
  return { across: of('across'), along: of('along') };
}

/** What the screen works out of the picks, as `shortSums` does. */
async function shownFor(id: string, picks: ShortPicks) {
  const { passReading } = await import('@/core/readings');
  const session = await loaded(id);
  const pass = currentPass(session);
  const readings = (['across', 'along'] as const).map((axis) =>
    passReading(pass.stations[0]!, axis, picks[axis].pick, picks[axis].coarseMm, session.acuityMm),
  );
  const typed = settingsAtCut(session, pass).filter((s) => s.directionKnown);
  const area = pass.sheet.geometry.spec.workArea;
  const a = assessPass(readings, typed, area, session.setup.toleranceMm, knownOf(session, pass))!;
  return a.plan.settings.changes.map((c) => ({ settingId: c.settingId, to: c.to }));
}

async function typed(h: Hidden, id: string, how: 'settings' | 'push' | 'leave' | 'see' = 'settings') {
  const session = await loaded(id);
  const picks = await picksOf(h, id);
  const pushes = how === 'push' ? pushesAtHand(session) : [];
  const shown = [...(await shownFor(id, picks)), ...pushes.map(({ settingId, to }) => ({ settingId, to }))];
  const passId = currentPass(session).id;
  return typeShort(deps, 'KT', { sessionId: id, passId, picks, how, shown }, { version: session.version });
}
const answered = async (h: Hidden, id: string) =>
  answerShort(deps, 'KT', {
    sessionId: id,
    passId: currentPass(await loaded(id)).id,
    picks: await picksOf(h, id),
  });
const values = async ({ setupId }: Hidden): Promise<number[]> =>
  (await getSetup(deps, setupId))!.settings.map((s) => s.value);

const offBy = async (h: Hidden, wanted: readonly number[]): Promise<number> =>
  Math.max(...(await values(h)).map((v, i) => Math.abs(v - wanted[i]!)));

test('both picks are kept, typed and proved on the same sheet in three steps; the log learns the place', async () => {
  const h = await hidden('plain', 0.32, -0.41);
  const id = await short(h);
  expect(isShort(currentPass(await loaded(id)))).toBe(true);
  expect((await typed(h, id)).ok).toBe(true);
  // Read to a tenth, typed to a twentieth.
  expect(await offBy(h, [-0.32, 0.41])).toBeLessThan(0.1);
  const second = currentPass(await loaded(id));
  expect([second.set, second.load, second.purpose]).toEqual([2, 1, 'prove']);
  expect((await answered(h, id)).ok).toBe(true);
  const session = await loaded(id);
  expect(session.stage).toBe('prove');
  const a = assess(session, currentPass(session))!;
  expect(a.middle!.thisLoadMm).toBeLessThan(0.2);
  expect(a.pooling).toBe('joined');
  // What nobody saw is in the promise: it is not plumb.
  expect(a.r95Mm).toBeGreaterThan(0.3);
  expect((await closeAccepting(deps, 'KT', id)).ok).toBe(true);
  const closed = await loaded(id);
  expect(closed.outcomeR95Mm).toBe(a.r95Mm);
  expect((await getSetup(deps, h.setupId))!.standing.r95Mm).toBe(a.r95Mm);
  // By itself one place tells the log nothing; a full sheet before it would be sharpened by it.
  const record = await setupRecord(deps, (await getSetup(deps, h.setupId))!, new Date(Date.now() + 1e6));
  expect(record.told).toEqual([]);
});

test('a rig that only moves, proved once, opens with the short way; what was chosen is remembered', async () => {
  const h = await hidden('proved', 0.2, 0.2);
  const first = await startSession(deps, 'KT', { setupId: h.setupId, kind: 'calibration' });
  if (!first.ok) throw new Error();
  const id = first.value.sessionId;
  expect(isShort(currentPass(await loaded(id)))).toBe(false);
  await changeSessionSheet(deps, 'KT', {
    sessionId: id,
    options: { columns: 4, rows: 4, secondSet: false, unit: 'mm', step: 0.1, readBy: 'short' },
  });
  // However many stations were asked for, a short sheet has one in each set.
  expect(currentPass(await loaded(id)).sheet.geometry.stations.map((s) => s.id)).toEqual(['A1', 'B1']);
  await markPrinted(deps, 'KT', id);
  expect((await typed(h, id)).ok).toBe(true);
  expect((await answered(h, id)).ok).toBe(true);
  expect((await closeAccepting(deps, 'KT', id)).ok).toBe(true);
  const again = await startSession(deps, 'KT', { setupId: h.setupId, kind: 'calibration' });
  if (!again.ok) throw new Error();
  expect(isShort(currentPass(await loaded(again.value.sessionId)))).toBe(true);
});

test('what is carried out is what the screen showed: other figures, an older set or page, are refused and nothing is kept', async () => {
  const h = await hidden('stale', 0.3, 0.3);
  const id = await short(h);
  const session = await loaded(id);
  const picks = await picksOf(h, id);
  const passId = currentPass(session).id;
  const shown = (await shownFor(id, picks)).map((s) => ({ ...s, to: s.to + 0.05 }));
  const send = (more: object) =>
    typeShort(deps, 'KT', { sessionId: id, passId, picks, how: 'settings', shown, ...more });
  expect(await send({})).toMatchObject({ ok: false, refusal: { code: 'stale' } });
  expect(currentPass(await loaded(id)).readings).toEqual([]);
  expect(await send({ passId: crypto.randomUUID() })).toMatchObject({ ok: false });
  expect(await send({ picks: { across: picks.across } })).toMatchObject({ ok: false });
  expect(await send({ how: 'hope' })).toMatchObject({ ok: false });
  expect(await values(h)).toEqual([0, 0]);
  // Two tablets press at once: one is carried out, the other is told.
  const [one, other] = await Promise.all([typed(h, id), typed(h, id)]);
  expect([one, other].filter((r) => r!.ok)).toHaveLength(1);
  expect(await offBy(h, [-0.3, -0.3])).toBeLessThan(0.1);
});

test('nothing to type: it is left and closed; to be looked at first: it stands on Correct', async () => {
  const near = await hidden('near', 0.02, 0.01);
  const id = await short(near);
  expect((await typed(near, id, 'leave')).ok).toBe(true);
  expect(await loaded(id)).toMatchObject({ stage: 'closed', unproved: false });
  expect(await values(near)).toEqual([0, 0]);
  const far = await hidden('far', 2.4, 0);
  const seen = await short(far);
  expect((await typed(far, seen, 'see')).ok).toBe(true);
  expect((await loaded(seen)).stage).toBe('correct');
  expect(assess(await loaded(seen), currentPass(await loaded(seen)))!.plan.field.exMm).toBeCloseTo(2.4, 1);
});

test('directions nobody knows: both are pushed in one set, told by it, and typed from the same readings', async () => {
  const h = await hidden('unknown', 0.4, 0.3, ['X', 'Y']);
  const id = await short(h);
  expect((await typed(h, id, 'push')).ok).toBe(true);
  expect((await values(h)).map((v) => Math.abs(v))).toEqual([0.5, 0.8]);
  expect((await answered(h, id)).ok).toBe(true);
  expect(foundOut(await loaded(id)).map((f) => [f.did, f.direction])).toEqual([
    ['told', 'left'],
    ['told', 'further'],
  ]);
  expect((await takeDirections(deps, 'KT', id)).ok).toBe(true);
  expect((await goRoundAgain(deps, 'KT', id)).ok).toBe(true);
  const { correction } = currentPass(await loaded(id));
  // X moves left: from 0.5, which moved the 0.4 to −0.1, to 0.4.
  expect(correction!.changes.map((c) => c.to)).toEqual([0.4, -0.3]);
});

test('one way known, one not: typed and pushed in one set, and told by it', async () => {
  const h = await hidden('half known', 0.4, 0.3, ['X']);
  const id = await short(h);
  expect((await typed(h, id, 'push')).ok).toBe(true);
  // Y takes its 0.3 out at once, while X is pushed.
  expect(await values(h)).toEqual([0.5, -0.3]);
  expect((await answered(h, id)).ok).toBe(true);
  expect(foundOut(await loaded(id)).map((f) => [f.did, f.direction])).toEqual([['told', 'left']]);
});

test('who knows the way says so: the push becomes a figure, once by two at once, and nobody’s word again when taken back', async () => {
  const h = await hidden('said', 0.4, 0.3, ['X', 'Y']);
  const id = await short(h);
  expect((await typed(h, id, 'see')).ok).toBe(true);
  const changes = async () =>
    currentPass(await loaded(id))
      .correction!.changes.filter((c) => c.from !== c.to)
      .map((c) => [c.settingId, c.to > 0 ? 'up' : 'down']);
  const [x, y] = (await loaded(id)).setup.settings;
  const say = (settingId: string, direction: unknown, version?: number) =>
    sayDirection(deps, 'KT', { sessionId: id, settingId, direction } as never, { version });
  expect(await changes()).toEqual([]);
  const { version } = await loaded(id);
  const both = await Promise.all([say(x!.id, 'left', version), say(x!.id, 'right', version)]);
  expect(both.map((b) => b.ok).sort()).toEqual([false, true]);
  expect((await say(x!.id, 'left')).ok).toBe(true);
  expect(await changes()).toEqual([[x!.id, 'up']]);
  // As it stood: the figures are worked out anew all the same.
  expect((await say(y!.id, 'further')).ok).toBe(true);
  expect(await changes()).toEqual([
    [x!.id, 'up'],
    [y!.id, 'down'],
  ]);
  expect((await say(x!.id, null)).ok).toBe(true);
  expect(await changes()).toEqual([[y!.id, 'down']]);
  expect(pushesAtHand(await loaded(id)).map((p) => p.settingId)).toEqual([x!.id]);
  expect(await say(x!.id, 'wider')).toMatchObject({
    refusal: { message: expect.stringMatching(/cannot do that/) },
  });
  expect(await say(crypto.randomUUID(), 'left')).toMatchObject({ refusal: { code: 'not-found' } });
});

test('widened at any time: the picks stay, the full sheet tells every term, and the setup goes on opening short', async () => {
  const h = await hidden('wide', 0.3, 0);
  const id = await short(h);
  expect((await typed(h, id)).ok).toBe(true);
  expect((await widenSheet(deps, 'KT', id)).ok).toBe(true);
  const wide = await loaded(id);
  expect(wide.stage).toBe('print');
  expect(wide.passes.map((p) => [p.purpose, p.readings.length, p.stations.length, p.load])).toEqual([
    ['measure', 2, 1, 1],
    ['prove', 0, 1, 1],
    ['measure', 0, 9, 2],
  ]);
  expect(await widenSheet(deps, 'KT', id)).toMatchObject({ ok: false });
  await markPrinted(deps, 'KT', id);
  const pass = currentPass(await loaded(id));
  const field = loadField(h.rig, pass.settingsAtCut, pass.load);
  for (const station of pass.stations)
    for (const axis of ['across', 'along'] as const) {
      const { pick, coarseMm } = lookAtComb(station[axis], station.scaleCentre, field, seededRandom(3));
      const lengths = nearestLengths(station[axis], pick.line, pick.between, coarseOffset(coarseMm));
      await saveReading(deps, 'KT', {
        ...{ passId: pass.id, stationId: station.id, axis, pick: { ...pick, lengths }, coarseMm },
      });
    }
  expect((await finishReading(deps, 'KT', id)).ok).toBe(true);
  const told = await loaded(id);
  expect(assess(told, currentPass(told))).toMatchObject({ scope: 'whole-area', middle: null });
});
