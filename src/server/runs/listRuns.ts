import { type RunStage } from '@/core/setup';
import { and, asc, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm';

import { media, rigs, setups, runs, runSections } from '@/db/schema';
import { frozenPlanOf } from '@/db/stored/runs';
import type { Deps } from '@/server/base/deps';
import { holding } from '@/server/base/search';
import type { PlanRequest } from '@/core/layout/planShape';

import { runLabel } from './run';

export interface RunRow {
  readonly id: string;
  readonly label: string;
  readonly name: string;
  readonly setupId: string;
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

/** How jobs are sorted: runs on rolls and sheets alike; sheets have no spoiled items on record. */
export const JOB_SORTS = ['newest', 'rig', 'name', 'spoiled'] as const;

export interface JobFilter {
  readonly show: 'open' | 'closed' | 'all';
  readonly sort: (typeof JOB_SORTS)[number];
  /** Part of a name, a number, a rig's or a medium's name, or initials. */
  readonly find?: string;
  /** From 1. */
  readonly page: number;
}

export const RUNS_A_PAGE = 50;

const mediaThen = sql<string>`coalesce(${runs.mediaThen}, ${media.name})`;

const ANY_RUN: JobFilter = { show: 'all', sort: 'newest', page: 1 };

/** One page of runs, and how many there are. Figures are taken out of the plans by the database. */
export async function listRuns(
  deps: Deps,
  { show, sort, page, find = '' }: JobFilter = ANY_RUN,
): Promise<{ readonly rows: RunRow[]; readonly total: number }> {
  const where = and(
    eq(runs.kind, 'job'),
    show === 'open' ? isNull(runs.closedAt) : undefined,
    show === 'closed' ? isNotNull(runs.closedAt) : undefined,
    holding(
      find,
      runs.name,
      rigs.name,
      mediaThen,
      runs.startedBy,
      sql`'R' || lpad(${runs.number}::text, 3, '0')`,
    ),
  );
  const spoiled = sql<number | null>`(${runs.outcome}->>'spoiled')::int`;
  const order = {
    newest: [desc(runs.startedAt)],
    rig: [asc(rigs.name), desc(runs.startedAt)],
    name: [asc(runs.name), desc(runs.startedAt)],
    spoiled: [sql`${spoiled} desc nulls last`, desc(runs.startedAt)],
  }[sort];
  const rows = await deps.db
    .select({
      id: runs.id,
      number: runs.number,
      name: runs.name,
      setupId: runs.setupId,
      rig: rigs.name,
      media: mediaThen,
      stage: runs.stage,
      startedAt: runs.startedAt,
      startedBy: runs.startedBy,
      copies: sql<number>`(${runs.plan}->'imposition'->>'copies')::int`,
      sections: sql<number>`jsonb_array_length(${runs.plan}->'sections')`,
      done: sql<number>`(select count(*)::int from ${runSections} where ${runSections.runId} = ${runs.id} and ${runSections.state} <> 'waiting')`,
      spoiled,
      predictedSpoiled: sql<number>`(${runs.plan}->>'spoiled')::float8`,
      total: sql<number>`(count(*) over ())::int`,
    })
    .from(runs)
    .innerJoin(setups, eq(setups.id, runs.setupId))
    .innerJoin(rigs, eq(rigs.id, setups.rigId))
    .innerJoin(media, eq(media.id, setups.mediaId))
    .where(where)
    .orderBy(...order)
    .limit(RUNS_A_PAGE)
    .offset((page - 1) * RUNS_A_PAGE);
  return {
    total: rows[0]?.total ?? 0,
    rows: rows.map(({ number, ...r }) => ({ ...r, label: runLabel(number), stage: r.stage })),
  };
}

/** Whether a run was ever planned. */
export const anyRun = async (deps: Deps): Promise<boolean> =>
  (await deps.db.select({ id: runs.id }).from(runs).where(eq(runs.kind, 'job')).limit(1)).length > 0;

/** What was planned last on a rig: its speeds are its own, whoever plans next. */
export async function lastPlanOn(
  deps: Deps,
  setupId: string,
): Promise<{ readonly label: string; readonly request: PlanRequest } | null> {
  const row = await deps.db.query.runs.findFirst({
    columns: { number: true, plan: true },
    where: and(eq(runs.kind, 'job'), eq(runs.setupId, setupId)),
    orderBy: desc(runs.startedAt),
  });
  return row ? { label: runLabel(row.number), request: frozenPlanOf.read(row.plan).request } : null;
}
