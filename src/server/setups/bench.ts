import type { CorrectionWay, EventKind, SessionKind, Stage } from '@/core/setup';
import { and, asc, desc, eq, isNotNull, isNull, max as maxOf, or, sql } from 'drizzle-orm';

import type { ToldScatter } from '@/core/correction';
import { setupState, type PlumbState, type SetupState } from '@/core/verdict';
import { watched, type WatchedAxis } from '@/core/control';
import {
  corrections,
  events,
  fits,
  passes,
  proofSheets,
  readings,
  runs,
  runSections,
  setups,
  sessions,
} from '@/db/schema';

import type { Deps } from '@/server/base/deps';
import { foundOf } from '@/server/watch/foundTerms';
import { listSetups } from './repository';
import { type Setup } from './setup';

export interface ClosedSession {
  readonly id: string;
  readonly kind: SessionKind;
  readonly at: Date;
  readonly state: PlumbState;
  readonly r95Mm: number;
  /** Whether the scatter of loads in that figure was told by the log; null when it was not kept. */
  readonly loads: ToldScatter['from'] | null;
  /** Read on a proving cut, not only measured and left. */
  readonly proved: boolean;
}

/** A correction that was carried out and whose proof was not read. */
export interface UnprovedSession {
  readonly at: Date;
  readonly done: CorrectionWay;
}

export interface OpenSession {
  readonly id: string;
  readonly kind: SessionKind;
  readonly stage: Stage;
  readonly sheetNumber: number;
  readonly stationsRead: number;
  readonly stations: number;
}

export interface SetupEvent {
  readonly kind: EventKind;
  readonly note: string;
  readonly by: string;
  readonly at: Date;
}

export interface BenchSetup {
  readonly setup: Setup;
  /** Closed sessions that said something, oldest first. */
  readonly history: readonly ClosedSession[];
  readonly open: readonly OpenSession[];
  /** Newer than everything in the history; else null. */
  readonly unproved: UnprovedSession | null;
  readonly events: readonly SetupEvent[];
  /** How its loads land since the last event or calibration, across and along. */
  readonly watch: readonly WatchedAxis[];
  /** When it cut last, as far as the log knows; null never. */
  readonly lastCut: Date | null;
  /** Loads that told all six terms, of those looked back over. */
  readonly fullLoads: number;
}

/** How far back the bench looks at each rig; the logbook has the rest. */
const SESSIONS_BACK = 60;
const EVENTS_BACK = 40;

/** Whether what stands for a setup was read and proved. */
export const isProved = (b: Pick<BenchSetup, 'unproved' | 'history'>): boolean =>
  b.unproved === null && b.history.length > 0;

/** Every setup on the bench (or of one rig) with what has been measured, what is open and what has happened to it. */
export async function loadBench(deps: Deps, rigId?: string): Promise<BenchSetup[]> {
  const list = await listSetups(deps, rigId);
  if (list.length === 0) return [];
  const [closed, happened, open, typed, found, runsCut] = await Promise.all([
    loadTold(deps),
    loadEvents(deps),
    loadOpen(deps),
    loadUnproved(deps),
    foundOf(deps, rigId),
    lastRunCut(deps),
  ]);
  return list.map((setup) => {
    const history = closed.get(setup.id) ?? [];
    const unproved = typed.get(setup.id)?.[0] ?? null;
    const last = history.at(-1);
    const sets = found.get(setup.id) ?? [];
    const events = happened.get(setup.id) ?? [];
    return {
      setup,
      history,
      open: open.get(setup.id) ?? [],
      unproved: unproved && (!last || unproved.at > last.at) ? unproved : null,
      events,
      watch: watched(sets, events, setup.toleranceMm),
      lastCut: newest(sets.at(-1)?.at, runsCut.get(setup.id)),
      fullLoads: sets.filter((f) => f.position === 1 && !f.shiftOnly).length,
    };
  });
}

/** How a setup stands; of one that is off the bench nobody knows. */
export async function stateOfSetup(
  deps: Deps,
  { id, rigId }: Pick<Setup, 'id' | 'rigId'>,
): Promise<SetupState> {
  const own = (await loadBench(deps, rigId)).find((b) => b.setup.id === id);
  return setupState(own ?? { setup: { toleranceMm: 1 }, history: [], unproved: null });
}

const newest = (a: Date | undefined, b: Date | undefined): Date | null =>
  a === undefined || (b !== undefined && b > a) ? (b ?? null) : a;

/** When each setup last cut a section of a run. */
async function lastRunCut(deps: Deps): Promise<Map<string, Date>> {
  const rows = await deps.db
    .select({ setupId: runs.setupId, at: maxOf(runSections.cutAt) })
    .from(runs)
    .innerJoin(runSections, eq(runSections.runId, runs.id))
    .where(isNotNull(runSections.cutAt))
    .groupBy(runs.setupId);
  return new Map(rows.map((r) => [r.setupId, r.at!]));
}

function bySetup<R extends { readonly setupId: string }, T>(
  rows: readonly R[],
  view: (row: R) => T,
): Map<string, T[]> {
  const found = new Map<string, T[]>();
  for (const row of rows) {
    const own = found.get(row.setupId);
    if (own) own.push(view(row));
    else found.set(row.setupId, [view(row)]);
  }
  return found;
}

const inUse = (deps: Deps) =>
  deps.db
    .select({ id: setups.id, rigId: setups.rigId })
    .from(setups)
    .where(isNull(setups.archivedAt))
    .as('r');

async function loadTold(deps: Deps): Promise<Map<string, ClosedSession[]>> {
  const r = inUse(deps);
  const newest = deps.db
    .select()
    .from(sessions)
    .where(and(eq(sessions.setupId, r.id), isNotNull(sessions.outcome)))
    .orderBy(desc(sessions.closedAt))
    .limit(SESSIONS_BACK)
    .as('s');
  const rows = await deps.db
    .select({
      setupId: newest.setupId,
      id: newest.id,
      kind: newest.kind,
      at: newest.closedAt,
      state: newest.outcome,
      r95Mm: newest.outcomeR95Mm,
      loads: newest.outcomeLoads,
      proved: sql<boolean>`(select ${passes.purpose} = 'prove' from ${passes} where ${passes.sessionId} = ${newest.id} order by ${passes.position} desc limit 1)`,
    })
    .from(r)
    .innerJoinLateral(newest, sql`true`)
    .orderBy(asc(newest.closedAt));
  return bySetup(rows, (s) => ({
    id: s.id,
    kind: s.kind,
    at: s.at!,
    state: s.state!,
    r95Mm: s.r95Mm!,
    loads: s.loads as ToldScatter['from'] | null,
    proved: s.proved,
  }));
}

/** The newest correction of each rig whose proof was not read. */
async function loadUnproved(deps: Deps): Promise<Map<string, UnprovedSession[]>> {
  const rows = await deps.db
    .selectDistinctOn([sessions.setupId], {
      setupId: sessions.setupId,
      at: sessions.closedAt,
      done: corrections.done,
    })
    .from(sessions)
    .innerJoin(passes, eq(passes.sessionId, sessions.id))
    .innerJoin(fits, eq(fits.passId, passes.id))
    .innerJoin(corrections, eq(corrections.fitId, fits.id))
    .where(and(eq(sessions.unproved, true), isNotNull(corrections.done)))
    .orderBy(sessions.setupId, desc(sessions.closedAt), desc(corrections.doneAt));
  return bySetup(rows, (s) => ({ at: s.at!, done: s.done as CorrectionWay }));
}

async function loadEvents(deps: Deps): Promise<Map<string, SetupEvent[]>> {
  const r = inUse(deps);
  const newest = deps.db
    .select()
    .from(events)
    .where(and(eq(events.rigId, r.rigId), or(isNull(events.setupId), eq(events.setupId, r.id))))
    .orderBy(desc(events.happenedAt))
    .limit(EVENTS_BACK)
    .as('e');
  const rows = await deps.db
    .select({
      setupId: r.id,
      kind: newest.kind,
      note: newest.note,
      by: newest.recordedBy,
      at: newest.happenedAt,
    })
    .from(r)
    .innerJoinLateral(newest, sql`true`)
    .orderBy(asc(newest.happenedAt));
  return bySetup(rows, ({ kind, note, by, at }) => ({ kind, note, by, at }));
}

async function loadOpen(deps: Deps): Promise<Map<string, OpenSession[]>> {
  const newest = deps.db
    .select()
    .from(passes)
    .where(eq(passes.sessionId, sessions.id))
    .orderBy(desc(passes.position))
    .limit(1)
    .as('p');
  const rows = await deps.db
    .select({
      setupId: sessions.setupId,
      id: sessions.id,
      kind: sessions.kind,
      stage: sessions.stage,
      sheetNumber: proofSheets.number,
      stationsRead: sql<number>`(select count(distinct ${readings.stationId})::int from ${readings} where ${readings.passId} = ${newest.id} and ${readings.replacedAt} is null and jsonb_exists(${readings.pick}, 'line'))`,
      stations: sql<number>`jsonb_array_length(jsonb_path_query_array(${proofSheets.geometry}, '$.stations[*] ? (@.set == $set)', jsonb_build_object('set', ${newest.stationSet})))`,
    })
    .from(sessions)
    .innerJoinLateral(newest, sql`true`)
    .innerJoin(proofSheets, eq(proofSheets.id, newest.sheetId))
    .where(isNull(sessions.closedAt))
    .orderBy(asc(sessions.startedAt));
  return bySetup(rows, (s) => ({
    id: s.id,
    kind: s.kind,
    stage: s.stage,
    sheetNumber: s.sheetNumber,
    stationsRead: s.stationsRead,
    stations: s.stations,
  }));
}
