import { createHash } from 'node:crypto';

import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import {
  DRIFT_PRIORS,
  creepFromTapes,
  DRIFT_VERSION,
  lengthError,
  START_SD_MM,
  type DriftNode,
  type DriftReading,
  type DriftRun,
} from '@/core/drift';
import { registersEachSection } from '@/core/layout';
import { driftEstimates, passes, readings, rigs, runChecks, runs, sessions, tapeMeasures } from '@/db/schema';

import { stored } from '@/server/base/stored';
import type { Deps } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';
import { getRig } from '@/server/rigs/repository';
import { runsOf } from '@/server/runs/repository';
import { inForce, ownOffset, runLabel, type Run, type RunCheck } from '@/server/runs/run';

/* What a rig's log says about its drift: gathered from runs, roll proofs and pairs of marks, worked out once. */

export type DriftAxis = 'along' | 'across';

const finite = z.number();
const interval = z.object({ value: finite, low: finite, high: finite });

const nodeSchema = z.object({
  weight: finite,
  wanderMm2PerM: finite,
  creepVarMm2PerM2: finite,
  readingVarMm2: finite,
  registrationVarMm2: finite,
  creepMmPerM: finite,
  bowMmPerM2: finite,
  creepVar: finite,
  bowVar: finite,
  creepBowCov: finite,
});

const axisSchema = z.object({
  runs: z.int(),
  readings: z.int(),
  enough: z.boolean(),
  wander: interval.nullable(),
  creepVar: interval.nullable(),
  readingVar: interval.nullable(),
  registrationVar: interval.nullable(),
  creep: interval,
  bow: interval,
  unitVarMm2: finite,
  /** How far out a run starts, before its first check. */
  startSdMm: finite.default(START_SD_MM),
  nodes: z.array(nodeSchema).min(1),
  slips: z.array(
    z.object({
      runId: z.string(),
      beforeReading: z.int(),
      fromM: finite,
      toM: finite,
      sizeMm: interval,
      ofRegistration: z.boolean(),
      statistic: finite,
      limit: finite,
    }),
  ),
});

export const driftResultSchema = z.object({ along: axisSchema, across: axisSchema });
export type AxisKnowledge = z.output<typeof axisSchema>;

export interface RigDrift {
  readonly version: string;
  readonly along: AxisKnowledge;
  readonly across: AxisKnowledge;
  readonly sectionsOnRecord: number;
  readonly record: { readonly along: readonly DriftRun[]; readonly across: readonly DriftRun[] };
}

/** One axis of a run as pieces between registrations from scratch; offsets as the rig's own, file corrections undone. */
export function driftRunsOf(run: Run, axis: DriftAxis): DriftRun[] {
  const starts = [
    1,
    ...inForce(run, 'registered').flatMap((e) => (e.section === null ? [] : [e.section])),
  ].sort((a, b) => a - b);
  return starts.flatMap((from, piece) => {
    const to = starts[piece + 1] ?? Infinity;
    const own = run.checks.filter((c) => c.section >= from && c.section < to);
    const list = readingsOf(run, own, axis);
    const sections = run.plan.sections.filter((s) => s.index >= from && s.index < to);
    if (sections.length === 0) return [];
    const atMarks = registersEachSection(run.plan)
      ? sections.map((s) => s.startMm / 1000)
      : [sections[0]!.startMm / 1000];
    const kept = inForce(run, 'slip-kept').filter((e) => e.detail.axis === axis);
    return [
      {
        id: piece === 0 ? run.label : `${run.label}, registered anew before section ${from}`,
        // With marks at both ends the cutter stretches the cut to fit: every reading is as good as at a mark.
        registeredAtM: run.plan.way === 'both-ends' ? list.map((r) => r.yM) : atMarks,
        readings: list.map(({ id, yM, offsetMm, uMm }) => ({ id, yM, offsetMm, uMm })),
        slipsBefore: list.flatMap((r, i) =>
          kept.some((e) => e.detail.section === r.section && e.detail.place === r.place) ? [i] : [],
        ),
      },
    ];
  });
}

/** Readings of one axis in order of distance; several of the same place are taken together by their weights. */
function readingsOf(run: Run, checks: readonly RunCheck[], axis: DriftAxis) {
  const places = new Map<string, { section: number; place: string; readings: DriftReading[] }>();
  for (const c of checks) {
    const offset = ownOffset(run, c)[axis === 'along' ? 'dy' : 'dx'];
    if (offset === null) continue;
    const key = `${c.section} ${c.place}`;
    const at = places.get(key) ?? { section: c.section, place: c.place, readings: [] };
    at.readings.push({ id: c.id, yM: c.yMm / 1000, offsetMm: offset, uMm: c.uMm });
    places.set(key, at);
  }
  return [...places.values()].map(({ section, place, readings: same }) => ({
    ...together(same),
    section,
    place,
  }));
}

/** Readings of one place as one: mean by 1/u². */
function together(same: readonly DriftReading[]): DriftReading {
  const weights = same.map((r) => 1 / r.uMm ** 2);
  const total = weights.reduce((a, b) => a + b, 0);
  return {
    ...same[0]!,
    offsetMm: same.reduce((sum, r, i) => sum + weights[i]! * r.offsetMm, 0) / total,
    uMm: 1 / Math.sqrt(total),
  };
}

/** Readings an axis that an estimate goes back over: about a year of runs, and a second or two of work. */
export const MOST_READINGS = 600;

interface Recorded {
  readonly at: Date;
  readonly along: readonly DriftRun[];
  readonly across: readonly DriftRun[];
  readonly sections: number;
}

const readingsIn = (pieces: readonly DriftRun[]): number =>
  pieces.reduce((sum, p) => sum + p.readings.length, 0);

/** The newest pieces that hold no more readings than an estimate goes back over, oldest first. */
export function newestOf(record: readonly Recorded[], axis: DriftAxis): DriftRun[] {
  const kept: DriftRun[] = [];
  let readings = 0;
  for (const { [axis]: pieces } of [...record].sort((a, b) => b.at.getTime() - a.at.getTime())) {
    readings += readingsIn(pieces);
    if (kept.length > 0 && readings > MOST_READINGS) break;
    kept.unshift(...pieces.filter((p) => p.readings.length > 0));
  }
  return kept;
}

/** Runs that are fetched together while going back. */
const RUNS_AT_ONCE = 30;

/** What is on record about a rig's drift, as far back as an estimate goes. */
async function gather(deps: Deps, rigId: string): Promise<Recorded[]> {
  const record: Recorded[] = [];
  const enough = (axis: DriftAxis): boolean =>
    record.reduce((sum, r) => sum + readingsIn(r[axis]), 0) > MOST_READINGS;
  const rows = await deps.db
    .select({ id: runs.id, kind: runs.kind, number: runs.number, at: runs.startedAt })
    .from(runs)
    .where(eq(runs.rigId, rigId))
    .orderBy(desc(runs.startedAt));
  for (let from = 0; from < rows.length && !(enough('along') && enough('across')); from += RUNS_AT_ONCE) {
    const some = rows.slice(from, from + RUNS_AT_ONCE);
    const jobs = new Map(
      (
        await runsOf(
          deps,
          some.map((r) => r.id),
        )
      ).map((run) => [run.id, run]),
    );
    const marks = await deps.db
      .select()
      .from(runChecks)
      .where(
        and(
          inArray(
            runChecks.runId,
            some.filter((r) => r.kind !== 'job').map((r) => r.id),
          ),
          isNull(runChecks.replacedAt),
        ),
      )
      .orderBy(asc(runChecks.yMm));
    for (const row of some) {
      if (enough('along') && enough('across')) break;
      const run = jobs.get(row.id);
      if (run)
        record.push({
          at: row.at,
          along: driftRunsOf(run, 'along'),
          across: driftRunsOf(run, 'across'),
          sections: new Set(run.checks.map((c) => c.section)).size,
        });
      if (row.kind === 'job') continue;
      const of = (axis: 'dxMm' | 'dyMm'): DriftRun => ({
        id: runLabel(row.number),
        registeredAtM: [0],
        readings: marks.flatMap((m) =>
          m.runId !== row.id || m[axis] === null
            ? []
            : [{ id: m.id, yM: m.yMm / 1000, offsetMm: m[axis], uMm: m.uMm }],
        ),
      });
      record.push({ at: row.at, along: [of('dyMm')], across: [of('dxMm')], sections: 1 });
    }
  }
  return [...record, ...(await rollProofs(deps, rigId))];
}

const DAY_MS = 24 * 3600 * 1000;
/** Rows of a strip stand farther apart than twice this; readings of one row lie within it. */
const ROW_REACH_MM = 70;
/** The start of a tape is where the cut begins: off by nothing that counts. */
const TAPE_START_U_MM = 0.01;

/** Cut lines measured by tape, each against the print of the same day: without it nobody knows which of them is off. */
export function tapeRuns(tapes: readonly TapeMeasure[]): Recorded[] {
  return tapes
    .filter((t) => t.of === 'cut')
    .flatMap((cut) => {
      const prints = tapes.filter(
        (t) => t.of === 'print' && Math.abs(t.at.getTime() - cut.at.getTime()) < DAY_MS,
      );
      const print = lengthError(prints);
      if (print === null) return [];
      const creep = creepFromTapes(lengthError([cut])!, print);
      const yM = cut.nominalMm / 1000;
      const piece: DriftRun = {
        id: `tape ${cut.at.toISOString().slice(0, 10)}`,
        registeredAtM: [0],
        readings: [
          { id: 'start', yM: 0, offsetMm: 0, uMm: TAPE_START_U_MM },
          { id: 'end', yM, offsetMm: creep.perM * yM, uMm: creep.uPerM * yM },
        ],
      };
      return [{ at: cut.at, along: [piece], across: [], sections: 1 }];
    });
}

/** Roll proofs that were read: stations of one row across taken together. */
async function rollProofs(deps: Deps, rigId: string): Promise<Recorded[]> {
  const rows = await deps.db
    .select({ session: sessions.number, at: sessions.startedAt, passId: passes.id })
    .from(passes)
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .where(and(eq(sessions.rigId, rigId), eq(sessions.kind, 'roll-proof'), eq(sessions.stage, 'closed')));
  if (rows.length === 0) return [];
  const read = await deps.db
    .select()
    .from(readings)
    .where(
      and(
        inArray(
          readings.passId,
          rows.map((r) => r.passId),
        ),
        isNull(readings.replacedAt),
        isNull(readings.setAsideAt),
      ),
    );
  return rows.map(({ session, at, passId }) => {
    const of = (axis: DriftAxis): DriftRun => {
      const own = read.filter((r) => r.passId === passId && r.axis === axis).sort((a, b) => a.yMm - b.yMm);
      // Stations of one row are read a few mm apart, where their lines coincide.
      const rowsRead: (typeof own)[] = [];
      for (const r of own)
        if (r.yMm - (rowsRead.at(-1)?.[0]?.yMm ?? -Infinity) > ROW_REACH_MM) rowsRead.push([r]);
        else rowsRead.at(-1)!.push(r);
      const from = own[0]?.yMm ?? 0;
      return {
        id: `proof ${session}`,
        registeredAtM: [0],
        readings: rowsRead.map((row) =>
          together(
            row.map((r) => ({
              id: `${passId} ${row[0]!.stationId}`,
              yM: (row.reduce((sum, { yMm }) => sum + yMm, 0) / row.length - from) / 1000,
              offsetMm: r.offsetMm,
              uMm: r.uMm,
            })),
          ),
        ),
      };
    };
    const along = of('along');
    return { at, along: [along], across: [of('across')], sections: along.readings.length };
  });
}

/** What is known of a rig's drift now; null when there is no such rig. */
export async function rigDrift(deps: Deps, rigId: string): Promise<RigDrift | null> {
  const rig = await getRig(deps, rigId);
  if (!rig) return null;
  const pieces = await gather(deps, rigId);
  const tapes = tapeRuns(await listTapeMeasures(deps, rigId));
  const sectionsOnRecord = [...pieces, ...tapes].reduce((sum, p) => sum + p.sections, 0);
  const record = { along: newestOf([...pieces, ...tapes], 'along'), across: newestOf(pieces, 'across') };
  // A tape starts at the cut itself: it does not tell how far out a run starts.
  const started = { along: newestOf(pieces, 'along'), across: record.across };
  const calibratedSdMm = await lastOutcomeSd(deps, rigId);
  const inputs = { mediaClass: rig.mediaClass, calibratedSdMm, ...record };
  const fingerprint = createHash('sha256').update(JSON.stringify(inputs)).digest('hex');
  const [before] = await deps.db
    .select()
    .from(driftEstimates)
    .where(
      and(
        eq(driftEstimates.rigId, rigId),
        eq(driftEstimates.version, DRIFT_VERSION),
        eq(driftEstimates.fingerprint, fingerprint),
      ),
    );
  if (before) {
    const result = stored(driftResultSchema, before.result, 'drift_estimates.result');
    return { version: DRIFT_VERSION, ...result, sectionsOnRecord, record };
  }
  const result = {
    along: await axisKnowledge(record.along, rig.mediaClass, startSdOf(started.along, calibratedSdMm)),
    across: await axisKnowledge(record.across, rig.mediaClass, startSdOf(started.across, calibratedSdMm)),
  };
  await deps.db
    .insert(driftEstimates)
    .values({ rigId, version: DRIFT_VERSION, fingerprint, inputs, result, createdAt: deps.now() })
    .onConflictDoNothing();
  return { version: DRIFT_VERSION, ...result, sectionsOnRecord, record };
}

/** Rigs whose drift is remembered between pages. */
const MOST_REMEMBERED = 50;
const remembered = new Map<string, { readonly stamp: string; readonly drift: Promise<RigDrift | null> }>();

/** The same for pages: gathered and worked out once for all who look, until something of the rig changes. */
export async function shownDrift(deps: Deps, rigId: string): Promise<RigDrift | null> {
  const stamp = await driftStamp(deps, rigId);
  const known = remembered.get(rigId);
  if (known?.stamp === stamp) return known.drift;
  const drift = rigDrift(deps, rigId);
  remembered.delete(rigId);
  remembered.set(rigId, { stamp, drift });
  if (remembered.size > MOST_REMEMBERED) remembered.delete(remembered.keys().next().value!);
  drift.catch(() => {
    if (remembered.get(rigId)?.drift === drift) remembered.delete(rigId);
  });
  return drift;
}

/** Moves with everything that an estimate of this rig's drift is made from. */
async function driftStamp(deps: Deps, rigId: string): Promise<string> {
  const { rows } = await deps.db.execute<{ stamp: string }>(sql`
    select concat_ws(' ', (select version from ${rigs} where id = ${rigId}),
      (select concat(count(*), '/', sum(version)) from ${runs} where rig_id = ${rigId}),
      (select concat(count(*), '/', sum(version)) from ${sessions} where rig_id = ${rigId}),
      (select concat(count(*), '/', max(entered_at)) from ${tapeMeasures} where rig_id = ${rigId})) as stamp`);
  return rows[0]!.stamp;
}

/** What the rig's newest closed session left over, a standard deviation an axis; null without one. */
async function lastOutcomeSd(deps: Deps, rigId: string): Promise<number | null> {
  const [row] = await deps.db
    .select({ r95Mm: sessions.outcomeR95Mm })
    .from(sessions)
    .where(and(eq(sessions.rigId, rigId), isNotNull(sessions.outcomeR95Mm)))
    .orderBy(desc(sessions.closedAt))
    .limit(1);
  return row?.r95Mm == null ? null : row.r95Mm / R95_OF_SD;
}

/** Radius of 95 of 100 over the standard deviation an axis, without bias (Rayleigh, closed form). */
const R95_OF_SD = Math.sqrt(-2 * Math.log(0.05));

/** Runs from which the log tells how far out a run starts; and between which figures it may. */
const RUNS_TO_TELL_START = 3;
const START_RANGE_MM = [0.05, 0.5] as const;

/** Root mean square of the runs' first checks; else what the last calibration left; else what is usual. */
function startSdOf(record: readonly DriftRun[], calibratedSdMm: number | null): number {
  const firsts = record.map((r) => r.readings[0]!.offsetMm);
  const told =
    firsts.length >= RUNS_TO_TELL_START
      ? Math.sqrt(firsts.reduce((sum, mm) => sum + mm * mm, 0) / (firsts.length - 1))
      : (calibratedSdMm ?? START_SD_MM);
  return Math.min(START_RANGE_MM[1], Math.max(START_RANGE_MM[0], told));
}

/** Seven digits of each figure: far more than it is known to, and half as long to keep. */
const asKept = (node: DriftNode): DriftNode =>
  nodeSchema.parse(
    Object.fromEntries(
      Object.entries<number>({ ...node }).map(([name, v]) => [name, Number(v.toPrecision(7))]),
    ),
  );

async function axisKnowledge(
  record: readonly DriftRun[],
  mediaClass: keyof typeof DRIFT_PRIORS,
  startSdMm: number,
): Promise<AxisKnowledge> {
  const { estimate, slips } = await heavy('estimateDrift', { record, mediaClass });
  return {
    runs: estimate.runs,
    readings: estimate.readings,
    enough: estimate.enough,
    wander: estimate.wander,
    creepVar: estimate.creepVar,
    readingVar: estimate.readingVar,
    registrationVar: estimate.registrationVar,
    creep: estimate.creep,
    bow: estimate.bow,
    unitVarMm2: estimate.unitVarMm2,
    startSdMm,
    nodes: estimate.nodes.map(asKept),
    slips: slips.map((s) => ({ ...s })),
  };
}

export interface TapeMeasure {
  readonly of: 'print' | 'cut';
  readonly nominalMm: number;
  readonly measuredMm: number;
  readonly uMm: number;
  readonly by: string;
  readonly at: Date;
}

/** Distances measured by steel tape, newest first. */
export async function listTapeMeasures(deps: Deps, rigId: string): Promise<TapeMeasure[]> {
  const rows = await deps.db
    .select()
    .from(tapeMeasures)
    .where(eq(tapeMeasures.rigId, rigId))
    .orderBy(desc(tapeMeasures.enteredAt))
    .limit(50);
  return rows.map((r) => ({
    of: r.of as TapeMeasure['of'],
    nominalMm: r.nominalMm,
    measuredMm: r.measuredMm,
    uMm: r.uMm,
    by: r.enteredBy,
    at: r.enteredAt,
  }));
}
