import { type CheckPlace } from '@/core/setup';
import { readByEzdxf } from '@test/readers/outside';
import { freshDeps } from '@test/database';
import { logDocument } from '@test/log';
import { ROLL_DRAFT } from '@test/setups';

import { desc, eq } from 'drizzle-orm';
import { unzipSync } from 'fflate';

import { IDENTITY, type Point } from '@/core/geometry';
import { acts, runs } from '@/db/schema';
import { type Applied } from '@/db/stored/runs';

import type { Deps } from '@/server/base/deps';
import { MOST_READINGS, newestOf, tapeRuns } from '@/server/drift/gather';
import { setupDrift } from '@/server/drift/setupDrift';
import { driftRunsOf } from '@/server/drift/runRecord';
import { getSetup } from '@/server/setups/repository';
import { addRig } from '@/server/rigs/writeRig';
import { makeSectionFile, runArchive } from './runFiles';
import { getRun, runStamp } from './repository';
import { checkYMm } from './run';
import { sectionFile } from './sectionFile';
import { saveTape, saveTwoMarks, setFeed } from '@/server/drift/measure';
import { saveCheck, takeBackCheck } from './checks';
import { closeRun, reopenRun } from './closeRun';
import { finishSection, markSectionCut, unmarkSectionCut } from './cutSections';
import { outlookOn } from './outlook';
import { releaseItems, releaseRun } from './releaseRun';
import { keepSlip, laminate, pauseRun, registerAnew, undoEvent } from './runEvents';
import { startRun } from './startRun';

let shop: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  shop = await freshDeps('runs');
});
afterAll(() => shop.close());
const deps = (): Deps => shop;

let names = 0;

async function setupId(): Promise<string> {
  const added = await addRig(deps(), 'KT', { ...ROLL_DRAFT, name: `Roll rig ${(names += 1)}` });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  return added.value.setupId;
}

const REQUEST = {
  item: { widthMm: 185, heightMm: 110 },
  copies: 72,
  gapMm: 4,
  printableWidthMm: 1310,
  rowsPerSection: 3,
  markRoomMm: 20,
  betweenMm: 10,
  correctCreep: true,
};

async function started(input: object = {}): Promise<{ runId: string; setup: string }> {
  const setup = await setupId();
  const run = await startRun(deps(), 'KT', {
    setupId: setup,
    name: 'luggage tags',
    strategy: 'sections',
    request: REQUEST,
    itemFile: null,
    spoilsAccepted: true,
    ...input,
  });
  if (!run.ok) throw new Error(JSON.stringify(run.refusal));
  return { runId: run.value.runId, setup };
}

async function released(input: object = {}): Promise<{ runId: string; setup: string }> {
  const { runId, setup } = await started(input);
  const keys = releaseItems((await getSetup(deps(), setup))!).map((i) => i.key);
  expect((await releaseRun(deps(), 'KT', { runId, ticked: keys })).ok).toBe(true);
  return { runId, setup };
}

const run = async (runId: string) => (await getRun(deps(), runId))!;

async function cut(runId: string, section: number, asDrawn = false): Promise<void> {
  const file = asDrawn ? null : await makeSectionFile(deps(), 'KT', { runId, section, format: 'svg' });
  const fileId = file?.ok ? file.value.fileId : null;
  expect(fileId === null).toBe(asDrawn);
  expect((await markSectionCut(deps(), 'KT', { runId, section, fileId })).ok).toBe(true);
}

const check = (runId: string, section: number, place: CheckPlace, dyMm: number, dxMm: number | null = 0) =>
  saveCheck(deps(), 'KT', { runId, section, place, way: 'comb', dxMm, dyMm });

const contentOf = (file: ReturnType<typeof sectionFile>): string => (file.ok ? file.value.content : '');
const message = (outcome: { ok: boolean; refusal?: object }): string =>
  JSON.stringify(outcome.refusal ?? null);

test('a plan is frozen with what was known, and nothing goes before its release', async () => {
  const { runId } = await started();
  const frozen = await run(runId);
  expect(frozen).toMatchObject({ stage: 'release', plan: { strategy: 'sections', version: 'plan-2' } });
  expect(frozen.sections.map((s) => s.state)).toEqual(['waiting', 'waiting', 'waiting', 'waiting']);
  expect(message(await releaseRun(deps(), 'KT', { runId, ticked: ['devices'] }))).toMatch(/Still to check/);
  expect(message(await makeSectionFile(deps(), 'KT', { runId, section: 1, format: 'svg' }))).toMatch(
    /not released/,
  );
  expect(message(await markSectionCut(deps(), 'KT', { runId, section: 1, fileId: null }))).toMatch(
    /not released/,
  );
});

test.each([
  ['a check of a section that is not cut', (id: string) => check(id, 2, 'first row', 0.1), /not cut yet/],
  ['a check of a section that is not there', (id: string) => check(id, 9, 'first row', 0.1), /section 9/],
  ['a check of 300 mm', (id: string) => check(id, 1, 'first row', 300), /decimal point/],
  [
    'a check of nothing',
    (id: string) =>
      saveCheck(deps(), 'KT', {
        runId: id,
        section: 1,
        place: 'first row',
        way: 'comb',
        dxMm: null,
        dyMm: null,
      }),
    /at least one offset/,
  ],
  [
    'a corrected cut without a file',
    (id: string) => markSectionCut(deps(), 'KT', { runId: id, section: 2, fileId: id }),
    /no file of section 2/,
  ],
  [
    'more spoiled than there are',
    (id: string) => finishSection(deps(), 'KT', { runId: id, section: 1, spoiled: 99 }),
    /from 0 to 18/,
  ],
  [
    'a laminate that stretches by a tenth',
    (id: string) => laminate(deps(), 'KT', { runId: id, from: 2, nominalMm: 400, measuredMm: 440 }),
    /tenths of a percent/,
  ],
] as const)('refuses %s', async (_, act, sentence) => {
  const { runId } = await released();
  await cut(runId, 1, true);
  expect(message(await act(runId))).toMatch(sentence);
});

test('refuses a plan that the rig cannot run', async () => {
  const setup = await setupId();
  const input = {
    setupId: setup,
    name: 'x',
    strategy: 'one-piece-intermediate',
    request: REQUEST,
    itemFile: null,
  };
  expect(message(await startRun(deps(), 'KT', input))).toMatch(/no marks along the sides/);
  const wide = { ...REQUEST, item: { widthMm: 1400, heightMm: 1500 } };
  expect(message(await startRun(deps(), 'KT', { ...input, request: wide }))).toMatch(/1400\.0 mm wide/);
  expect(message(await startRun(deps(), 'KT', { ...input, itemFile: 'hello' }))).toMatch(/\./);
});

test('checks are learnt from with the file’s own correction undone, and steer the next file', async () => {
  const { runId } = await released();
  await cut(runId, 1, true);
  await check(runId, 1, 'first row', 0.3, 0.1);
  await check(runId, 1, 'last row', 0.36, 0.1);
  const next = await outlookOn(deps(), await run(runId), 2);
  // The cut is expected where the first section’s was, and moved back by its file.
  expect(next.applied.map.ty).toBeGreaterThan(0.15);
  expect(next.applied.map.ty).toBeLessThan(0.36);
  expect(next.applied.map.tx).toBeGreaterThan(0.04);
  expect(next.outlook.r95Mm).toBeLessThan(next.outlook.r95AsDrawnMm);
  await cut(runId, 2);
  const { applied } = (await run(runId)).sections[1]!;
  expect(applied!.map.ty).toBeCloseTo(next.applied.map.ty, 9);
  await check(runId, 2, 'first row', 0, 0);
  // Zero after a correction means: the rig is still off by what was undone.
  const again = await outlookOn(deps(), await run(runId), 3);
  expect(again.applied.map.ty).toBeGreaterThan(0.15);
});

/** Corners of the first item as an outside reader has them. */
const firstItem = (dxf: string): Point[] => readByEzdxf(dxf)[0]!;

test('a section’s file undoes shift, stretch and laminate, for a reader that is not ours', async () => {
  const { runId } = await released();
  const { plan } = await run(runId);
  const applied: Applied = {
    version: 'follow-2',
    map: { ...IDENTITY, a12: 0.0001, a22: 1.0004, tx: 0.2, ty: -0.3 },
    stretch: 1.0015,
    r95Mm: 0.1,
    standing: null,
  };
  const drawn = firstItem(contentOf(sectionFile(await run(runId), 2, 'dxf', null)));
  const corrected = firstItem(contentOf(sectionFile(await run(runId), 2, 'dxf', applied)));
  expect(drawn[0]!.y).toBeCloseTo(plan.markRoomMm, 5);
  drawn.forEach((p, i) => {
    const c = corrected[i]!;
    // Where the rig lands a cut commanded at c, in the print as the laminate left it.
    const landed = { x: c.x + 0.0001 * c.y + 0.2, y: (1.0004 - 0.0015) * c.y - 0.3 };
    expect(landed.x).toBeCloseTo(p.x, 4);
    expect(landed.y).toBeCloseTo(p.y, 4);
  });
});

test('an item’s own cut file is laid out in every place, turned when the plan turned it', async () => {
  const item =
    '<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="30mm" viewBox="0 0 60 30"><path d="M5 5L55 5L30 25Z"/></svg>';
  const { runId } = await released({
    itemFile: item,
    request: {
      ...REQUEST,
      item: { widthMm: 50, heightMm: 20 },
      copies: 50,
      rowsPerSection: 2,
      mayTurn: true,
    },
  });
  const { plan } = await run(runId);
  const file = sectionFile(await run(runId), 1, 'dxf', null);
  const lines = readByEzdxf(file.ok ? file.value.content : '');
  // A triangle is three lines to that reader.
  expect(lines).toHaveLength(3 * plan.sections[0]!.copies);
  const xs = lines.slice(0, 3).flatMap((line) => line.map((p) => p.x));
  const width = Math.max(...xs) - Math.min(...xs);
  expect(width).toBeCloseTo(plan.imposition.turned ? 20 : 50, 4);
});

test('the archive holds every section in every format and a list; names tell sections apart', async () => {
  const { runId } = await released();
  await cut(runId, 1);
  const made = await runArchive(deps(), 'KT', runId);
  if (!made.ok) throw new Error(message(made));
  const names = Object.keys(unzipSync(made.value.bytes));
  expect(names).toHaveLength(3 * 4 + 1);
  expect(new Set(names).size).toBe(names.length);
  expect(names.filter((n) => /section-03-of-04_rows-7-9\.(svg|dxf|hpgl)$/.test(n))).toHaveLength(3);
  const list = new TextDecoder().decode(unzipSync(made.value.bytes)['which-is-which.txt']);
  expect(list).toContain('worked out from the checks so far');
  // What was handed out is not written into the log of acts as well.
  const [act] = await deps().db.select().from(acts).where(eq(acts.subjectId, runId)).orderBy(desc(acts.at));
  expect(act).toMatchObject({ act: 'run archive', result: null });
});

test('what is on record as cut is the file that was loaded, not the newest that was made', async () => {
  const { runId } = await released();
  const first = await makeSectionFile(deps(), 'KT', { runId, section: 2, format: 'svg' });
  await cut(runId, 1);
  await check(runId, 1, 'first row', 0.3);
  const second = await makeSectionFile(deps(), 'KT', { runId, section: 2, format: 'svg' });
  if (!first.ok || !second.ok) throw new Error('not made');
  expect((await markSectionCut(deps(), 'KT', { runId, section: 2, fileId: first.value.fileId })).ok).toBe(
    true,
  );
  const { files, sections } = await run(runId);
  const loaded = files.find((f) => f.id === first.value.fileId)!;
  expect(sections[1]).toMatchObject({ fileId: loaded.id, applied: loaded.applied });
  // Said again it is said once; another file is another cut.
  expect((await markSectionCut(deps(), 'KT', { runId, section: 2, fileId: first.value.fileId })).ok).toBe(
    true,
  );
  expect(
    message(await markSectionCut(deps(), 'KT', { runId, section: 2, fileId: second.value.fileId })),
  ).toMatch(/another file/);
});

test('what an archive holds is kept under its name: a later correction never takes the same one', async () => {
  const { runId } = await released();
  const archived = async () => {
    const zip = await runArchive(deps(), 'KT', runId);
    if (!zip.ok) throw new Error(message(zip));
    return Object.entries(unzipSync(zip.value.bytes)).filter(([name]) => name.endsWith('.svg'));
  };
  const contents = new Map<string, string>();
  const same = (list: readonly [string, Uint8Array][]) => {
    for (const [path, bytes] of list) {
      const [name, text] = [path.slice('svg/'.length), new TextDecoder().decode(bytes)];
      expect(contents.get(name) ?? text).toBe(text);
      contents.set(name, text);
    }
  };
  same(await archived());
  await cut(runId, 1);
  await check(runId, 1, 'first row', 0.3);
  const made = await makeSectionFile(deps(), 'KT', { runId, section: 3, format: 'svg' });
  if (!made.ok) throw new Error(message(made));
  expect(contents.get(made.value.fileName) ?? null).toBeNull();
  contents.set(made.value.fileName, made.value.content);
  same(await archived());
  expect((await run(runId)).files.filter((f) => f.fileName.endsWith('.hpgl')).length).toBeGreaterThanOrEqual(
    4,
  );
});

test('an item file that cannot be read any more is told, never replaced by an outline', async () => {
  const { runId } = await released();
  await deps().db.update(runs).set({ itemFile: 'no drawing' }).where(eq(runs.id, runId));
  expect(message(await makeSectionFile(deps(), 'KT', { runId, section: 1, format: 'svg' }))).toMatch(
    /cut file of one item/,
  );
  expect(message(await runArchive(deps(), 'KT', runId))).toMatch(/cut file of one item/);
});

test('a plan that breaks its promise is run only when it is said so', async () => {
  const setup = await setupId();
  const wide = {
    ...{ setupId: setup, name: 'hull numbers', strategy: 'one-piece', itemFile: null },
    request: { ...REQUEST, toleranceMm: 0.02, rowsPerSection: undefined },
  };
  expect(message(await startRun(deps(), 'KT', wide))).toMatch(/ % of the items would be spoiled/);
  expect((await startRun(deps(), 'KT', { ...wide, spoilsAccepted: true })).ok).toBe(true);
});

test('a file made anew after a further check has a number of its own; the same one again keeps its number', async () => {
  const { runId } = await released();
  const made = async (
    section: number,
    format: 'svg' | 'dxf',
  ): Promise<{ fileName: string; content: string }> => {
    const file = await makeSectionFile(deps(), 'KT', { runId, section, format });
    if (!file.ok) throw new Error(message(file));
    return file.value;
  };
  expect((await made(2, 'svg')).fileName).toMatch(/_section-02-of-04_rows-4-6\.svg$/);
  await cut(runId, 1, true);
  await check(runId, 1, 'first row', 0.3);
  const second = await made(2, 'svg');
  expect(second.fileName).toMatch(/_rows-4-6_make-2\.svg$/);
  expect(second.content).toContain('make 2');
  expect((await made(2, 'dxf')).fileName).toMatch(/_rows-4-6_make-2\.dxf$/);
  await check(runId, 1, 'last row', 0.4);
  expect((await made(2, 'svg')).fileName).toMatch(/_rows-4-6_make-3\.svg$/);
  const zip = await runArchive(deps(), 'KT', runId);
  const names = zip.ok ? Object.keys(unzipSync(zip.value.bytes)) : [];
  expect(names.filter((n) => n.includes('section-02'))).toEqual(
    ['svg', 'dxf', 'hpgl'].map((f) => expect.stringMatching(new RegExp(`rows-4-6_make-3\\.${f}$`)) as string),
  );
  expect(names.filter((n) => n.includes('section-01')).every((n) => n.includes('_as-drawn'))).toBe(true);
});

test('a registration, a kept slip and a laminate are taken back, and the log says so', async () => {
  const { runId } = await released();
  await cut(runId, 1, true);
  await check(runId, 1, 'first row', 0.3);
  const ahead = async () => (await outlookOn(deps(), await run(runId), 2)).applied;
  const before = await ahead();
  await laminate(deps(), 'KT', { runId, from: 2, nominalMm: 1000, measuredMm: 1001 });
  await registerAnew(deps(), 'KT', { runId, before: 2 });
  const changed = await ahead();
  expect(changed.stretch).toBeCloseTo(1.001, 12);
  expect(changed.map.ty).toBeLessThan(before.map.ty);
  for (const e of (await run(runId)).events.filter(
    (x) => x.kind === 'registered' || x.kind === 'laminated',
  )) {
    expect((await undoEvent(deps(), 'RS', { runId, eventId: e.id })).ok).toBe(true);
    // Twice is once.
    expect((await undoEvent(deps(), 'RS', { runId, eventId: e.id })).ok).toBe(true);
  }
  expect(await ahead()).toEqual(before);
  const { events } = await run(runId);
  expect(events.map((e) => [e.kind, e.undone])).toEqual([
    ['released', false],
    ['laminated', true],
    ['registered', true],
    ['undone', false],
    ['undone', false],
  ]);
  expect(message(await undoEvent(deps(), 'KT', { runId, eventId: events[0]!.id }))).toMatch(/to undo/);
});

test('a slip is called, kept or registered away; what was read stays in the log', async () => {
  const { runId } = await released();
  for (const [section, at] of [
    [1, 0.02],
    [2, 0.62],
  ] as const) {
    await cut(runId, section, true);
    await check(runId, section, 'first row', at);
    await check(runId, section, 'last row', at + 0.02);
  }
  const found = (await outlookOn(deps(), await run(runId), 3)).outlook.along.slip;
  expect(found).not.toBeNull();
  expect(Math.abs(found!.sizeMm - 0.6)).toBeLessThan(0.15);
  const { plan } = await run(runId);
  expect(found!.toM).toBeCloseTo(checkYMm(plan, 2, 'first row') / 1000, 9);

  await keepSlip(deps(), 'KT', {
    runId,
    axis: 'along',
    section: 2,
    place: 'first row',
    sizeMm: found!.sizeMm,
  });
  const kept = await outlookOn(deps(), await run(runId), 3);
  expect(kept.outlook.along.slip).toBeNull();
  expect(kept.applied.map.ty).toBeGreaterThan(0.45);

  await registerAnew(deps(), 'KT', { runId, before: 3 });
  const anew = await outlookOn(deps(), await run(runId), 3);
  expect(Math.abs(anew.applied.map.ty)).toBeLessThan(0.2);

  await takeBackCheck(deps(), 'KT', { runId, checkId: (await run(runId)).checks.at(-1)!.id });
  expect((await run(runId)).checks).toHaveLength(3);
  const log = (await logDocument(deps())).runs.find((r) => r.id === runId)!;
  expect(log.checks).toHaveLength(4);
  expect(log.checks.filter((c) => c.replacedAt !== null)).toHaveLength(1);
  expect(log.events.map((e) => e.kind)).toEqual(['released', 'slip-kept', 'registered']);
});

test('a run rests, goes on, is closed with what it taught, and can be opened again', async () => {
  const { runId, setup } = await released();
  await pauseRun(deps(), 'KT', { runId, rest: true });
  expect(message(await markSectionCut(deps(), 'KT', { runId, section: 1, fileId: null }))).toMatch(/rests/);
  await pauseRun(deps(), 'KT', { runId, rest: false });
  for (const section of [1, 2, 3, 4]) {
    await cut(runId, section, true);
    await check(runId, section, 'first row', 0.05 + 0.01 * section);
    await check(runId, section, 'last row', 0.12 + 0.01 * section);
    await finishSection(deps(), 'KT', { runId, section, spoiled: section === 4 ? 2 : 0 });
  }
  expect(message(await unmarkSectionCut(deps(), 'KT', { runId, section: 4 }))).toMatch(/has been checked/);
  expect((await closeRun(deps(), 'KT', { runId, note: 'all well', costPerItem: 0.5 })).ok).toBe(true);
  expect(await run(runId)).toMatchObject({
    stage: 'closed',
    outcome: { spoiled: 2, costSpoiled: 1, checks: 8, note: 'all well' },
  });
  expect(message(await check(runId, 1, 'first row', 0))).toMatch(/closed/);
  const known = (await setupDrift(deps(), setup))!;
  expect(known).toMatchObject({ sectionsOnRecord: 4, along: { readings: 8 } });
  // Worked out once: the same readings give the stored estimate.
  expect((await setupDrift(deps(), setup))!.along).toEqual(known.along);
  await reopenRun(deps(), 'KT', runId);
  expect((await run(runId)).stage).toBe('running');
});

test('two people check the same row at once: both count; one that was seen is replaced', async () => {
  const { runId } = await released();
  await cut(runId, 1, true);
  const done = await Promise.all([
    check(runId, 1, 'first row', 0.1),
    check(runId, 1, 'first row', 0.2),
    check(runId, 1, 'last row', 0.3),
  ]);
  expect(done.every((d) => d.ok)).toBe(true);
  const both = await run(runId);
  expect(both.checks).toHaveLength(3);
  const [first, last] = driftRunsOf(both, 'along')[0]!.readings;
  expect(first).toMatchObject({
    offsetMm: expect.closeTo(0.15, 9),
    uMm: expect.closeTo(0.035 / Math.SQRT2, 9),
  });
  expect(last!.offsetMm).toBeCloseTo(0.3, 9);

  const stamp = await runStamp(deps(), runId);
  const replaces = both.checks.filter((c) => c.place === 'first row').map((c) => c.id);
  const anew = { runId, section: 1, place: 'first row', way: 'gaps', dxMm: null, dyMm: 0.12, replaces };
  expect((await saveCheck(deps(), 'RS', anew)).ok).toBe(true);
  const after = await run(runId);
  expect(after.checks.map((c) => [c.place, c.dyMm, c.by])).toEqual([
    ['first row', 0.12, 'RS'],
    ['last row', 0.3, 'KT'],
  ]);
  expect(await runStamp(deps(), runId)).toBeGreaterThan(stamp!);
  const log = (await logDocument(deps())).runs.find((r) => r.id === runId)!;
  expect(log.checks).toHaveLength(4);
});

test('a check of one place does not replace that of another, nor of another run', async () => {
  const { runId } = await released();
  const other = await released();
  for (const id of [runId, other.runId]) {
    await cut(id, 1, true);
    await check(id, 1, 'last row', 0.3);
  }
  const replaces = [(await run(runId)).checks[0]!.id, (await run(other.runId)).checks[0]!.id];
  await saveCheck(deps(), 'KT', {
    runId,
    section: 1,
    place: 'first row',
    way: 'comb',
    dxMm: 0,
    dyMm: 0,
    replaces,
  });
  expect((await run(runId)).checks).toHaveLength(2);
  expect((await run(other.runId)).checks).toHaveLength(1);
});

test('a laminate that the cut did not follow is not taken for drift', async () => {
  const { runId } = await released();
  await laminate(deps(), 'KT', { runId, from: 1, nominalMm: 1000, measuredMm: 1002 });
  await cut(runId, 1, true);
  const { plan } = await run(runId);
  // A rig without drift: the print grew by 2 mm per m, so that the cut lies back by as much.
  for (const place of ['first row', 'last row'] as const)
    await check(runId, 1, place, -0.002 * checkYMm(plan, 1, place));
  for (const r of driftRunsOf(await run(runId), 'along')[0]!.readings) expect(r.offsetMm).toBeCloseTo(0, 9);
  const next = await outlookOn(deps(), await run(runId), 2);
  expect(next.stretch).toBeCloseTo(1.002, 12);
  // As drawn, the far end of a section of 378 mm would lie 0.76 mm back.
  expect(next.outlook.r95AsDrawnMm).toBeGreaterThan(0.7);
  expect(next.outlook.r95Mm).toBeLessThan(0.35);
});

test('first and last mark, and the tape', async () => {
  const setup = await setupId();
  const marks = {
    setupId: setup,
    lengthMm: 2000,
    first: { dyMm: 0, dxMm: null },
    last: { dyMm: 0.8, dxMm: null },
  };
  expect((await saveTwoMarks(deps(), 'KT', marks)).ok).toBe(true);
  expect((await setupDrift(deps(), setup))!.along.creep.value).toBeCloseTo(0.4, 1);
  expect(message(await saveTwoMarks(deps(), 'KT', { ...marks, last: { dyMm: null, dxMm: 0.1 } }))).toMatch(
    /same direction at both/,
  );
  const tape = { setupId: setup, of: 'print', nominalMm: 2000, measuredMm: 2003, uMm: 0.3 };
  expect((await saveTape(deps(), 'KT', tape)).ok).toBe(true);
  expect(message(await saveTape(deps(), 'KT', { ...tape, measuredMm: 2300 }))).toMatch(/3 % off/);
  // A cut line of the same day tells the creep: 0.2 mm per m on top of a print that is 1.5 too long.
  const known = (await setupDrift(deps(), setup))!;
  const cutTape = { ...tape, of: 'cut', nominalMm: 5000, measuredMm: 5008.5 };
  expect((await saveTape(deps(), 'KT', cutTape)).ok).toBe(true);
  const taped = (await setupDrift(deps(), setup))!;
  expect(taped.sectionsOnRecord).toBe(known.sectionsOnRecord + 1);
  const { readings } = taped.record.along.at(-1)!;
  expect(readings.at(-1)!.offsetMm).toBeCloseTo(1, 9);
  expect(readings.at(-1)!.uMm).toBeCloseTo(5 * Math.hypot(0.3 / 2, 0.3 / 5), 9);
  expect(taped.along.creep.value).toBeLessThan(known.along.creep.value);
});

test('a cut line by tape says nothing without the print of the same day', () => {
  const at = (day: number): Date => new Date(Date.UTC(2026, 9, day));
  const tape = (of: 'print' | 'cut', day: number) => ({
    of,
    nominalMm: 1000,
    measuredMm: 1001,
    uMm: 0.3,
    by: 'KT',
    at: at(day),
  });
  expect(tapeRuns([tape('cut', 1)])).toEqual([]);
  expect(tapeRuns([tape('cut', 1), tape('print', 9)])).toEqual([]);
  expect(tapeRuns([tape('cut', 9), tape('print', 9)])).toHaveLength(1);
});

test('a long log is gone back over as far as its newest readings, in order of time, whatever was entered first', () => {
  const piece = (day: number, readings: number) => ({
    at: new Date(Date.UTC(2026, 0, day)),
    along: [
      {
        id: `day ${day}`,
        registeredAtM: [0],
        readings: Array.from({ length: readings }, (_, i) => ({ id: `${i}`, yM: i, offsetMm: 0, uMm: 0.03 })),
      },
    ],
    across: [],
    sections: 1,
  });
  const days = (record: ReturnType<typeof piece>[]) => newestOf(record, 'along').map((r) => r.id);
  const third = MOST_READINGS / 3;
  expect(days([piece(3, third), piece(1, third), piece(2, 0), piece(4, third)])).toEqual([
    'day 1',
    'day 3',
    'day 4',
  ]);
  expect(days([piece(1, third), piece(9, third), piece(2, third), piece(5, third)])).toEqual([
    'day 2',
    'day 5',
    'day 9',
  ]);
  // The newest counts however long it is.
  expect(days([piece(1, 5), piece(2, 2 * MOST_READINGS)])).toEqual(['day 2']);
  expect(newestOf([piece(1, 5)], 'across')).toEqual([]);
});

test('the printer’s feed is noted, and what it was stays in the log', async () => {
  const setup = await setupId();
  expect(message(await setFeed(deps(), 'KT', { setupId: setup, feedPercent: 5 }))).toMatch(
    /between 50 and 200/,
  );
  expect(message(await setFeed(deps(), 'KT', { setupId: setup, feedPercent: Number.NaN }))).toMatch(
    /as a number/,
  );
  expect((await setFeed(deps(), 'KT', { setupId: setup, feedPercent: 100 })).ok).toBe(true);
  expect((await setFeed(deps(), 'KT', { setupId: setup, feedPercent: 99.85 })).ok).toBe(true);
  expect(await getSetup(deps(), setup)).toMatchObject({ feedPercent: 99.85, version: 1 });
  const notes = (await logDocument(deps())).events.flatMap(({ event }) =>
    event.setupId === setup ? [`${event.kind} ${event.note}`] : [],
  );
  expect(notes).toEqual(['feed from 100.00 % to 99.85 %']);
});
