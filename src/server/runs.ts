import { group } from 'd3';
import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import type { Affine } from '@/core/geometry';
import {
  CHECK_U_MM as COMB_U_MM,
  rowMiddleMm,
  type ExpectedMiss,
  type RollPlan,
  type Strategy,
} from '@/core/layout';
import { refuse } from '@/core/outcome';
import { media, rigs, runChecks, runEvents, runFiles, runs, runSections } from '@/db/schema';

import { stored } from './base/stored';
import type { Deps } from './deps';
import { getRig, type Rig } from './rigs';
import { affineSchema } from './schemas';
import { planRequestSchema, type PlanRequest } from '@/shapes/plan';

/* A run as it is read from the log. */

export type RunStage = 'release' | 'running' | 'paused' | 'closed';
export type CheckPlace = 'first row' | 'last row';
export const CHECK_PLACES = ['first row', 'last row'] as const satisfies readonly CheckPlace[];
export const CHECK_WAYS = ['comb', 'gaps', 'ruler'] as const;
export type CheckWay = (typeof CHECK_WAYS)[number];

/** How well each way of checking reads, mm; common practice, no source. */
export const CHECK_U_MM: Readonly<Record<CheckWay, number>> = { comb: COMB_U_MM, gaps: 0.06, ruler: 0.15 };

/** What a section's cut carried: the drift that its file undid, in the section's own frame, and a stretch. */
export const appliedSchema = z.object({
  version: z.string(),
  map: affineSchema,
  /** Length after laminating over length before; the cut is stretched by it. */
  stretch: z.number().positive(),
  r95Mm: z.number().nonnegative(),
});
export type Applied = z.output<typeof appliedSchema>;

const sectionSchema = z.object({
  index: z.int(),
  firstRow: z.int(),
  rows: z.int(),
  copies: z.int(),
  heightMm: z.number(),
  startMm: z.number(),
  endMm: z.number(),
});

const impositionSchema = z.object({
  columns: z.int(),
  columnsPerLane: z.int(),
  rows: z.int(),
  turned: z.boolean(),
  itemWidthMm: z.number(),
  itemHeightMm: z.number(),
  gapMm: z.number(),
  copies: z.int(),
  copiesInLastRow: z.int(),
  leftoverCopies: z.int(),
  usedWidthMm: z.number(),
  columnsAtMm: z.array(z.number()),
  lastRowShiftMm: z.number().default(0),
});

/** A plan as it was frozen. */
export const frozenPlanSchema = z.object({
  version: z.string(),
  driftVersion: z.string(),
  request: planRequestSchema,
  imposition: impositionSchema,
  strategy: z.string(),
  way: z.enum(['start', 'both-ends']),
  everyMm: z.number().nullable(),
  sections: z.array(sectionSchema).min(1),
  forecasts: z.array(z.object({ worstR95Mm: z.number(), spoiled: z.number() })),
  worstR95Mm: z.number(),
  spoiled: z.number(),
  /** By the model that follows the run; null of plans frozen before it was told. */
  expected: z.object({ untilCheckedMm: z.number(), thenMm: z.number().nullable() }).nullable().default(null),
  mediaMm: z.number(),
  markRoomMm: z.number(),
  betweenMm: z.number(),
});
export type FrozenPlan = z.output<typeof frozenPlanSchema>;

export const frozen = (
  request: PlanRequest,
  plan: RollPlan,
  strategy: Strategy,
  driftVersion: string,
  expected: ExpectedMiss,
): FrozenPlan => ({
  version: plan.version,
  driftVersion,
  request,
  imposition: { ...plan.imposition, columnsAtMm: [...plan.imposition.columnsAtMm] },
  strategy: strategy.name,
  way: strategy.way,
  everyMm: strategy.everyMm,
  sections: strategy.sections.map((s) => ({ ...s })),
  forecasts: strategy.forecasts.map((f) => ({ ...f })),
  worstR95Mm: strategy.worstR95Mm,
  spoiled: strategy.spoiled,
  expected,
  mediaMm: strategy.mediaMm,
  markRoomMm: request.markRoomMm,
  betweenMm: request.betweenMm ?? request.gapMm,
});

/** What a closed run came to. */
export const runOutcomeSchema = z.object({
  predictedSpoiled: z.number(),
  spoiled: z.int().nullable(),
  predictedR95Mm: z.number(),
  worstCheckMm: z.number().nullable(),
  checks: z.int(),
  costSpoiled: z.number().nullable(),
  note: z.string(),
  taught: z
    .array(
      z.object({
        axis: z.enum(['along', 'across']),
        creepBefore: z.number(),
        creepAfter: z.number(),
        wanderBefore: z.number().nullable(),
        wanderAfter: z.number().nullable(),
      }),
    )
    .default([]),
});
export type RunOutcome = z.output<typeof runOutcomeSchema>;

export interface RunSection {
  readonly index: number;
  readonly state: 'waiting' | 'cut' | 'finished';
  readonly applied: Applied | null;
  /** The file that was loaded; null as drawn. */
  readonly fileId: string | null;
  readonly cutBy: string | null;
  readonly cutAt: Date | null;
  readonly spoiled: number | null;
}

export interface RunCheck {
  readonly id: string;
  readonly section: number;
  readonly place: CheckPlace;
  readonly yMm: number;
  readonly dxMm: number | null;
  readonly dyMm: number | null;
  readonly uMm: number;
  readonly way: CheckWay;
  readonly by: string;
  readonly at: Date;
}

export const EVENT_KINDS = [
  'released',
  'registered',
  'slip-kept',
  'laminated',
  'undone',
  'paused',
  'resumed',
  'closed',
  'reopened',
] as const;
export type RunEventKind = (typeof EVENT_KINDS)[number];

const eventDetailSchema = z.object({
  axis: z.enum(['along', 'across']).optional(),
  sizeMm: z.number().optional(),
  /** Of a slip that was kept: the check after it. */
  section: z.int().optional(),
  place: z.enum(CHECK_PLACES).optional(),
  nominalMm: z.number().optional(),
  measuredMm: z.number().optional(),
  uMm: z.number().optional(),
  stretch: z.number().optional(),
  ticked: z.array(z.string()).optional(),
  note: z.string().optional(),
  /** The event that an undoing takes back. */
  undoes: z.uuid().optional(),
});

export interface RunEvent {
  readonly id: string;
  /** Taken back later; it stays in the log and counts no more. */
  readonly undone: boolean;
  readonly kind: RunEventKind;
  readonly section: number | null;
  readonly detail: z.output<typeof eventDetailSchema>;
  readonly by: string;
  readonly at: Date;
}

export interface RunFile {
  readonly id: string;
  readonly section: number;
  readonly fileName: string;
  readonly applied: Applied | null;
  readonly madeBy: string;
  readonly madeAt: Date;
}

export interface Run {
  readonly id: string;
  readonly number: number;
  readonly label: string;
  readonly rig: Rig;
  readonly name: string;
  readonly stage: RunStage;
  /** Counts everything that was done on it. */
  readonly version: number;
  readonly plan: FrozenPlan;
  readonly itemFile: string | null;
  readonly startedBy: string;
  readonly startedAt: Date;
  readonly closedAt: Date | null;
  readonly outcome: RunOutcome | null;
  readonly sections: readonly RunSection[];
  readonly checks: readonly RunCheck[];
  readonly events: readonly RunEvent[];
  readonly files: readonly RunFile[];
}

/** “R012”: how a run is called, on its files and its cards. */
export const runLabel = (number: number): string => `R${String(number).padStart(3, '0')}`;

export const RUN_NOT_FOUND = { code: 'not-found', what: 'run' } as const;

export async function getRun(deps: Deps, runId: string): Promise<Run | null> {
  const [run] = await runsOf(deps, [runId]);
  if (!run) return null;
  const [row] = await deps.db.select({ itemFile: runs.itemFile }).from(runs).where(eq(runs.id, runId));
  return { ...run, itemFile: row?.itemFile ?? null };
}

/** Runs by their ids, in no order, without the drawings of their items: six questions, however many they are. */
export async function runsOf(deps: Deps, ids: readonly string[]): Promise<Run[]> {
  const rows = await deps.db.query.runs.findMany({
    columns: { knowledge: false, itemFile: false },
    where: and(inArray(runs.id, [...ids]), eq(runs.kind, 'job')),
  });
  if (rows.length === 0) return [];
  const own = rows.map((r) => r.id);
  // One after another: in a transaction there is one connection.
  const rigs = new Map<string, Rig>();
  for (const rigId of new Set(rows.map((r) => r.rigId))) {
    const rig = await getRig(deps, rigId);
    if (rig) rigs.set(rigId, rig);
  }
  const sections = await deps.db
    .select()
    .from(runSections)
    .where(inArray(runSections.runId, own))
    .orderBy(asc(runSections.index));
  const checks = await deps.db
    .select()
    .from(runChecks)
    .where(and(inArray(runChecks.runId, own), isNull(runChecks.replacedAt)))
    .orderBy(asc(runChecks.yMm), asc(runChecks.enteredAt));
  const events = await deps.db
    .select()
    .from(runEvents)
    .where(inArray(runEvents.runId, own))
    .orderBy(asc(runEvents.happenedAt));
  const files = await deps.db
    .select({
      id: runFiles.id,
      runId: runFiles.runId,
      section: runFiles.section,
      fileName: runFiles.fileName,
      applied: runFiles.applied,
      madeBy: runFiles.madeBy,
      madeAt: runFiles.madeAt,
    })
    .from(runFiles)
    .where(inArray(runFiles.runId, own))
    .orderBy(asc(runFiles.section), asc(runFiles.madeAt));
  const sectionsOf = group(sections, (s) => s.runId);
  const checksOf = group(checks, (c) => c.runId);
  const eventsOfRun = group(events, (e) => e.runId);
  const filesOf = group(files, (f) => f.runId);
  return rows.flatMap((row) => {
    const now = rigs.get(row.rigId);
    if (!now) return [];
    const rig = { ...now, media: row.mediaThen ?? now.media };
    return [
      {
        id: row.id,
        number: row.number,
        label: runLabel(row.number),
        rig,
        name: row.name,
        stage: row.stage as RunStage,
        version: row.version,
        plan: stored(frozenPlanSchema, row.plan, 'runs.plan'),
        itemFile: null,
        startedBy: row.startedBy,
        startedAt: row.startedAt,
        closedAt: row.closedAt,
        outcome: stored(runOutcomeSchema.nullable(), row.outcome, 'runs.outcome'),
        sections: (sectionsOf.get(row.id) ?? []).map((s) => ({
          index: s.index,
          state: s.state as RunSection['state'],
          applied: stored(appliedSchema.nullable(), s.applied, 'run_sections.applied'),
          fileId: s.fileId,
          cutBy: s.cutBy,
          cutAt: s.cutAt,
          spoiled: s.spoiled,
        })),
        checks: (checksOf.get(row.id) ?? []).map((c) => ({
          id: c.id,
          section: c.section,
          place: c.place as CheckPlace,
          yMm: c.yMm,
          dxMm: c.dxMm,
          dyMm: c.dyMm,
          uMm: c.uMm,
          way: c.way as CheckWay,
          by: c.enteredBy,
          at: c.enteredAt,
        })),
        events: eventsOf(eventsOfRun.get(row.id) ?? []),
        files: (filesOf.get(row.id) ?? []).map((f) => ({
          id: f.id,
          section: f.section,
          fileName: f.fileName,
          madeBy: f.madeBy,
          madeAt: f.madeAt,
          applied: stored(appliedSchema.nullable(), f.applied, 'run_files.applied'),
        })),
      },
    ];
  });
}

/** Moves with everything that is done on a run: open pages ask for it and look again. Null when there is no such run. */
export async function runStamp(deps: Deps, runId: string): Promise<number | null> {
  const [row] = await deps.db.select({ version: runs.version }).from(runs).where(eq(runs.id, runId));
  return row?.version ?? null;
}

function eventsOf(rows: readonly (typeof runEvents.$inferSelect)[]): RunEvent[] {
  const events = rows.map((e) => ({
    id: e.id,
    kind: e.kind as RunEventKind,
    section: e.section,
    detail: stored(eventDetailSchema, e.detail, 'run_events.detail'),
    by: e.by,
    at: e.happenedAt,
  }));
  const undone = new Set(events.map((e) => e.detail.undoes));
  return events.map((e) => ({ ...e, undone: undone.has(e.id) }));
}

/** What steers a run and can be taken back. */
export const UNDOABLE = ['registered', 'slip-kept', 'laminated'] as const satisfies readonly RunEventKind[];

/** Events of a kind that count. */
export const inForce = ({ events }: Pick<Run, 'events'>, kind: (typeof UNDOABLE)[number]): RunEvent[] =>
  events.filter((e) => e.kind === kind && !e.undone);

export interface RunRow {
  readonly id: string;
  readonly label: string;
  readonly name: string;
  readonly rigId: string;
  readonly rig: string;
  readonly media: string;
  readonly stage: RunStage;
  readonly startedAt: Date;
  readonly startedBy: string;
  readonly copies: number;
  readonly sections: number;
  readonly done: number;
  readonly spoiled: number | null;
  readonly predictedSpoiled: number;
}

export const RUN_SORTS = ['newest', 'rig', 'spoiled'] as const;
export interface RunFilter {
  readonly show: 'open' | 'closed' | 'all';
  readonly sort: (typeof RUN_SORTS)[number];
  /** From 1. */
  readonly page: number;
}

export const RUNS_A_PAGE = 50;

const ANY_RUN: RunFilter = { show: 'all', sort: 'newest', page: 1 };

/** One page of runs, and how many there are. Figures are taken out of the plans by the database. */
export async function listRuns(
  deps: Deps,
  { show, sort, page }: RunFilter = ANY_RUN,
): Promise<{ readonly rows: RunRow[]; readonly total: number }> {
  const where = and(
    eq(runs.kind, 'job'),
    show === 'open' ? isNull(runs.closedAt) : undefined,
    show === 'closed' ? isNotNull(runs.closedAt) : undefined,
  );
  const spoiled = sql<number | null>`(${runs.outcome}->>'spoiled')::int`;
  const order = {
    newest: [desc(runs.startedAt)],
    rig: [asc(rigs.name), desc(runs.startedAt)],
    spoiled: [sql`${spoiled} desc nulls last`, desc(runs.startedAt)],
  }[sort];
  const [total, rows] = await Promise.all([
    deps.db.$count(runs, where),
    deps.db
      .select({
        id: runs.id,
        number: runs.number,
        name: runs.name,
        rigId: runs.rigId,
        rig: rigs.name,
        media: sql<string>`coalesce(${runs.mediaThen}, ${media.name})`,
        stage: runs.stage,
        startedAt: runs.startedAt,
        startedBy: runs.startedBy,
        copies: sql<number>`(${runs.plan}->'imposition'->>'copies')::int`,
        sections: sql<number>`jsonb_array_length(${runs.plan}->'sections')`,
        done: sql<number>`(select count(*)::int from ${runSections} where ${runSections.runId} = ${runs.id} and ${runSections.state} <> 'waiting')`,
        spoiled,
        predictedSpoiled: sql<number>`(${runs.plan}->>'spoiled')::float8`,
      })
      .from(runs)
      .innerJoin(rigs, eq(rigs.id, runs.rigId))
      .innerJoin(media, eq(media.id, rigs.mediaId))
      .where(where)
      .orderBy(...order)
      .limit(RUNS_A_PAGE)
      .offset((page - 1) * RUNS_A_PAGE),
  ]);
  return {
    total,
    rows: rows.map(({ number, ...r }) => ({ ...r, label: runLabel(number), stage: r.stage as RunStage })),
  };
}

/** Whether a run was ever planned. */
export const anyRun = async (deps: Deps): Promise<boolean> =>
  (await deps.db.select({ id: runs.id }).from(runs).where(eq(runs.kind, 'job')).limit(1)).length > 0;

/** What was planned last on a rig: its speeds are its own, whoever plans next. */
export async function lastPlanOn(
  deps: Deps,
  rigId: string,
): Promise<{ readonly label: string; readonly request: PlanRequest } | null> {
  const row = await deps.db.query.runs.findFirst({
    columns: { number: true, plan: true },
    where: and(eq(runs.kind, 'job'), eq(runs.rigId, rigId)),
    orderBy: desc(runs.startedAt),
  });
  return row
    ? { label: runLabel(row.number), request: stored(frozenPlanSchema, row.plan, 'runs.plan').request }
    : null;
}

/** Where a check is made, from the run's first registration: the middle of the first or the last row. */
export function checkYMm(plan: FrozenPlan, index: number, place: CheckPlace): number {
  const section = plan.sections[index - 1]!;
  return rowMiddleMm(section, place === 'first row' ? 0 : section.rows - 1, plan);
}

/** Length after laminating over length before, for a section; 1 where the far marks make the cutter follow it. */
export function stretchOf(run: Pick<Run, 'events' | 'plan'>, section: number): number {
  if (run.plan.way === 'both-ends') return 1;
  const laminated = inForce(run, 'laminated').findLast((e) => e.section !== null && e.section <= section);
  return laminated?.detail.stretch ?? 1;
}

/** d that a section's file undid at a place of the run, the laminate's stretch left out. */
export function undoneAt(applied: Applied | null, plan: FrozenPlan, index: number, yMm: number) {
  if (!applied) return { dx: 0, dy: 0 };
  const y = yMm - plan.sections[index - 1]!.startMm;
  const m: Affine = applied.map;
  return { dx: m.a12 * y + m.tx, dy: (m.a22 - 1) * y + m.ty };
}

/**
 * The rig's own offset behind a check: what was read, and what the section's file undid. A laminate that the file did
 * not follow made the print longer, so that the cut seems to lie that much back.
 */
export function ownOffset(run: Run, c: Pick<RunCheck, 'section' | 'yMm' | 'dxMm' | 'dyMm'>) {
  const { applied } = run.sections[c.section - 1]!;
  const undone = undoneAt(applied, run.plan, c.section, c.yMm);
  const followed = applied?.stretch ?? 1;
  const y = c.yMm - run.plan.sections[c.section - 1]!.startMm;
  return {
    dx: c.dxMm === null ? null : c.dxMm + undone.dx,
    dy: c.dyMm === null ? null : c.dyMm + undone.dy + (stretchOf(run, c.section) - followed) * y,
  };
}

export const refusedRun = (message: string) => refuse({ code: 'refused' as const, message });
