import { type CorrectionWay } from '@/core/setup';
import { and, eq, inArray, sql } from 'drizzle-orm';

import { provedEffects } from '@/core/correction';
import { FIT_VERSION } from '@/core/fit';
import { applyAffine } from '@/core/geometry';
import { loadField, lookAtComb, stripField, termsAbout, type SimulatedRig } from '@/core/rigsim';
import { coarseOffset, nearestLengths } from '@/core/comb';
import { seededRandom } from '@/core/random/random';
import {
  correctedFiles,
  fileContents,
  fits,
  passes,
  proofSheets,
  readings,
  setups as setupTable,
} from '@/db/schema';
import { correctFileByStored } from '@/server/files/correctFile';
import { foundOutWords } from '@/features/calibrate/prove/signs.view';
import { freshDeps } from '@test/database';
import { logCsv, logDocument } from '@test/log';
import { A4_CENTRE } from '@test/sheets';

import { csvLines } from '@/server/base/csv';
import { setupDrift } from '@/server/drift/setupDrift';
import { kindsOfFault } from './faults';
import { applyCorrection } from './applyCorrection';
import { loadBench } from '@/server/setups/bench';
import { listSessions, sessionTrace } from '@/server/logbook/logbook';
import { startRollProof, startSession } from './startSession';
import { archiveSetup } from '@/server/setups/archiveSetup';
import { sayFirstEdge, settingHistory } from '@/server/setups/history';
import { getSetup, getSimulation, listSetups } from '@/server/setups/repository';
import { type Setup, type SetupSetting } from '@/server/setups/setup';
import { addRig, changeRig } from '@/server/rigs/writeRig';
import { getRig } from '@/server/rigs/repository';
import type { RigDraft } from '@/server/setups/shapes';
import { changeSetup } from '@/server/setups/writeSetup';
import { getSession } from './loadSession';
import { saveOther } from './otherReadings';
import { sheetOptionsSchema } from './shapes';
import { clearReading, saveReading } from './readings';
import { currentPass, settingsAtCut, waysOf } from './session';
import { assess } from './assess';
import { closeSession, undoClose, closeAccepting } from './closeSession';
import { decideReadings, finishReading, goRoundAgain, reopenReading, saveBars } from './finishReading';
import { changeSessionSheet, markPrinted } from './printSheet';
import { foundOut, takeDirections } from './signs';
import { makeSheet, defaultOptions, sheetCutLayer } from './sheets';

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('sessions');
});
afterAll(() => deps.close());

const INPUT: RigDraft = {
  name: 'Card rig',
  printer: 'desk printer',
  cutter: 'small cutter',
  media: 'matt card',
  sheetWidthMm: 210,
  sheetHeightMm: 297,
  marginLeftMm: 10,
  marginNearMm: 15,
  areaWidthMm: 190,
  areaHeightMm: 270,
  toleranceMm: 0.4,
  settings: [
    { name: 'X', unit: 'mm', step: 0.05, value: 0.15, min: -9, max: 9, display: 'signed', direction: 'left' },
    {
      name: 'Y',
      unit: 'in',
      step: 0.002,
      value: -0.05,
      min: null,
      max: null,
      display: 'sign-and-size',
      direction: 'further',
    },
  ],
};

async function setup(change: Partial<RigDraft> = {}): Promise<Setup> {
  const added = await addRig(deps, 'KT', { ...INPUT, ...change });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  return (await getSetup(deps, added.value.setupId))!;
}

/** What the form would send for the rig's settings. */
const settingsOf = (r: Setup): RigDraft['settings'] =>
  r.settings.map(({ id, name, unit, step, value, min, max, display, direction }) => ({
    id,
    name,
    unit,
    step,
    value,
    min,
    max,
    display,
    direction,
  }));

const hidden = (r: Setup): SimulatedRig => ({
  seed: 5,
  truth: {
    shiftXMm: -2.95,
    shiftYMm: 3.1,
    turnRad: 0.0012,
    scaleAcross: 1.0008,
    scaleAlong: 0.999,
    leanRad: -0.0006,
  },
  centre: A4_CENTRE,
  settingsAtTruth: Object.fromEntries(r.settings.map((s) => [s.id, s.value])),
  effects: Object.fromEntries(r.settings.map((s) => [s.id, s.effect])),
  loadScatterMm: 0.02,
});

async function readPass(sessionId: string, simulation: SimulatedRig): Promise<void> {
  const session = (await getSession(deps, sessionId))!;
  const pass = currentPass(session);
  const at =
    session.kind === 'roll-proof'
      ? stripField(simulation, pass.settingsAtCut, pass.load)
      : () => loadField(simulation, pass.settingsAtCut, pass.load);
  const random = seededRandom(pass.position);
  for (const station of [...pass.stations].sort((a, b) => a.scaleCentre.y - b.scaleCentre.y))
    for (const axis of ['across', 'along'] as const) {
      const comb = station[axis];
      const field = at(station.scaleCentre.y);
      const sight = lookAtComb(comb, station.scaleCentre, field, random, undefined, pass.fileTransform);
      const lengths = nearestLengths(comb, sight.pick.line, false, coarseOffset(sight.coarseMm));
      const saved = await saveReading(deps, 'KT', {
        passId: pass.id,
        stationId: station.id,
        axis,
        pick: { ...sight.pick, lengths },
        coarseMm: sight.coarseMm,
      });
      expect(saved.ok).toBe(true);
    }
}

const start = async (
  setupId: string,
  kind: 'calibration' | 'quick-check' = 'calibration',
): Promise<string> => {
  const started = await startSession(deps, 'KT', { setupId, kind, readBy: 'comb' });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  return started.value.sessionId;
};

test.each<CorrectionWay>(['settings', 'both', 'file'])(
  'a rig 3 mm out on both axes is brought in by %s, proved on the same sheet, and traced in the log',
  async (way) => {
    const r = await setup({ name: `Rig by ${way}` });
    const simulation = hidden(r);
    const sessionId = await start(r.id);
    await markPrinted(deps, 'KT', sessionId);
    await readPass(sessionId, simulation);
    expect(await finishReading(deps, 'KT', sessionId)).toMatchObject({
      ok: true,
      value: { stage: 'correct' },
    });
    expect(await applyCorrection(deps, 'KT', { sessionId, how: way })).toEqual({
      ok: true,
      value: { needsNewSheet: false },
    });
    await markPrinted(deps, 'KT', sessionId);
    await readPass(sessionId, simulation);
    await finishReading(deps, 'KT', sessionId);
    const proved = (await getSession(deps, sessionId))!;
    const [found, left] = proved.passes.map((p) => assess(proved, p)!);
    expect(found!.r95Mm).toBeGreaterThan(4);
    expect(kindsOfFault(proved, proved.passes[0]!)![0]!.kind).toBe('calibration');
    // The linear terms reach 0.3 mm at the corners: only the file takes them away.
    expect(left!.r95Mm).toBeLessThan(way === 'settings' ? 0.55 : 0.2);
    expect(Math.hypot(left!.fit.terms.shiftXMm, left!.fit.terms.shiftYMm)).toBeLessThan(0.1);
    if (way !== 'settings') expect(left!.plan.decision).toBe('leave');
    expect((await closeSession(deps, 'IM', sessionId)).ok).toBe(true);

    const closed = (await getSession(deps, sessionId))!;
    expect(closed).toMatchObject({ stage: 'closed', closedBy: 'IM', outcomeR95Mm: left!.r95Mm });
    const trace = await sessionTrace(deps, sessionId);
    expect(trace.entered).toHaveLength(36);
    expect(trace.typed.map((t) => t.setting)).toEqual(way === 'file' ? [] : ['X', 'Y']);
    expect(trace.fits.map((f) => f.fit.version)).toEqual([FIT_VERSION, FIT_VERSION]);
    const after = (await getSetup(deps, r.id))!;
    if (way !== 'file') expect(after.settings[0]!.value).toBeCloseTo(0.15 - 2.95, 0);
    expect((await settingHistory(deps, (await getRig(deps, r.rigId))!)).length).toBe(way === 'file' ? 2 : 4);
  },
);

test('going round again composes with the file that was cut: the second file undoes both', async () => {
  const r = await setup({ name: 'Round rig', settings: [] });
  const simulation = { ...hidden(r), loadScatterMm: 0 };
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, simulation);
  await finishReading(deps, 'KT', sessionId);
  await applyCorrection(deps, 'KT', { sessionId, how: 'file' });
  await markPrinted(deps, 'KT', sessionId);
  // Meanwhile the rig slips by half a millimetre.
  const slipped = {
    ...simulation,
    truth: { ...simulation.truth, shiftXMm: simulation.truth.shiftXMm + 0.5 },
  };
  await readPass(sessionId, slipped);
  await finishReading(deps, 'KT', sessionId);
  await goRoundAgain(deps, 'KT', sessionId);
  expect(await applyCorrection(deps, 'KT', { sessionId, how: 'file' })).toEqual({
    ok: true,
    value: { needsNewSheet: true },
  });
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, slipped);
  const session = (await getSession(deps, sessionId))!;
  expect(session.passes).toHaveLength(3);
  expect(assess(session, currentPass(session))!.r95Mm).toBeLessThan(0.2);
});

test('a printed sheet is frozen, in the use case and in the database', async () => {
  const r = await setup({ name: 'Frozen rig' });
  const sessionId = await start(r.id);
  const options = { ...defaultOptions(r, 'mm'), columns: 2 };
  expect((await changeSessionSheet(deps, 'KT', { sessionId, options })).ok).toBe(true);
  await markPrinted(deps, 'KT', sessionId);
  const refused = await changeSessionSheet(deps, 'KT', { sessionId, options });
  expect(refused).toMatchObject({ ok: false, refusal: { message: expect.stringContaining('frozen') } });
  const { sheet } = currentPass((await getSession(deps, sessionId))!);
  const change = deps.db.update(proofSheets).set({ geometry: {} }).where(eq(proofSheets.id, sheet.id));
  await expect(change).rejects.toMatchObject({ cause: { message: expect.stringContaining('frozen') } });
  expect(sheetCutLayer(sheet, 1).paths.length).toBeGreaterThan(100);
});

test('two tablets reading the same comb lose nothing: one counts, both are in the log', async () => {
  const r = await setup({ name: 'Tablet rig' });
  const [a, b] = await Promise.all([start(r.id), start(r.id)]);
  expect(a).toBe(b);
  await markPrinted(deps, 'KT', a);
  const pass = currentPass((await getSession(deps, a))!);
  const save = (line: number) =>
    saveReading(deps, 'KT', {
      passId: pass.id,
      stationId: 'A1',
      axis: 'across',
      pick: { line, between: false, lengths: 0 },
      coarseMm: 0,
    });
  const saved = await Promise.all([save(1), save(2), save(3)]);
  expect(saved.every((s) => s.ok)).toBe(true);
  const rows = await deps.db.select().from(readings).where(eq(readings.passId, pass.id));
  expect(rows).toHaveLength(3);
  expect(rows.filter((row) => row.replacedAt === null)).toHaveLength(1);
});

test('somebody else saved first: the save is refused with both values shown', async () => {
  const r = await setup({ name: 'Shared rig' });
  const first = await changeSetup(deps, 'IM', {
    setupId: r.id,
    version: r.version,
    ...INPUT,
    toleranceMm: 0.6,
  });
  expect(first.ok).toBe(true);
  const second = await changeSetup(deps, 'KT', {
    setupId: r.id,
    version: r.version,
    ...INPUT,
    toleranceMm: 0.3,
  });
  expect(second).toMatchObject({
    ok: false,
    refusal: { code: 'stale', message: expect.stringContaining('saved “0.6”, yours “0.3”') },
  });
  expect((await getSetup(deps, r.id))!.toleranceMm).toBe(0.6);
});

test('a setting changed since the sheet was cut makes its figures void', async () => {
  const r = await setup({ name: 'Meddled rig' });
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, hidden(r));
  await finishReading(deps, 'KT', sessionId);
  const settings = settingsOf(r).map((s) => ({ ...s, value: 1 }));
  const { version } = (await getRig(deps, r.rigId))!;
  expect(
    (await changeRig(deps, 'IM', { rigId: r.rigId, version, ...INPUT, name: r.name, settings })).ok,
  ).toBe(true);
  expect(await applyCorrection(deps, 'KT', { sessionId, how: 'settings' })).toMatchObject({
    ok: false,
    refusal: { code: 'stale' },
  });
});

test('a second file undoes the first and what was found beyond it, in this order: with a turn it matters', async () => {
  const r = await setup({ name: 'Turned rig', settings: [] });
  const still = { ...hidden(r), loadScatterMm: 0 };
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, still);
  await finishReading(deps, 'KT', sessionId);
  await applyCorrection(deps, 'KT', { sessionId, how: 'file' });
  await markPrinted(deps, 'KT', sessionId);
  const turned = { ...still, truth: { ...still.truth, turnRad: still.truth.turnRad + 0.015 } };
  await readPass(sessionId, turned);
  await finishReading(deps, 'KT', sessionId);
  const { wholeTransform } = currentPass((await getSession(deps, sessionId))!).correction!;
  const truth = applyAffine(termsAbout(turned.truth, A4_CENTRE), A4_CENTRE);
  const told = applyAffine(wholeTransform, A4_CENTRE);
  // The other order would be 0.06 mm off.
  expect(Math.hypot(told.x - truth.x, told.y - truth.y)).toBeLessThan(0.03);
});

test('a quick check of a rig that lives by its corrected file says plumb while nothing has changed', async () => {
  const r = await setup({ name: 'File rig', changeable: 'file', settings: [] });
  const simulation = hidden(r);
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, simulation);
  await finishReading(deps, 'KT', sessionId);
  expect((await applyCorrection(deps, 'KT', { sessionId, how: 'file' })).ok).toBe(true);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, simulation);
  await finishReading(deps, 'KT', sessionId);
  await closeSession(deps, 'KT', sessionId);
  const check = await start(r.id, 'quick-check');
  await markPrinted(deps, 'KT', check);
  await readPass(check, simulation);
  const session = (await getSession(deps, check))!;
  expect(currentPass(session).fileTransform).not.toBeNull();
  expect(assess(session, currentPass(session))!.state).toBe('plumb');
});

test('typed and closed without the proof: no figure of before is the rig’s, and the log says so', async () => {
  const r = await setup({ name: 'Unproved rig' });
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, hidden(r));
  await finishReading(deps, 'KT', sessionId);
  await applyCorrection(deps, 'KT', { sessionId, how: 'settings' });
  await closeSession(deps, 'KT', sessionId);
  expect(await getSession(deps, sessionId)).toMatchObject({
    unproved: true,
    outcome: null,
    outcomeR95Mm: null,
  });
  const own = (await loadBench(deps)).find((b) => b.setup.id === r.id)!;
  expect(own).toMatchObject({ unproved: { done: 'settings' }, history: [] });
  expect((await undoClose(deps, 'KT', sessionId)).ok).toBe(true);
  expect(await getSession(deps, sessionId)).toMatchObject({ unproved: false, stage: 'prove' });
});

test('what is closed keeps its medium and tolerance, whatever the rig is called later', async () => {
  const r = await setup({ name: 'Renamed rig' });
  const sessionId = await start(r.id, 'calibration');
  await closeSession(deps, 'KT', sessionId);
  const changed = await changeSetup(deps, 'KT', {
    setupId: r.id,
    version: r.version,
    ...INPUT,
    media: 'gloss film',
    toleranceMm: 0.7,
  });
  expect(changed.ok).toBe(true);
  expect((await getSession(deps, sessionId))!.setup).toMatchObject({ media: 'matt card', toleranceMm: 0.4 });
  const { rows } = await listSessions(deps, { setupId: r.id, sort: 'when', descending: true });
  expect(rows[0]).toMatchObject({ media: 'matt card', toleranceMm: 0.4 });
});

test('quick check: one station, two picks, a state for that place', async () => {
  const r = await setup({ name: 'Checked rig' });
  const sessionId = await start(r.id, 'quick-check');
  await markPrinted(deps, 'KT', sessionId);
  const session = (await getSession(deps, sessionId))!;
  expect(currentPass(session).stations).toHaveLength(1);
  expect(await finishReading(deps, 'KT', sessionId)).toMatchObject({ ok: false });
  const quiet = { ...hidden(r), truth: { ...hidden(r).truth, shiftXMm: 0.05, shiftYMm: 0, turnRad: 0 } };
  await readPass(sessionId, quiet);
  await finishReading(deps, 'KT', sessionId);
  const read = (await getSession(deps, sessionId))!;
  expect(read.stage).toBe('prove');
  expect(assess(read, currentPass(read))).toMatchObject({ scope: 'one-place', state: 'plumb' });
});

test('which edge left the printer first is kept with the rig, and can be told anew', async () => {
  const r = await setup({ name: 'Edge rig' });
  expect(r.bobFirst).toBeNull();
  for (const bobFirst of [true, false]) {
    expect((await sayFirstEdge(deps, 'KT', { setupId: r.id, bobFirst })).ok).toBe(true);
    expect((await getSetup(deps, r.id))!.bobFirst).toBe(bobFirst);
  }
  expect((await sayFirstEdge(deps, 'KT', { setupId: r.id, bobFirst: 'near' })).ok).toBe(false);
  expect((await sayFirstEdge(deps, 'KT', { setupId: crypto.randomUUID(), bobFirst: true })).ok).toBe(false);
});

test('taking a rig off the bench and putting it back', async () => {
  const r = await setup({ name: 'Old rig' });
  await archiveSetup(deps, 'KT', { setupId: r.id, archived: true });
  expect((await listSetups(deps)).some((x) => x.id === r.id)).toBe(false);
  await archiveSetup(deps, 'KT', { setupId: r.id, archived: false });
  expect((await listSetups(deps)).some((x) => x.id === r.id)).toBe(true);
});

test.each<[string, unknown, string]>([
  ['an empty name', { ...INPUT, name: ' ' }, 'name'],
  ['a work area wider than the sheet', { ...INPUT, areaWidthMm: 205 }, 'areaWidthMm'],
  ['a negative sheet', { ...INPUT, sheetWidthMm: -1 }, 'sheetWidthMm'],
  ['NaN', { ...INPUT, toleranceMm: Number.NaN }, 'toleranceMm'],
  ['1e308', { ...INPUT, sheetHeightMm: 1e308 }, 'sheetHeightMm'],
  ['a step of zero', { ...INPUT, settings: [{ ...INPUT.settings[0], step: 0 }] }, 'settings.0.step'],
  [
    'a range upside down',
    { ...INPUT, settings: [{ ...INPUT.settings[0], min: 3, max: 1 }] },
    'settings.0.max',
  ],
  [
    'two settings of one name',
    { ...INPUT, settings: [INPUT.settings[0], { ...INPUT.settings[1], name: 'x' }] },
    'settings',
  ],
  ['nothing at all', null, ''],
])('rejects %s with a message by its field', async (_, input, field) => {
  const added = await addRig(deps, 'KT', input);
  expect(added).toMatchObject({ ok: false, refusal: { code: 'invalid-input' } });
  if (!added.ok && added.refusal.code === 'invalid-input') expect(added.refusal.fields[field]).toBeTruthy();
});

test('the database refuses what the use cases would have caught', async () => {
  await setup({ name: 'Guarded rig' });
  const update = (set: string) => deps.db.execute(sql.raw(`update ${set}`));
  await expect(update('rigs set tolerance_mm = 0')).rejects.toThrow();
  await expect(update('rigs set area_x1_mm = area_x0_mm')).rejects.toThrow();
  await expect(update('rig_settings set step = -1')).rejects.toThrow();
  await expect(update("sessions set stage = 'lost'")).rejects.toThrow();
  await expect(deps.db.insert(setupTable).values({} as never)).rejects.toThrow();
});

test('the same name and media twice is refused by its field', async () => {
  await setup({ name: 'Twin rig' });
  expect(await addRig(deps, 'KT', { ...INPUT, name: 'Twin rig' })).toMatchObject({
    ok: false,
    refusal: { fields: { name: expect.any(String) } },
  });
});

test('export: a reading a row, replaced ones too, and no cell that a spreadsheet would run', async () => {
  const rows = (await logDocument(deps)).readings;
  expect(rows.length).toBeGreaterThan(100);
  const csv = csvLines([['=1+1', 'a "b", c', -0.5]]);
  expect(csv).toBe('"\'=1+1","a ""b"", c",-0.5\r\n');
  expect((await logCsv(deps)).split('\r\n')).toHaveLength(rows.length + 2);
});

test('a sheet that would not fit says how many stations do', async () => {
  const r = await setup({
    name: 'Small rig',
    sheetWidthMm: 120,
    sheetHeightMm: 120,
    marginLeftMm: 5,
    marginNearMm: 5,
    areaWidthMm: 110,
    areaHeightMm: 110,
  });
  const made = await makeSheet(deps, r, { ...defaultOptions(r, 'mm'), columns: 9 });
  expect(made).toMatchObject({ ok: false, refusal: { message: expect.stringContaining('at most') } });
});

const MARKS = {
  count: 3,
  shape: 'ring',
  sizeMm: 8,
  lineMm: 0.5,
  colour: '#000000',
  insetLeftMm: 12,
  insetRightMm: 12,
  insetNearMm: 12,
  insetFarMm: 12,
  clearMm: 2,
  leading: 'near left',
  leadSign: 'larger',
  everyMm: null,
  printerEdgeMm: 4,
  sensorEdgeMm: 6,
} as const;

test('settings that move, stretch and turn bring a rig in without any file, on a sheet with its own marks', async () => {
  const full = (name: string, more: object) =>
    ({
      name,
      unit: 'mm',
      step: 0.01,
      value: 0,
      min: null,
      max: null,
      display: 'signed',
      ...more,
    }) as RigDraft['settings'][number];
  const r = await setup({
    name: 'Full rig',
    changeable: 'settings',
    marks: MARKS,
    recipe: { quality: 'high', borderless: true },
    settings: [
      full('X', { direction: 'left' }),
      full('Y', { direction: 'further' }),
      full('SX', { kind: 'scale', unit: 'permille', direction: 'narrower', anchorXMm: 12 }),
      full('SY', { kind: 'length', value: 300, nominalMm: 300, direction: 'longer' }),
      full('T', { kind: 'turn', unit: 'degree', direction: 'clockwise', anchorXMm: 105, anchorYMm: 150 }),
    ],
  });
  const simulation = { ...hidden(r), loadScatterMm: 0 };
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, simulation);
  await finishReading(deps, 'KT', sessionId);
  const before = (await getSession(deps, sessionId))!;
  expect(currentPass(before).recipe).toMatchObject({ quality: 'high', borderless: true });
  expect(currentPass(before).sheet.geometry.spec.marks).toEqual(MARKS);
  expect(waysOf(r, assess(before, currentPass(before))!.plan)).toEqual(['settings']);
  expect((await applyCorrection(deps, 'KT', { sessionId, how: 'both' })).ok).toBe(false);
  expect((await applyCorrection(deps, 'KT', { sessionId, how: 'settings' })).ok).toBe(true);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, simulation);
  const proved = (await getSession(deps, sessionId))!;
  const left = assess(proved, currentPass(proved))!;
  // Only the lean of 0.6 mrad has no setting: 0.08 mm at the far corners.
  expect(left.r95Mm).toBeLessThan(0.25);
  expect(Math.abs(left.fit.terms.scaleAlong - 1)).toBeLessThan(0.0004);
  // Of the turn 0.4 mrad stays: it takes up part of that lean.
  expect(Math.abs(left.fit.terms.turnRad)).toBeLessThan(0.0008);
});

test('a rig with its own calibration page: run it there, prove it here; nothing is typed, no file is made', async () => {
  const r = await setup({ name: 'Page rig', changeable: 'machine-page' });
  const simulation = { ...hidden(r), loadScatterMm: 0 };
  await deps.db.update(setupTable).set({ simulation }).where(eq(setupTable.id, r.id));
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, simulation);
  await finishReading(deps, 'KT', sessionId);
  expect((await applyCorrection(deps, 'KT', { sessionId, how: 'settings' })).ok).toBe(false);
  expect((await applyCorrection(deps, 'KT', { sessionId, how: 'machine-page' })).ok).toBe(true);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, (await getSimulation(deps, r.id))!);
  const session = (await getSession(deps, sessionId))!;
  const shift = assess(session, currentPass(session))!.fit.terms;
  expect(Math.hypot(shift.shiftXMm, shift.shiftYMm)).toBeLessThan(0.12);
  expect((await sessionTrace(deps, sessionId)).typed).toEqual([]);
});

test('where nothing can be changed there is no way but bleed, and 99 of 100 need more of it than 95', async () => {
  const r = await setup({ name: 'Stuck rig', changeable: 'nothing' });
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, hidden(r));
  await finishReading(deps, 'KT', sessionId);
  const session = (await getSession(deps, sessionId))!;
  const { plan } = assess(session, currentPass(session))!;
  expect(waysOf(r, plan)).toEqual([]);
  expect(plan.bleed.of99Mm).toBeGreaterThan(plan.bleed.of95Mm);
  expect(plan.bleed.of95Mm).toBeCloseTo(plan.before.r95Mm, 9);
  expect((await applyCorrection(deps, 'KT', { sessionId, how: 'file' })).ok).toBe(false);
});

test('a misreading is flagged; left out it no longer counts, the log keeps it, and it can be counted again', async () => {
  const r = await setup({ name: 'Slip rig' });
  const sessionId = await start(r.id);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, hidden(r));
  const pass = currentPass((await getSession(deps, sessionId))!);
  const slip = pass.readings.find((x) => x.stationId === 'A5' && x.axis === 'along')!;
  await saveReading(deps, 'KT', {
    passId: pass.id,
    stationId: 'A5',
    axis: 'along',
    pick: 'line' in slip.pick ? { ...slip.pick, lengths: slip.pick.lengths + 1 } : slip.pick,
    coarseMm: slip.coarseMm,
  });
  await finishReading(deps, 'KT', sessionId);
  const flagged = async () => {
    const session = (await getSession(deps, sessionId))!;
    return assess(session, currentPass(session))!;
  };
  const which = [{ stationId: 'A5', axis: 'along' as const }];
  const wrong = await flagged();
  expect(wrong.ladder.suspects).toEqual([expect.objectContaining(which[0]!)]);
  expect((await decideReadings(deps, 'IM', { sessionId, which, aside: true })).ok).toBe(true);
  const right = await flagged();
  expect(right.ladder.suspects).toEqual([]);
  expect(right.fit.noise.factor).toBeLessThan(wrong.fit.noise.factor / 3);
  const kept = await deps.db
    .select({ inputs: fits.inputs })
    .from(fits)
    .innerJoin(passes, eq(passes.id, fits.passId))
    .where(eq(passes.sessionId, sessionId));
  expect(kept.some((f) => (f.inputs as { setAside: unknown[] }).setAside.length === 1)).toBe(true);
  expect((await decideReadings(deps, 'IM', { sessionId, which, aside: false })).ok).toBe(true);
  expect((await flagged()).ladder.suspects).toHaveLength(1);
});

test('a strip of nine metres tells how the cut creeps, and has no outcome of its own', async () => {
  const r = await setup({ name: 'Strip rig', sheetWidthMm: 900, areaWidthMm: 880 });
  const plumb = { shiftXMm: 0, shiftYMm: 0, turnRad: 0, scaleAcross: 1, scaleAlong: 1, leanRad: 0 };
  const simulation: SimulatedRig = {
    ...hidden(r),
    truth: plumb,
    roll: { creepMmPerM: { x: -0.08, y: 0.42 }, creepSdMmPerM: { x: 0, y: 0 }, wanderMm2PerM: 0.002 },
  };
  const begun = await startRollProof(deps, 'KT', { setupId: r.id, length: 9000, spacing: 1000 });
  if (!begun.ok) throw new Error(JSON.stringify(begun.refusal));
  const { sessionId } = begun.value;
  // The strip that lies there goes on; no second one is opened.
  expect(await startRollProof(deps, 'IM', { setupId: r.id, length: 5000, spacing: 500 })).toEqual({
    ok: true,
    value: { sessionId, resumed: true },
  });
  const rows = new Set(
    currentPass((await getSession(deps, sessionId))!).stations.map((s) => s.scaleCentre.y),
  );
  expect(rows.size).toBe(9);
  await markPrinted(deps, 'KT', sessionId);
  await readPass(sessionId, simulation);
  expect(await finishReading(deps, 'KT', sessionId)).toMatchObject({
    ok: true,
    value: { stage: 'closed' },
  });
  expect(await getSession(deps, sessionId)).toMatchObject({
    stage: 'closed',
    outcome: null,
    outcomeR95Mm: null,
  });
  const drift = (await setupDrift(deps, r.id))!;
  for (const [axis, creep] of [
    ['along', 0.42],
    ['across', -0.08],
  ] as const) {
    expect(drift[axis].readings).toBe(9);
    expect(drift[axis].creep.low).toBeLessThan(creep);
    expect(drift[axis].creep.high).toBeGreaterThan(creep);
  }
  expect(drift.along.creep.low).toBeGreaterThan(0);

  // Readings of a row that were left out tell nothing any more.
  const pass = currentPass((await getSession(deps, sessionId))!);
  const row = pass.stations.filter((s) => s.scaleCentre.y === Math.max(...rows)).map((s) => s.id);
  await deps.db
    .update(readings)
    .set({ setAsideBy: 'KT', setAsideAt: new Date() })
    .where(and(eq(readings.passId, pass.id), inArray(readings.stationId, row)));
  expect((await setupDrift(deps, r.id))!.along.readings).toBe(8);
});

test.each([
  ['too short for two rows', 300, 200, ['length']],
  ['longer than a roll', 90_000, 1000, ['length']],
  ['rows too close', 3000, 20, ['spacing']],
  ['both, and no numbers', Number.NaN, Number.POSITIVE_INFINITY, ['length', 'spacing']],
])('a strip that is %s is refused by its fields', async (_, length, spacing, fields) => {
  const r = await setup({ name: `Strip ${length} ${spacing}` });
  const refused = await startRollProof(deps, 'KT', { setupId: r.id, length, spacing });
  if (refused.ok || refused.refusal.code !== 'invalid-input') throw new Error(JSON.stringify(refused));
  expect(Object.keys(refused.refusal.fields)).toEqual(fields);
});

test('closed by mistake: opened again where it was, unless another session has begun', async () => {
  const r = await setup({ name: 'Mistaken rig' });
  const first = await start(r.id);
  await markPrinted(deps, 'KT', first);
  await readPass(first, hidden(r));
  expect((await closeSession(deps, 'KT', first)).ok).toBe(true);
  expect((await undoClose(deps, 'KT', first)).ok).toBe(true);
  expect(await getSession(deps, first)).toMatchObject({ stage: 'read', closedBy: null, outcome: null });
  await closeSession(deps, 'KT', first);
  const second = await start(r.id);
  expect(await undoClose(deps, 'KT', first)).toMatchObject({
    ok: false,
    refusal: { message: expect.stringContaining('Close that one first') },
  });
  // Given up before anything was read: no outcome, and the first can come back.
  await closeSession(deps, 'KT', second);
  expect(await getSession(deps, second)).toMatchObject({ stage: 'closed', outcome: null });
  expect((await undoClose(deps, 'KT', first)).ok).toBe(true);
});

test('what the check bars measure is kept with the pass, and taken back', async () => {
  const r = await setup({ name: 'Bar rig' });
  const id = await start(r.id);
  for (const bars of [
    { acrossMm: 100.4, alongMm: 99.8 },
    { acrossMm: null, alongMm: 99.9 },
  ]) {
    expect((await saveBars(deps, 'KT', { sessionId: id, ...bars })).ok).toBe(true);
    expect(currentPass((await getSession(deps, id))!)).toMatchObject({
      barAcrossMm: bars.acrossMm,
      barAlongMm: bars.alongMm,
    });
  }
});

const ASKED = { columns: 2, rows: 2, secondSet: false, unit: 'mm', step: 0.1 };
const NOBODY = '00000000-0000-4000-8000-000000000000';

test.each<[string, () => Promise<{ ok: boolean; refusal?: { code: string } }>]>([
  ['start', () => startSession(deps, 'KT', { setupId: NOBODY, kind: 'calibration' })],
  ['strip', () => startRollProof(deps, 'KT', { setupId: NOBODY, length: 3000, spacing: 1000 })],
  ['print', () => markPrinted(deps, 'KT', NOBODY)],
  ['sheet', () => changeSessionSheet(deps, 'KT', { sessionId: NOBODY, options: ASKED })],
  ['finish', () => finishReading(deps, 'KT', NOBODY)],
  ['apply', () => applyCorrection(deps, 'KT', { sessionId: NOBODY, how: 'settings' })],
  ['round again', () => goRoundAgain(deps, 'KT', NOBODY)],
  ['bars', () => saveBars(deps, 'KT', { sessionId: NOBODY, acrossMm: null, alongMm: null })],
  [
    'set aside',
    () =>
      decideReadings(deps, 'KT', {
        sessionId: NOBODY,
        which: [{ stationId: 'A1', axis: 'across' }],
        aside: true,
      }),
  ],
  ['mend', () => reopenReading(deps, 'KT', NOBODY)],
  ['close', () => closeSession(deps, 'KT', NOBODY)],
  ['undo close', () => undoClose(deps, 'KT', NOBODY)],
])('%s of something that is not there is refused, not thrown', async (_, act) => {
  expect(await act()).toMatchObject({ ok: false, refusal: { code: 'not-found' } });
});

test.each<CorrectionWay>(['settings', 'both', 'file'])(
  'loads on record, corrected by %s: what was typed and what the file undid are taken out, so that they compare',
  async (way) => {
    const r = await setup({ name: `Loads by ${way}` });
    const visit = async (load: number): Promise<string> => {
      const id = await start(r.id);
      await markPrinted(deps, 'KT', id);
      await readPass(id, { ...hidden(r), seed: load });
      await finishReading(deps, 'KT', id);
      return id;
    };
    const first = await visit(1);
    expect((await getSession(deps, first))!.record.loads).toEqual([]);
    await applyCorrection(deps, 'KT', { sessionId: first, how: way });
    // The set on the same sheet is the same load: it counts once.
    await markPrinted(deps, 'KT', first);
    await readPass(first, { ...hidden(r), seed: 1 });
    await finishReading(deps, 'KT', first);
    // What both sets say of the load they share is one figure, and the log has what it was made of.
    const proof = (await getSession(deps, first))!;
    const [alone, joined] = [
      assess({ ...proof, passes: [proof.passes[1]!] }, proof.passes[1]!)!,
      assess(proof, proof.passes[1]!)!,
    ];
    expect([alone.pooling, joined.pooling]).toEqual(['alone', 'joined']);
    expect(joined.plan.estimationVarianceMm2).toBeLessThan(alone.plan.estimationVarianceMm2);
    const [logged] = await deps.db.select().from(fits).where(eq(fits.passId, proof.passes[1]!.id));
    expect(logged!.inputs).toMatchObject({ pooling: 'joined', estimate: { field: joined.estimate.field } });
    // What settings alone leave of this rig is still out of plumb: it stands because somebody says so.
    await closeAccepting(deps, 'KT', first);
    // A check of one place tells no shift at the middle of the sheet.
    const check = await start(r.id, 'quick-check');
    await markPrinted(deps, 'KT', check);
    await readPass(check, { ...hidden(r), seed: 2 });
    await finishReading(deps, 'KT', check);
    await closeSession(deps, 'KT', check);
    for (const load of [3, 4, 5]) await closeSession(deps, 'KT', await visit(load));
    const last = (await getSession(deps, await visit(6)))!;
    expect(last.record.loads).toHaveLength(4);
    for (const load of last.record.loads) {
      // The hidden rig, 3 mm out, whatever was done about it since; its loads differ by 0.02 mm.
      const typed = r.settings.reduce(
        (sum, s) => ({ x: sum.x - s.value * s.effect.exMm, y: sum.y - s.value * s.effect.eyMm }),
        { x: -2.95, y: 3.1 },
      );
      expect(Math.abs(load.shiftXMm - typed.x)).toBeLessThan(0.12);
      expect(Math.abs(load.shiftYMm - typed.y)).toBeLessThan(0.12);
    }
    // Typed and read again on one load: the log has seen what each setting does.
    const seen = provedEffects(r.settings, last.record.changes);
    expect(seen.map((s) => s.settingId)).toEqual(way === 'file' ? [] : r.settings.map((s) => s.id));
    for (const { share, shareU, times } of seen) {
      expect(Math.abs(share - 1)).toBeLessThan(3 * shareU);
      expect(shareU).toBeLessThan(0.02);
      expect(times).toBe(1);
    }
    expect(settingsAtCut(last, currentPass(last)).every((s) => (s.effectU ?? 0.05) < 0.05)).toBe(
      way !== 'file',
    );
    const { scatter } = assess(last, currentPass(last))!;
    expect(scatter).toMatchObject({ from: 'log', loads: 4 });
    expect(scatter.eye.dof).toBeGreaterThan(20);
    expect(scatter.shiftMm).toBeGreaterThan(0.01);
    expect(scatter.shiftMm).toBeLessThan(0.08);
    // What is looked back at from the first session stays what it was then.
    expect((await getSession(deps, first))!.record.loads).toEqual([]);
  },
);

test('a cut file is made once from the stored correction and kept as it is handed over; not for whoever is gone', async () => {
  const r = await setup({ name: 'Files of a correction' });
  const id = await start(r.id);
  await markPrinted(deps, 'KT', id);
  await readPass(id, hidden(r));
  await finishReading(deps, 'KT', id);
  const { correction } = currentPass((await getSession(deps, id))!);
  const square =
    '<svg xmlns="http://www.w3.org/2000/svg" width="30mm" height="30mm" viewBox="0 0 30 30"><path d="M10 10H20V20H10Z"/></svg>';
  const make = (asked?: AbortSignal) =>
    correctFileByStored(deps, 'KT', {
      ...{
        correctionId: correction!.id,
        restOnly: false,
        fileName: 'tags.svg',
        text: square,
        to: null,
        asked,
      },
    });
  const made = await make();
  if (!made.ok) throw new Error(made.refusal.code);
  const ofIt = eq(correctedFiles.correctionId, correction!.id);
  const kept = await deps.db
    .select({ content: fileContents.content, transform: correctedFiles.transform })
    .from(correctedFiles)
    .innerJoin(fileContents, eq(fileContents.sha256, correctedFiles.sha256))
    .where(ofIt);
  expect(kept).toEqual([{ content: made.value.content, transform: correction!.wholeTransform }]);
  expect(await make(AbortSignal.abort())).toMatchObject({ ok: false, refusal: { code: 'not-kept' } });
  expect(await deps.db.$count(correctedFiles, ofIt)).toBe(1);
});

test('a setting declared the wrong way round is found out by its first proof, and declared as it is with one tap', async () => {
  const declared = INPUT.settings.map((x) => (x.name === 'X' ? { ...x, direction: 'right' as const } : x));
  const r = await setup({ name: 'X the wrong way', settings: declared });
  const truth = hidden(r);
  const x = r.settings.find((s) => s.name === 'X')!;
  const machine = { ...truth, effects: { ...truth.effects, [x.id]: { ...x.effect, exMm: -x.effect.exMm } } };
  const id = await start(r.id);
  await markPrinted(deps, 'KT', id);
  await readPass(id, machine);
  await finishReading(deps, 'KT', id);
  expect((await applyCorrection(deps, 'KT', { sessionId: id, how: 'settings' })).ok).toBe(true);
  await markPrinted(deps, 'KT', id);
  await readPass(id, machine);
  await finishReading(deps, 'KT', id);
  const proof = (await getSession(deps, id))!;
  expect(foundOut(proof)).toMatchObject([
    {
      settingId: x.id,
      did: 'reversed',
      direction: 'left',
      from: 0.15,
      to: currentPass(proof).settingsAtCut[x.id],
    },
  ]);
  expect(foundOutWords(foundOut(proof)[0]!)).toMatch(
    /^X from 0\.15 to \d\.\d\d mm should move the cut right; it moved it left\.$/,
  );
  // Two people press it: it is done once, and the page that was shown before is out of date.
  const { version } = proof;
  const taken = await Promise.all([
    takeDirections(deps, 'KT', id, { version }),
    takeDirections(deps, 'MO', id, { version }),
  ]);
  expect(taken.map((t) => t.ok).sort()).toEqual([false, true]);
  const known = (await getSession(deps, id))!;
  expect(known.setup.settings.find((s) => s.id === x.id)!.direction).toBe('left');
  expect(foundOut(known)).toEqual([]);
  // From these same readings the way back: what stands 2 · 2.95 mm off is typed away, and then it is plumb.
  await goRoundAgain(deps, 'KT', id);
  expect((await applyCorrection(deps, 'KT', { sessionId: id, how: 'both' })).ok).toBe(true);
  const again = (await getSession(deps, id))!;
  expect(again.setup.settings.find((s) => s.id === x.id)!.value).toBeCloseTo(0.15 - 2.95, 0);
  await markPrinted(deps, 'KT', id);
  await readPass(id, machine);
  await finishReading(deps, 'KT', id);
  const done = (await getSession(deps, id))!;
  expect(foundOut(done)).toEqual([]);
  expect(assess(done, currentPass(done))!.state).toBe('plumb');
});

test('settings of which nobody knows which way they go are pushed once; then it is known and what to type with it', async () => {
  const declared = INPUT.settings.map((x) => ({ ...x, direction: 'right' as const, directionKnown: false }));
  const r = await setup({ name: 'Nobody knows', settings: declared });
  const truth = hidden(r);
  const [x, y] = ['X', 'Y'].map((name) => r.settings.find((s) => s.name === name)!) as [
    SetupSetting,
    SetupSetting,
  ];
  // What the machine calls X goes back along the feed, what it calls Y goes left.
  const none = { ...x.effect, exMm: 0, eyMm: 0 };
  const effects = { [x.id]: { ...none, eyMm: -1 }, [y.id]: { ...none, exMm: -25.4 } };
  const machine = { ...truth, effects };
  const id = await start(r.id);
  await markPrinted(deps, 'KT', id);
  await readPass(id, machine);
  await finishReading(deps, 'KT', id);
  // No bare sign: nothing can be typed for a correction, only pushed or carried by the file.
  const measured = (await getSession(deps, id))!;
  expect(waysOf(measured.setup, assess(measured, currentPass(measured))!.plan)).toEqual(['push', 'file']);
  expect(await applyCorrection(deps, 'KT', { sessionId: id, how: 'both' })).toMatchObject({
    refusal: { code: 'refused' },
  });
  // Two people press it: it is pushed once.
  const { version } = measured;
  const pressed = await Promise.all([
    applyCorrection(deps, 'KT', { sessionId: id, how: 'push' }, { version }),
    applyCorrection(deps, 'MO', { sessionId: id, how: 'push' }, { version }),
  ]);
  expect(pressed.map((p) => p.ok).sort()).toEqual([false, true]);
  const shown = (await getSession(deps, id))!.setup.settings;
  const by = shown.map((s, i) => (s.unit === 'in' ? 25.4 : 1) * (s.value - r.settings[i]!.value));
  expect(by).toEqual([expect.closeTo(0.5, 1), expect.closeTo(0.8, 1)]);
  await markPrinted(deps, 'KT', id);
  await readPass(id, machine);
  await finishReading(deps, 'KT', id);
  const found = foundOut((await getSession(deps, id))!);
  expect(found).toMatchObject([
    { settingId: x.id, did: 'told', direction: 'back' },
    { settingId: y.id, did: 'told', direction: 'left' },
  ]);
  expect(found.map(foundOutWords).join(' ')).toMatch(
    /^X from .* moved the cut (back|further.*)\. Y from .* moved the cut (left|right)\.$/,
  );
  expect((await takeDirections(deps, 'KT', id)).ok).toBe(true);
  const known = (await getSession(deps, id))!;
  expect(known.setup.settings.map((s) => [s.name, s.direction, s.directionKnown])).toEqual([
    ['X', 'back', true],
    ['Y', 'left', true],
  ]);
  expect(foundOut(known)).toEqual([]);
  // From these same readings: typed, proved, plumb.
  await goRoundAgain(deps, 'KT', id);
  expect((await applyCorrection(deps, 'KT', { sessionId: id, how: 'both' })).ok).toBe(true);
  await markPrinted(deps, 'KT', id);
  await readPass(id, machine);
  await finishReading(deps, 'KT', id);
  const done = (await getSession(deps, id))!;
  expect(foundOut(done)).toEqual([]);
  expect(assess(done, currentPass(done))!.state).toBe('plumb');
});

test('gaps and a table count beside the combs, with no comb read at all, and are taken back like any reading', async () => {
  const r = await setup({ name: 'Read with a ruler' });
  const id = await start(r.id);
  await markPrinted(deps, 'KT', id);
  const passOf = async () => currentPass((await getSession(deps, id))!);
  const passId = (await passOf()).id;
  const gaps = { passId, x: 100, y: 150, nominalMm: 2, resolutionMm: 0.1 };
  const shape = { ...gaps, gaps: { left: 1.7, right: 2.3, near: 2.1, far: 1.9 } };
  // Two people keep a shape each at once; one of them presses twice.
  const request = crypto.randomUUID();
  const kept = await Promise.all([
    saveOther(deps, 'KT', { way: 'gaps', ...shape }, { request }),
    saveOther(deps, 'KT', { way: 'gaps', ...shape }, { request }),
    saveOther(deps, 'MO', { way: 'gaps', ...shape, x: 20, y: 20 }),
  ]);
  expect(kept.every((k) => k.ok)).toBe(true);
  expect((await passOf()).readings.map((x) => x.stationId).sort()).toEqual(['G1', 'G1', 'G2', 'G2']);
  const csv = 'id;x;y;dx;dy;u\n1;190;20;0,31;-0,12;0,05\n2;20;270;0,29;-0,08;0,05\n3;x;2;3;4;5';
  const table = await saveOther(deps, 'KT', { way: 'table', passId, csv, unit: 'mm' });
  expect(table).toMatchObject({ ok: true, value: { kept: 2, doubts: [{ code: 'unreadable-row' }] } });
  const a = assess((await getSession(deps, id))!, await passOf())!;
  expect(a.scope).toBe('whole-area');
  expect(a.fit.terms.shiftXMm).toBeCloseTo(0.3, 1);
  expect(a.fit.terms.shiftYMm).toBeCloseTo(-0.1, 1);
  expect((await finishReading(deps, 'KT', id)).ok).toBe(true);
  // A row of the same name replaces; what was proposed is void and it is read again.
  await saveOther(deps, 'KT', { way: 'table', passId, csv: 'id,x,y,dx,dy\n1,190,20,0.35,-0.1', unit: 'mm' });
  const again = (await getSession(deps, id))!;
  expect(again.stage).toBe('read');
  expect(
    currentPass(again).readings.find((x) => x.stationId === 'T-1' && x.axis === 'across')!.offsetMm,
  ).toBe(0.35);
  expect((await clearReading(deps, 'KT', { passId, comb: { stationId: 'T-1', axis: 'across' } })).ok).toBe(
    true,
  );
  expect((await passOf()).readings).toHaveLength(7);
});

test('even all round, said by two at once, is kept once for every station and gives way to nothing', async () => {
  const r = await setup({ name: 'Looked at' });
  const id = await start(r.id);
  await markPrinted(deps, 'KT', id);
  const passOf = async () => currentPass((await getSession(deps, id))!);
  const pass = await passOf();
  const said = await Promise.all([
    saveOther(deps, 'KT', { way: 'even', passId: pass.id }),
    saveOther(deps, 'MO', { way: 'even', passId: pass.id }),
  ]);
  expect(said.every((s) => s.ok)).toBe(true);
  expect((await passOf()).readings).toHaveLength(2 * pass.stations.length);
  expect(assess((await getSession(deps, id))!, await passOf())!.plan.decision).toBe('leave');
  for (const junk of [null, 'x', { passId: pass.id }, crypto.randomUUID()])
    expect((await saveOther(deps, 'KT', { way: 'even', passId: junk })).ok).toBe(false);
});

test('rings are printed beside the combs when asked for, read by the even one, and asked for again by the setup', async () => {
  const r = await setup({ name: 'Read by rings' });
  const id = await start(r.id);
  const options = { columns: 2, rows: 2, secondSet: false, unit: 'mm', step: 0.1, ringStep: 0.2 };
  expect(sheetOptionsSchema.safeParse({ ...options, ringStep: 0.3 }).success).toBe(false);
  await changeSessionSheet(deps, 'KT', { sessionId: id, options: sheetOptionsSchema.parse(options) });
  await markPrinted(deps, 'KT', id);
  const passOf = async () => currentPass((await getSession(deps, id))!);
  const pass = await passOf();
  const truth = { across: 0.31, along: -0.17 };
  for (const { id: stationId, rings } of pass.stations)
    for (const row of rings!) {
      // The nearest half ring to what is so.
      const ring = Math.round((2 * (truth[row.axis] + row.phaseMm)) / row.stepMm) / 2;
      const kept = await saveOther(deps, 'KT', {
        way: 'rings',
        passId: pass.id,
        stationId,
        axis: row.axis,
        ring,
      });
      expect(kept).toMatchObject({ ok: true, value: { doubts: [] } });
    }
  const a = assess((await getSession(deps, id))!, await passOf())!;
  expect(a.scope).toBe('whole-area');
  expect(Math.abs(a.fit.terms.shiftXMm - truth.across)).toBeLessThan(0.05);
  expect(Math.abs(a.fit.terms.shiftYMm - truth.along)).toBeLessThan(0.05);
  // Read again, one axis of a station is replaced, the other stays; the last ring is doubted, beyond it is none.
  const again = { passId: pass.id, stationId: 'A1', axis: 'across' };
  expect(await saveOther(deps, 'MO', { way: 'rings', ...again, ring: 4 })).toMatchObject({
    value: { doubts: [{ code: 'end-of-row', station: 'R-A1' }] },
  });
  expect((await passOf()).readings.filter((x) => x.stationId === 'R-A1')).toHaveLength(2);
  expect((await passOf()).readings).toHaveLength(8);
  for (const bad of [{ ring: 4.5 }, { ring: 0.3 }, { axis: 'up' }, { ring: Number.NaN }])
    expect(await saveOther(deps, 'MO', { way: 'rings', ...again, ring: 0, ...bad })).toMatchObject({
      refusal: { code: 'invalid-input' },
    });
  expect(await saveOther(deps, 'MO', { way: 'rings', ...again, stationId: 'Z9', ring: 0 })).toMatchObject({
    refusal: { code: 'not-found' },
  });
  await closeSession(deps, 'KT', id);
  const next = currentPass((await getSession(deps, await start(r.id)))!);
  expect(next.sheet.geometry.spec.rings).toEqual({ stepMm: 0.2, half: 4 });
});

test.each<[string, () => Promise<{ readonly ok: boolean }>]>([
  [
    'half an axis',
    () =>
      saveOther(deps, 'KT', {
        way: 'gaps',
        ...NOWHERE,
        gaps: { left: 1, right: null, near: null, far: null },
      }),
  ],
  ['a ruler of no step', () => saveOther(deps, 'KT', { way: 'gaps', ...NOWHERE, resolutionMm: 0 })],
  [
    'no table',
    () => saveOther(deps, 'KT', { way: 'table', passId: NOWHERE.passId, csv: 'hello', unit: 'mm' }),
  ],
  ['nothing at all', () => saveOther(deps, 'KT', null)],
  ['a pass that is not there', () => saveOther(deps, 'KT', { way: 'gaps', ...NOWHERE })],
])('%s is refused with words, and nothing is kept', async (_, act) => {
  const refused = await act();
  expect(refused.ok).toBe(false);
});
const NOWHERE = {
  ...{ passId: '00000000-0000-4000-8000-000000000000', x: 10, y: 10, nominalMm: 0, resolutionMm: 0.5 },
  gaps: { left: 1, right: 1, near: 1, far: 1 },
};
