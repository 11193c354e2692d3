import { group } from 'd3';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';

import { runChecks, runEvents, runFiles, runs, runSections } from '@/db/schema';
import { eventDetail, fileApplied, frozenPlanOf, outcomeOf, sectionApplied } from '@/db/stored/runs';
import type { Deps } from '@/server/base/deps';
import { getSetup } from '@/server/setups/repository';
import { type Setup } from '@/server/setups/setup';

import { type Run, type RunEvent, runLabel } from './run';
import { everStood, standingIn } from './standing';

export async function getRun(deps: Deps, runId: string): Promise<Run | null> {
  const [run] = await runsOf(deps, [runId]);
  if (!run) return null;
  const [row] = await deps.db.select({ itemFile: runs.itemFile }).from(runs).where(eq(runs.id, runId));
  return { ...run, itemFile: row?.itemFile ?? null };
}

/** Runs by their ids, in no order, without the drawings of their items: seven questions, however many they are. */
export async function runsOf(deps: Deps, ids: readonly string[]): Promise<Run[]> {
  const rows = await deps.db.query.runs.findMany({
    columns: { knowledge: false, itemFile: false },
    where: and(inArray(runs.id, [...ids]), eq(runs.kind, 'job')),
  });
  if (rows.length === 0) return [];
  const own = rows.map((r) => r.id);
  // One after another: in a transaction there is one connection.
  const setups = new Map<string, Setup>();
  for (const setupId of new Set(rows.map((r) => r.setupId))) {
    const setup = await getSetup(deps, setupId);
    if (setup) setups.set(setupId, setup);
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
  const older = rows.filter((r) => (r.plan as { standing?: unknown }).standing == null);
  const stood = await everStood(deps, [...new Set(older.map((r) => r.setupId))]);
  const sectionsOf = group(sections, (s) => s.runId);
  const checksOf = group(checks, (c) => c.runId);
  const eventsOfRun = group(events, (e) => e.runId);
  const filesOf = group(files, (f) => f.runId);
  return rows.flatMap((row) => {
    const now = setups.get(row.setupId);
    if (!now) return [];
    const setup = { ...now, media: row.mediaThen ?? now.media };
    return [
      toRun(row, setup, {
        sections: sectionsOf.get(row.id) ?? [],
        checks: checksOf.get(row.id) ?? [],
        events: eventsOfRun.get(row.id) ?? [],
        files: filesOf.get(row.id) ?? [],
        stood,
      }),
    ];
  });
}

type Row<T extends { readonly $inferSelect: unknown }> = T['$inferSelect'];

/** A run from its rows. */
function toRun(
  row: Omit<Row<typeof runs>, 'knowledge' | 'itemFile'>,
  setup: Setup,
  its: {
    readonly sections: readonly Row<typeof runSections>[];
    readonly checks: readonly Row<typeof runChecks>[];
    readonly events: readonly Row<typeof runEvents>[];
    readonly files: readonly Omit<Row<typeof runFiles>, 'format' | 'sha256'>[];
    readonly stood: Awaited<ReturnType<typeof everStood>>;
  },
): Run {
  const plan = frozenPlanOf.read(row.plan);
  const events = eventsOf(its.events);
  return {
    ...standingIn({ ...row, plan, events }, setup, its.stood),
    id: row.id,
    number: row.number,
    label: runLabel(row.number),
    setup,
    name: row.name,
    stage: row.stage,
    version: row.version,
    plan,
    itemFile: null,
    witnessXMm: row.witnessXMm,
    startedBy: row.startedBy,
    startedAt: row.startedAt,
    closedAt: row.closedAt,
    outcome: outcomeOf.orNull(row.outcome),
    sections: its.sections.map((s) => ({
      index: s.index,
      state: s.state,
      applied: sectionApplied.orNull(s.applied),
      fileId: s.fileId,
      cutBy: s.cutBy,
      cutAt: s.cutAt,
      spoiled: s.spoiled,
    })),
    checks: its.checks.map((c) => ({
      id: c.id,
      section: c.section,
      place: c.place,
      yMm: c.yMm,
      dxMm: c.dxMm,
      dyMm: c.dyMm,
      uMm: c.uMm,
      way: c.way,
      by: c.enteredBy,
      at: c.enteredAt,
    })),
    events,
    files: its.files.map((f) => ({
      id: f.id,
      section: f.section,
      fileName: f.fileName,
      madeBy: f.madeBy,
      madeAt: f.madeAt,
      applied: fileApplied.orNull(f.applied),
    })),
  };
}

/** Moves with everything that is done on a run: open pages ask for it and look again. Null when there is no such run. */
export async function runStamp(deps: Deps, runId: string): Promise<number | null> {
  const [row] = await deps.db.select({ version: runs.version }).from(runs).where(eq(runs.id, runId));
  return row?.version ?? null;
}

function eventsOf(rows: readonly (typeof runEvents.$inferSelect)[]): RunEvent[] {
  const events = rows.map((e) => ({
    id: e.id,
    kind: e.kind,
    section: e.section,
    detail: eventDetail.read(e.detail),
    by: e.by,
    at: e.happenedAt,
  }));
  const undone = new Set(events.map((e) => e.detail.undoes));
  return events.map((e) => ({ ...e, undone: undone.has(e.id) }));
}
