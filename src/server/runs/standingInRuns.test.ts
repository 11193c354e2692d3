import { sectionTransform } from '@/core/daily';
import { type Affine, type Point } from '@/core/geometry';
import { seededRandom } from '@/core/random/random';
import { addRig } from '@/server/rigs/writeRig';
import { setupDrift } from '@/server/drift/setupDrift';
import { getSetup } from '@/server/setups/repository';
import { replaceStanding, standingOf } from '@/server/setups/standing';
import { freshDeps } from '@test/database';
import { readByEzdxf } from '@test/readers/outside';
import { ROLL_DRAFT } from '@test/setups';

import { saveCheck } from './checks';
import { closeRun } from './closeRun';
import { markSectionCut } from './cutSections';
import { releaseItems, releaseRun } from './releaseRun';
import { getRun } from './repository';
import { checkYMm } from './run';
import { undoEvent } from './runEvents';
import { makeSectionFile, runArchive } from './runFiles';
import { decideStanding } from './decideStanding';
import { setStrip } from './witnessStrip';
import { startRun } from './startRun';

/*
 * Whole runs on a machine that we did not make: it takes what the section's file says (read by ezdxf), errs as its setup's
 * standing correction has found it to, and drifts along the roll besides. What lands is measured at every corner of every item.
 */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('standing_in_runs');
});
afterAll(() => deps.close());

const REQUEST = {
  ...{ item: { widthMm: 185, heightMm: 110 }, copies: 90, gapMm: 4, printableWidthMm: 1310 },
  ...{ rowsPerSection: 3, markRoomMm: 20, betweenMm: 10, correctCreep: true },
};

/** Across a sheet 1.37 m wide: some millimetres at its edges. */
const T: Affine = { a11: 1.0016, a12: -0.0011, a21: 0.0013, a22: 0.9992, tx: -0.9, ty: 0.4 };

let rigs = 0;
async function started(fileTransform: Affine | null) {
  const added = await addRig(deps, 'KT', { ...ROLL_DRAFT, name: `Roll rig ${(rigs += 1)}` });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const { setupId } = added.value;
  if (fileTransform) await stands(setupId, fileTransform);
  return { setupId, runId: await runOn(setupId) };
}

const stands = async (setupId: string, fileTransform: Affine | null): Promise<void> => {
  const setup = (await getSetup(deps, setupId))!;
  await replaceStanding(deps, 'KT', setupId, { ...standingOf(setup), fileTransform }, { source: 'accepted' });
};

async function runOn(setupId: string): Promise<string> {
  const run = await startRun(deps, 'KT', {
    ...{ setupId, name: 'luggage tags', strategy: 'sections', request: REQUEST, itemFile: null },
    spoilsAccepted: true,
  });
  if (!run.ok) throw new Error(JSON.stringify(run.refusal));
  const keys = releaseItems((await getSetup(deps, setupId))!).map((i) => i.key);
  expect((await releaseRun(deps, 'KT', { runId: run.value.runId, ticked: keys })).ok).toBe(true);
  return run.value.runId;
}

const run = async (runId: string) => (await getRun(deps, runId))!;
const message = (outcome: { ok: boolean; refusal?: object }): string =>
  JSON.stringify(outcome.refusal ?? null);

/** Where the machine puts a place that it is told: its own error, then the drift of the run, mm and metres. */
interface Machine {
  readonly error: Affine;
  readonly right: number;
  readonly further: number;
  readonly creepMmPerM: number;
}
const lands = (m: Machine, { x, y }: Point, startMm: number): Point => {
  const [u, v] = [
    m.error.a11 * x + m.error.a12 * y + m.error.tx,
    m.error.a21 * x + m.error.a22 * y + m.error.ty,
  ];
  return { x: u + m.right, y: v + m.further + (m.creepMmPerM * (startMm + y)) / 1000 };
};

/** T of the sheet in the axes of a section, written out: 30 mm in, on the near marks’ line. */
function inSection(t: Affine, nearMm: number): Affine {
  return {
    ...t,
    tx: t.a11 * 30 + t.a12 * nearMm + t.tx - 30,
    ty: t.a21 * 30 + t.a22 * nearMm + t.ty - nearMm,
  };
}

/** Cuts a section with its own file, measures every corner, checks its first and last row; the farthest corner, mm. */
async function cutAndCheck(
  runId: string,
  index: number,
  machine: Machine,
): Promise<{ worst: number; promised: number }> {
  const file = await makeSectionFile(deps, 'KT', { runId, section: index, format: 'dxf' });
  if (!file.ok) throw new Error(JSON.stringify(file.refusal));
  const before = await run(runId);
  const { plan } = before;
  const section = plan.sections[index - 1]!;
  const corners = readByEzdxf(file.value.content).map((line) => lands(machine, line[0]!, section.startMm));
  const meant = Array.from({ length: section.copies }, (_, i) => ({
    x: plan.imposition.columnsAtMm[i % plan.imposition.columns]!,
    y: plan.markRoomMm + Math.floor(i / plan.imposition.columns) * 114,
  }));
  const worst = Math.max(
    ...meant.map((p) => Math.min(...corners.map((c) => Math.hypot(c.x - p.x, c.y - p.y)))),
  );
  expect((await markSectionCut(deps, 'KT', { runId, section: index, fileId: file.value.fileId })).ok).toBe(
    true,
  );
  for (const place of ['first row', 'last row'] as const) {
    // Read on the piece in the middle, to a twentieth: what it misses by there.
    const yMm = checkYMm(plan, index, place) - section.startMm;
    const piece = nearest(meant, { x: 560, y: yMm - 55 });
    const near = nearest(corners, piece);
    const read = (mm: number): number => Math.round(mm * 20) / 20;
    await saveCheck(deps, 'KT', {
      ...{ runId, section: index, place, way: 'comb' },
      ...{ dxMm: read(near.x - piece.x), dyMm: read(near.y - piece.y) },
    });
  }
  const applied = (await run(runId)).sections[index - 1]!.applied!;
  return { worst, promised: applied.r95Mm };
}

const nearest = (of: readonly Point[], to: Point): Point =>
  of.reduce((a, b) => (Math.hypot(a.x - to.x, a.y - to.y) <= Math.hypot(b.x - to.x, b.y - to.y) ? a : b));

test('whole runs on rigs whose files carry scale, turn and lean: within what is promised at every corner of every item', async () => {
  const { marks } = ROLL_DRAFT;
  let corners = 0;
  let kept = 0;
  for (let seed = 1; seed <= 6; seed += 1) {
    const random = seededRandom(seed);
    const near = (by: number): number => (2 * random() - 1) * by;
    const fileTransform: Affine = {
      ...{ a11: 1 + near(0.002), a12: near(0.0015), a21: near(0.0015), a22: 1 + near(0.0015) },
      ...{ tx: near(1), ty: near(1) },
    };
    const { runId, setupId } = await started(fileTransform);
    const error = inSection(fileTransform, marks.insetNearMm);
    expect((await run(runId)).standing.map).toEqual(
      Object.fromEntries(Object.entries(error).map(([k, v]) => [k, expect.closeTo(v, 9)])),
    );
    const machine: Machine = { error, right: near(0.1), further: near(0.1), creepMmPerM: near(0.15) };
    for (const { index } of (await run(runId)).sections) {
      const { worst, promised } = await cutAndCheck(runId, index, machine);
      corners += 1;
      kept += Number(worst <= promised);
      // As before, with nothing of the setup in them, the sides were two to three millimetres off.
      expect(worst).toBeLessThan(0.5);
      if (index > 2) expect(worst).toBeLessThan(0.2);
    }
    expect((await closeRun(deps, 'KT', { runId })).ok).toBe(true);
    // What the run taught is the drift alone, not the scale that its files carried.
    const drift = (await setupDrift(deps, setupId))!;
    expect(Math.abs(drift.along.creep.value - machine.creepMmPerM)).toBeLessThan(0.12);
  }
  expect(kept / corners).toBeGreaterThan(0.93);
});

test('sections cut before files carried it, and as drawn, teach the same drift', async () => {
  const { runId, setupId } = await started(T);
  const error = inSection(T, ROLL_DRAFT.marks.insetNearMm);
  const plan = (await run(runId)).plan;
  for (const index of [1, 2]) {
    expect((await markSectionCut(deps, 'KT', { runId, section: index, fileId: null })).ok).toBe(true);
    const { startMm } = plan.sections[index - 1]!;
    for (const place of ['first row', 'last row'] as const) {
      const y = checkYMm(plan, index, place) - startMm;
      const at = { x: plan.request.printableWidthMm / 2, y };
      const to = lands({ error, right: 0, further: 0, creepMmPerM: 0 }, at, startMm);
      await saveCheck(deps, 'KT', {
        ...{ runId, section: index, place, way: 'comb', dxMm: to.x - at.x, dyMm: to.y - at.y },
      });
    }
  }
  // All that was read is what stands: nothing of it is drift, and the next file undoes it once.
  const { worst } = await cutAndCheck(runId, 3, { error, right: 0, further: 0, creepMmPerM: 0 });
  expect(worst).toBeLessThan(0.06);
  expect((await closeRun(deps, 'KT', { runId })).ok).toBe(true);
  expect(Math.abs((await setupDrift(deps, setupId))!.along.creep.value)).toBeLessThan(0.05);
});

test('another correction while a run is open is asked about, before any other file is made', async () => {
  const { runId, setupId } = await started(T);
  await cutAndCheck(runId, 1, {
    error: inSection(T, ROLL_DRAFT.marks.insetNearMm),
    right: 0,
    further: 0,
    creepMmPerM: 0,
  });
  const first = (await run(runId)).standing;
  const later: Affine = { ...T, tx: -0.2, a11: 1.0004 };
  await stands(setupId, later);
  const asked = (await run(runId)).newStanding!;
  expect(asked.map).toEqual(sectionTransform(later, (await getSetup(deps, setupId))!, 1310));
  expect(message(await makeSectionFile(deps, 'KT', { runId, section: 2, format: 'svg' }))).toMatch(
    /Say on the run’s page first/,
  );
  expect(message(await runArchive(deps, 'KT', runId))).toMatch(/Say on the run’s page first/);
  // The file of what is cut is had as it was cut.
  expect((await makeSectionFile(deps, 'KT', { runId, section: 1, format: 'svg' })).ok).toBe(true);
  expect(message(await decideStanding(deps, 'KT', { runId, standingId: first.id, take: true }))).toMatch(
    /once more/,
  );
  expect((await decideStanding(deps, 'KT', { runId, standingId: asked.id, take: false })).ok).toBe(true);
  expect(await run(runId)).toMatchObject({ standing: first, newStanding: null });
  const event = (await run(runId)).events.find((e) => e.kind === 'standing')!;
  expect((await undoEvent(deps, 'KT', { runId, eventId: event.id })).ok).toBe(true);
  expect((await run(runId)).newStanding?.id).toBe(asked.id);
  expect((await decideStanding(deps, 'KT', { runId, standingId: asked.id, take: true })).ok).toBe(true);
  expect(await run(runId)).toMatchObject({ standing: { id: asked.id, map: asked.map }, newStanding: null });
  // The machine is what it is now found to be: what the first section read goes on counting as it should.
  const machine = {
    error: inSection(later, ROLL_DRAFT.marks.insetNearMm),
    right: 0,
    further: 0,
    creepMmPerM: 0,
  };
  const file = await makeSectionFile(deps, 'KT', { runId, section: 2, format: 'dxf' });
  if (!file.ok) throw new Error('file');
  const moved = readByEzdxf(file.value.content).map((l) => lands(machine, l[0]!, 0).x - l[0]!.x);
  expect(Math.max(...moved) - Math.min(...moved)).toBeGreaterThan(0.3);
  // One that changes nothing of the files is not asked about.
  await stands(setupId, later);
  expect((await run(runId)).newStanding).toBeNull();
});

test('a file of before the strip was put in is another by name, and is not accepted as the one that was cut', async () => {
  const { runId } = await started(null);
  const bare = await makeSectionFile(deps, 'KT', { runId, section: 1, format: 'svg' });
  expect((await setStrip(deps, 'KT', { runId, on: true })).ok).toBe(true);
  const beside = await makeSectionFile(deps, 'KT', { runId, section: 1, format: 'svg' });
  if (!bare.ok || !beside.ok) throw new Error('file');
  expect(beside.value.fileName).not.toBe(bare.value.fileName);
  expect(message(await markSectionCut(deps, 'KT', { runId, section: 1, fileId: bare.value.fileId }))).toMatch(
    /before the witness strip/,
  );
  expect((await markSectionCut(deps, 'KT', { runId, section: 1, fileId: beside.value.fileId })).ok).toBe(
    true,
  );
  const names = new Map<string, string>();
  for (const made of [bare, beside]) names.set(made.value.fileName, made.value.content);
  expect(names.size).toBe(2);
});
