import { eq } from 'drizzle-orm';
import fc from 'fast-check';

import { runChecks, runFiles } from '@/db/schema';
import { freshDeps } from '@test/database';
import { logDocument } from '@test/log';
import { ROLL_DRAFT } from '@test/setups';

import { addRig } from '@/server/rigs/writeRig';
import { makeSectionFile } from './runFiles';
import { getRun } from './repository';
import { type Run } from './run';
import { saveCheck, takeBackCheck } from './checks';
import { closeRun, reopenRun } from './closeRun';
import { finishSection, markSectionCut, unmarkSectionCut } from './cutSections';
import { outlookOn } from './outlook';
import { releaseItems, releaseRun } from './releaseRun';
import { keepSlip, laminate, pauseRun, registerAnew, undoEvent } from './runEvents';
import { startRun } from './startRun';

/*
 * A run taken through whatever people press, in any order and from pages that are out of date: nothing throws, a
 * refusal changes nothing, nothing that was entered is lost, and what is said of the next section is a figure.
 */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('run_model');
});
afterAll(() => deps.close());

let setups = 0;
async function setup(): Promise<string> {
  const added = await addRig(deps, 'KT', { ...ROLL_DRAFT, name: `Roll rig ${(setups += 1)}` });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  return added.value.setupId;
}

const ACTS = [
  ...[
    'release',
    'file',
    'file',
    'cut',
    'cut',
    'cut',
    'check',
    'check',
    'check',
    'take back',
    'not cut',
    'weeded',
  ],
  ...['register', 'keep slip', 'laminate', 'undo', 'rest', 'go on', 'close', 'open again'],
] as const;

const press = fc.record({
  act: fc.constantFrom(...ACTS),
  /** Beyond the last too: a page of another run. */
  section: fc.integer({ min: 1, max: 5 }),
  place: fc.constantFrom('first row' as const, 'last row' as const),
  mm: fc.double({ min: -2, max: 2, noNaN: true }),
  other: fc.boolean(),
  at: fc.nat(30),
});
type Press = typeof press extends fc.Arbitrary<infer T> ? T : never;

async function pressed(run: Run, p: Press): Promise<{ ok: boolean }> {
  const { id } = run;
  const [checkId, event] = [run.checks[p.at % Math.max(1, run.checks.length)]?.id, run.events[p.at % 7]];
  switch (p.act) {
    case 'release':
      return releaseRun(deps, 'KT', {
        runId: id,
        ticked: p.other ? [] : releaseItems(run.setup).map((i) => i.key),
      });
    case 'file':
      return makeSectionFile(deps, 'KT', { runId: id, section: p.section, format: 'hpgl' });
    case 'cut':
      return markSectionCut(deps, 'KT', {
        runId: id,
        section: p.section,
        fileId: p.other ? null : (run.files.find((f) => f.section === p.section)?.id ?? id),
      });
    case 'not cut':
      return unmarkSectionCut(deps, 'KT', { runId: id, section: p.section });
    case 'check':
      return saveCheck(deps, 'IM', {
        ...{ runId: id, section: p.section, place: p.place, way: 'comb' },
        ...{ dxMm: p.other ? null : p.mm / 4, dyMm: p.mm, replaces: p.other && checkId ? [checkId] : [] },
      });
    case 'take back':
      return takeBackCheck(deps, 'KT', { runId: id, checkId: checkId ?? id });
    case 'weeded':
      return finishSection(deps, 'KT', { runId: id, section: p.section, spoiled: p.other ? p.at : 1.5 });
    case 'register':
      return registerAnew(deps, 'KT', { runId: id, before: p.section });
    case 'keep slip':
      return keepSlip(deps, 'KT', {
        runId: id,
        axis: p.other ? 'along' : 'across',
        section: p.section,
        place: p.place,
        sizeMm: p.mm,
      });
    case 'laminate':
      return laminate(deps, 'KT', {
        runId: id,
        from: p.section,
        nominalMm: 500,
        measuredMm: 500 + 8 * p.mm,
      });
    case 'undo':
      return undoEvent(deps, 'KT', { runId: id, eventId: event?.id ?? id });
    case 'rest':
    case 'go on':
      return pauseRun(deps, 'KT', { runId: id, rest: p.act === 'rest' });
    case 'close':
      return closeRun(deps, 'KT', { runId: id, note: '', costPerItem: p.other ? 0.6 : null });
    case 'open again':
      return reopenRun(deps, 'KT', id);
  }
}

/** Everything that was ever entered or made, replaced ones included. */
const sizeOf = async (runId: string): Promise<{ checks: number; files: number }> => ({
  checks: await deps.db.$count(runChecks, eq(runChecks.runId, runId)),
  files: await deps.db.$count(runFiles, eq(runFiles.runId, runId)),
});

/** What holds of every run at any time. */
function sound(run: Run): void {
  for (const s of run.sections) {
    // Who, when and with which file belong to a section that is cut, and to no other.
    expect([s.cutAt === null, s.cutBy === null]).toEqual([s.state === 'waiting', s.state === 'waiting']);
    if (s.state === 'waiting') expect([s.applied, s.spoiled]).toEqual([null, null]);
    if (s.spoiled !== null) expect(s.spoiled).toBeLessThanOrEqual(run.plan.sections[s.index - 1]!.copies);
  }
  // A section that nobody cut has nothing to read.
  for (const c of run.checks) expect(run.sections[c.section - 1]!.state).not.toBe('waiting');
  const released = run.events.some((e) => e.kind === 'released');
  expect(run.stage === 'running' || run.stage === 'paused' ? released : true).toBe(true);
  expect(run.outcome === null).toBe(run.stage !== 'closed');
}

test('whatever is pressed, in whatever order', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(press, { minLength: 8, maxLength: 30 }), async (presses) => {
      const setupId = await setup();
      const started = await startRun(deps, 'KT', {
        ...{ setupId, name: 'luggage tags', strategy: 'sections', itemFile: null, spoilsAccepted: true },
        request: {
          ...{ item: { widthMm: 185, heightMm: 110 }, copies: 70, gapMm: 4, printableWidthMm: 1310 },
          ...{ rowsPerSection: 3, markRoomMm: 20, correctCreep: true },
        },
      });
      if (!started.ok) throw new Error(JSON.stringify(started.refusal));
      const { runId } = started.value;
      let before = (await getRun(deps, runId))!;
      let size = await sizeOf(runId);
      // Most runs are released before anything else.
      for (const p of [
        { ...presses[0]!, act: 'release' as const, other: presses.length % 5 === 0 },
        ...presses,
      ]) {
        const done = await pressed(before, p);
        const after = (await getRun(deps, runId))!;
        if (!done.ok) expect(after).toEqual(before);
        sound(after);
        const now = await sizeOf(runId);
        expect(now.checks).toBeGreaterThanOrEqual(size.checks);
        expect(now.files).toBeGreaterThanOrEqual(size.files);
        [before, size] = [after, now];
      }
      const next = before.sections.find((s) => s.state === 'waiting');
      if (next) {
        const { outlook } = await outlookOn(deps, before, next.index);
        expect(Number.isFinite(outlook.r95Mm) && outlook.r95Mm > 0).toBe(true);
        for (const v of Object.values(outlook.map)) expect(Number.isFinite(v)).toBe(true);
      }
      // A name stands for one content.
      const names = new Map<string, string>();
      for (const f of await deps.db.select().from(runFiles).where(eq(runFiles.runId, runId))) {
        expect(names.get(f.fileName) ?? f.sha256).toBe(f.sha256);
        names.set(f.fileName, f.sha256);
      }
    }),
    { numRuns: 10 },
  );
  expect(JSON.stringify(await logDocument(deps))).not.toMatch(/NaN|Infinity/);
});
