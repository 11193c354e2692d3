/* eslint-disable max-lines -- one story told by one clock and one hand; see Shop */
import { CHECK_PLACES, type CorrectionWay } from '@/core/setup';
import { eq } from 'drizzle-orm';

import type { Terms } from '@/core/fit';
import { normalDeviate, type Random, seededRandom } from '@/core/random/random';
import { coarseOffset, nearestLengths } from '@/core/comb';
import { loadField, lookAtComb, type SimulatedRig, stripField } from '@/core/rigsim';
import type { PlumbState } from '@/core/verdict';
import type { Queryable } from '@/db/client';
import { setups } from '@/db/schema';
import type { Deps } from '@/server/base/deps';
import type { RemedyId } from '@/core/diagnosis';
import { noteTried } from '@/server/marks/remedies';
import { saveTape, setFeed } from '@/server/drift/measure';
import { recordEvent } from '@/server/setups/history';
import { getSetup } from '@/server/setups/repository';
import { wantedOf } from '@/server/setups/standing';
import { addSetup, inputOf } from '@/server/setups/writeSetup';
import { changeOver } from '@/server/rigs/changeOver';
import { addRig } from '@/server/rigs/writeRig';
import { saveCheck } from '@/server/runs/checks';
import { closeRun } from '@/server/runs/closeRun';
import { finishSection, markSectionCut } from '@/server/runs/cutSections';
import { openSlip, outlookOn } from '@/server/runs/outlook';
import { releaseItems, releaseRun } from '@/server/runs/releaseRun';
import { getRun } from '@/server/runs/repository';
import { checkYMm, undoneAt } from '@/server/runs/run';
import { keepSlip } from '@/server/runs/runEvents';
import { makeSectionFile } from '@/server/runs/runFiles';
import { startRun } from '@/server/runs/startRun';
import { createJob } from '@/server/sheetJobs/createJob';
import { newJobSchema } from '@/server/sheetJobs/shapes';
import { freezeJob } from '@/server/sheetJobs/freezeJob';
import { closeJob } from '@/server/sheetJobs/steps';
import { applyCorrection } from '@/server/sessions/applyCorrection';
import { closeSession } from '@/server/sessions/closeSession';
import { finishReading } from '@/server/sessions/finishReading';
import { getSession } from '@/server/sessions/loadSession';
import { markPrinted } from '@/server/sessions/printSheet';
import { saveReading } from '@/server/sessions/readings';
import { currentPass } from '@/server/sessions/session';
import { assess } from '../sessions/assess';
import { startRollProof, startSession } from '@/server/sessions/startSession';

import { jarLabel } from './demoArt';
import { type DemoRig, PLUMB } from './demoRigs';
import { type DemoRun, rollOf } from './demoRuns';

const DAY_MS = 24 * 3600 * 1000;

const CHECK_NOISE_MM = 0.03;

/** Long, since it is one story told by one clock and one hand: each step leaves the shop for the next. */
export class Shop {
  readonly random: Random = seededRandom(1137);
  private readonly drifts = new Map<string, Partial<Terms>>();
  private clock: Date;

  constructor(
    private readonly db: Queryable,
    private readonly today: Date,
  ) {
    this.clock = today;
  }

  private get deps(): Deps {
    return { db: this.db, now: () => this.clock, origin: 'http://127.0.0.1:3000' };
  }

  /** Working hours on a day in the past; each step of the work takes a minute or so. */
  private setDay(daysAgo: number): void {
    const day = new Date(this.today.getTime() - daysAgo * DAY_MS);
    day.setUTCHours(7 + Math.floor(this.random() * 2), Math.floor(this.random() * 60), 0, 0);
    this.clock = day.getTime() > this.today.getTime() ? new Date(this.today.getTime() - 1800 * 1000) : day;
  }

  private tick(seconds: number): void {
    this.clock = new Date(this.clock.getTime() + seconds * 1000);
  }

  async add(demo: DemoRig, daysAgo = 153): Promise<string> {
    this.clock = new Date(this.today.getTime() - daysAgo * DAY_MS + demo.seed * 60_000);
    const added = await addRig(this.deps, 'IM', demo.input);
    if (!added.ok) throw new Error(`demo rig: ${JSON.stringify(added.refusal)}`);
    const { setupId } = added.value;
    await this.standIn(setupId, demo);
    return setupId;
  }

  /** Another medium on a rig that is there, like one that is on it. */
  async another(
    likeId: string,
    daysAgo: number,
    who: string,
    medium: Pick<DemoRig, 'seed' | 'truth'> & { readonly media: string; readonly toleranceMm: number },
  ): Promise<string> {
    this.setDay(daysAgo);
    const like = (await getSetup(this.deps, likeId))!;
    const { media, toleranceMm } = medium;
    const added = await addSetup(this.deps, who, { rigId: like.rigId, ...inputOf(like), media, toleranceMm });
    if (!added.ok) throw new Error(`demo medium: ${JSON.stringify(added.refusal)}`);
    await this.standIn(added.value.setupId, medium);
    return added.value.setupId;
  }

  /** The rig gets this medium: what it wants is typed. */
  async changeOver(setupId: string, daysAgo: number, who: string): Promise<void> {
    this.setDay(daysAgo);
    const setup = (await getSetup(this.deps, setupId))!;
    const done = await changeOver(this.deps, who, { setupId, wanted: wantedOf(setup) });
    if (!done.ok) throw new Error(`demo change-over: ${JSON.stringify(done.refusal)}`);
  }

  /** Hides what the rig does with this medium on it. */
  private async standIn(setupId: string, demo: Pick<DemoRig, 'seed' | 'truth' | 'roll'>): Promise<void> {
    const setup = (await getSetup(this.deps, setupId))!;
    const simulation: SimulatedRig = {
      seed: demo.seed,
      truth: { ...PLUMB, ...demo.truth },
      centre: {
        x: (setup.workArea.x0 + setup.workArea.x1) / 2,
        y: (setup.workArea.y0 + setup.workArea.y1) / 2,
      },
      settingsAtTruth: Object.fromEntries(setup.settings.map((s) => [s.id, s.value])),
      effects: Object.fromEntries(setup.settings.map((s) => [s.id, s.effect])),
      loadScatterMm: 0.025,
      roll: demo.roll,
    };
    await this.db.update(setups).set({ simulation }).where(eq(setups.id, setupId));
  }

  /** Moves the rig's hidden truth on top of what it was made with. */
  async drift(setupId: string, by: Partial<Terms>): Promise<void> {
    const [row] = await this.db.select().from(setups).where(eq(setups.id, setupId));
    const simulation = row!.simulation as SimulatedRig;
    const before = this.drifts.get(setupId) ?? {};
    const truth = { ...simulation.truth };
    for (const name of ['shiftXMm', 'shiftYMm', 'turnRad'] as const)
      truth[name] += (by[name] ?? before[name] ?? 0) - (before[name] ?? 0);
    this.drifts.set(setupId, { ...before, ...by });
    await this.db
      .update(setups)
      .set({ simulation: { ...simulation, truth } })
      .where(eq(setups.id, setupId));
  }

  async event(setupId: string, daysAgo: number, who: string, kind: string, note: string): Promise<void> {
    this.setDay(daysAgo);
    await recordEvent(this.deps, who, { setupId, kind, note });
  }

  /** A mark would not read: what was tried, and what helped. */
  async tried(
    setupId: string,
    daysAgo: number,
    who: string,
    remedy: RemedyId,
    worked: boolean,
  ): Promise<void> {
    this.setDay(daysAgo);
    await noteTried(this.deps, who, { setupId, remedy, worked });
  }

  async calibrate(setupId: string, daysAgo: number, who: string, way: CorrectionWay): Promise<void> {
    this.setDay(daysAgo);
    const sessionId = await this.start(setupId, who, 'calibration');
    await this.read(sessionId, who);
    await finishReading(this.deps, who, sessionId);
    this.tick(60);
    await applyCorrection(this.deps, who, { sessionId, how: way });
    this.tick(240);
    await markPrinted(this.deps, who, sessionId);
    await this.read(sessionId, who);
    await finishReading(this.deps, who, sessionId);
    this.tick(30);
    await closeSession(this.deps, who, sessionId);
  }

  /** A quick check; what it said. */
  async check(
    setupId: string,
    daysAgo: number,
    who: string,
    by?: Partial<Terms>,
  ): Promise<PlumbState | null> {
    if (by) await this.drift(setupId, sum(this.drifts.get(setupId), by));
    this.setDay(daysAgo);
    const sessionId = await this.start(setupId, who, 'quick-check');
    await this.read(sessionId, who);
    await finishReading(this.deps, who, sessionId);
    await closeSession(this.deps, who, sessionId);
    return (await getSession(this.deps, sessionId))!.outcome;
  }

  /** A sheet of labels, from artwork to a frozen pair; cut and closed, or still to be printed. */
  async labels(
    setupId: string,
    daysAgo: number,
    who: string,
    copies: number,
    closed: boolean,
    name = 'honey-jar labels',
  ): Promise<void> {
    this.setDay(daysAgo);
    const job = newJobSchema.parse({
      ...{ setupId, name, bleedMm: 0, kind: 'kiss-cut' },
      recipe: { size: { widthMm: 46 }, borderMm: 1.5 },
      copies,
      layout: { gapMm: 3 },
    });
    const art = { bytes: await jarLabel(), name: 'jar-label.png' };
    const made = await createJob(this.deps, who, { art, job });
    if (!made.ok) throw new Error(`demo labels: ${JSON.stringify(made.refusal)}`);
    this.tick(240);
    await freezeJob(this.deps, who, { jobId: made.value.jobId });
    this.tick(3600);
    if (closed) await closeJob(this.deps, who, made.value.jobId);
  }

  async halfRead(setupId: string, daysAgo: number, who: string, stations: number): Promise<void> {
    this.setDay(daysAgo);
    const sessionId = await this.start(setupId, who, 'calibration');
    await this.read(sessionId, who, stations);
  }

  /** The printer's feed set by steel tape: 3 m of print, measured before and after. */
  async printLength(setupId: string, daysAgo: number, who: string): Promise<void> {
    this.setDay(daysAgo);
    await setFeed(this.deps, who, { setupId, feedPercent: 100 });
    const tape = { setupId, of: 'print', nominalMm: 3000, uMm: 0.3 };
    this.tick(900);
    await saveTape(this.deps, who, { ...tape, measuredMm: 3004.2 });
    this.tick(300);
    await setFeed(this.deps, who, { setupId, feedPercent: 99.86 });
    this.tick(1200);
    await saveTape(this.deps, who, { ...tape, measuredMm: 3000.2 });
  }

  /** A long proof strip, read along both edges and the middle. */
  async strip(setupId: string, daysAgo: number, who: string): Promise<void> {
    this.setDay(daysAgo);
    const started = await startRollProof(this.deps, who, { setupId, length: 9000, spacing: 1000 });
    if (!started.ok) throw new Error(`demo strip: ${JSON.stringify(started.refusal)}`);
    const { sessionId } = started.value;
    this.tick(1800);
    await markPrinted(this.deps, who, sessionId);
    await this.read(sessionId, who);
    await finishReading(this.deps, who, sessionId);
  }

  /** A run followed section by section: cut with the corrected file, checked at its first and last row. */
  async run(setupId: string, demo: DemoRun): Promise<void> {
    this.setDay(demo.daysAgo);
    const setup = (await getSetup(this.deps, setupId))!;
    const started = await startRun(this.deps, demo.who, {
      setupId,
      name: demo.name,
      strategy: 'sections',
      request: {
        item: { widthMm: demo.itemWidthMm, heightMm: demo.itemHeightMm },
        copies: demo.copies,
        gapMm: 4,
        printableWidthMm: setup.workArea.x1 - setup.workArea.x0,
        toleranceMm: demo.toleranceMm,
        rowsPerSection: demo.rowsPerSection,
        markRoomMm: 20,
        betweenMm: 10,
        leadMm: 300,
        tailMm: 250,
        correctCreep: true,
        speeds: { printMmPerHour: 8000, cutMmPerS: 150, registerS: 90, waitS: 0 },
      },
      itemFile: null,
      ...(demo.spoilsAccepted ? { spoilsAccepted: true } : {}),
    });
    if (!started.ok) throw new Error(`demo run: ${JSON.stringify(started.refusal)}`);
    const { runId } = started.value;
    this.tick(300);
    await releaseRun(this.deps, demo.who, { runId, ticked: releaseItems(setup).map((i) => i.key) });
    const roll = rollOf(demo, this.random);
    const { plan } = (await getRun(this.deps, runId))!;
    for (const section of plan.sections.slice(0, demo.upTo)) {
      this.tick(900);
      const file = await makeSectionFile(this.deps, demo.who, {
        runId,
        section: section.index,
        format: 'dxf',
      });
      await markSectionCut(this.deps, demo.who, {
        runId,
        section: section.index,
        fileId: file.ok ? file.value.fileId : null,
      });
      const { applied } = (await getRun(this.deps, runId))!.sections[section.index - 1]!;
      roll.register(section.index);
      for (const place of CHECK_PLACES) {
        this.tick(40);
        const yMm = checkYMm(plan, section.index, place);
        const truth = roll.at((yMm - section.startMm) / 1000);
        const undone = undoneAt(applied, plan, section.index, yMm);
        const read = (mm: number): number =>
          Math.round(100 * (mm + CHECK_NOISE_MM * normalDeviate(this.random))) / 100;
        const saved = await saveCheck(this.deps, demo.who, {
          runId,
          section: section.index,
          place,
          way: 'comb',
          dxMm: read(truth.x - undone.dx),
          dyMm: read(truth.y - undone.dy),
        });
        if (!saved.ok) throw new Error(`demo check: ${JSON.stringify(saved.refusal)}`);
      }
      await this.keepSlips(runId, section.index + 1, demo.who);
      if (demo.close)
        await finishSection(this.deps, demo.who, {
          runId,
          section: section.index,
          spoiled: demo.close.spoiled(section.index),
        });
    }
    if (demo.close) await closeRun(this.deps, demo.who, { runId, note: demo.close.note, costPerItem: 0.6 });
  }

  /** A slip is looked into and kept: the files of the sections to come make up for it. */
  private async keepSlips(runId: string, next: number, who: string): Promise<void> {
    const run = (await getRun(this.deps, runId))!;
    if (next > run.sections.length) return;
    const slip = openSlip(run, await outlookOn(this.deps, run, next));
    if (!slip) return;
    this.tick(120);
    await keepSlip(this.deps, who, { runId, axis: slip.axis, ...slip.after, sizeMm: slip.sizeMm });
  }

  private async start(setupId: string, who: string, kind: 'calibration' | 'quick-check'): Promise<string> {
    const started = await startSession(this.deps, who, { setupId, kind, readBy: 'comb' });
    if (!started.ok) throw new Error(`demo session: ${JSON.stringify(started.refusal)}`);
    this.tick(420);
    await markPrinted(this.deps, who, started.value.sessionId);
    return started.value.sessionId;
  }

  private async read(sessionId: string, who: string, most = Infinity): Promise<void> {
    const session = (await getSession(this.deps, sessionId))!;
    const pass = currentPass(session);
    const [row] = await this.db.select().from(setups).where(eq(setups.id, session.setup.id));
    const simulation = row!.simulation as SimulatedRig;
    const load = session.number * 16 + pass.load;
    const sheet = loadField(simulation, pass.settingsAtCut, load);
    const fieldAt =
      session.kind === 'roll-proof' ? stripField(simulation, pass.settingsAtCut, load) : () => sheet;
    for (const station of pass.stations.slice(0, most))
      for (const axis of ['across', 'along'] as const) {
        this.tick(6 + 4 * Math.abs(normalDeviate(this.random)));
        const sight = lookAtComb(
          station[axis],
          station.scaleCentre,
          fieldAt(station.centre.y),
          this.random,
          undefined,
          pass.fileTransform,
        );
        const lengths = nearestLengths(
          station[axis],
          sight.pick.line,
          sight.pick.between,
          coarseOffset(sight.coarseMm),
        );
        const saved = await saveReading(this.deps, who, {
          passId: pass.id,
          stationId: station.id,
          axis,
          pick: { ...sight.pick, lengths },
          coarseMm: sight.coarseMm,
        });
        if (!saved.ok) throw new Error(`demo reading: ${JSON.stringify(saved.refusal)}`);
      }
    const after = (await getSession(this.deps, sessionId))!;
    if (!assess(after, currentPass(after))) throw new Error('demo: a read pass says nothing');
  }
}

const sum = (a: Partial<Terms> | undefined, b: Partial<Terms>): Partial<Terms> =>
  Object.fromEntries(Object.entries(b).map(([k, v]) => [k, (a?.[k as keyof Terms] ?? 0) + v]));
