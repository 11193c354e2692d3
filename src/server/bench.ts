import { and, asc, eq, inArray, isNotNull, isNull } from 'drizzle-orm';

import type { PlumbState } from '@/core/verdict';
import { events, passes, proofSheets, readings, sessions } from '@/db/schema';

import type { Deps } from './deps';
import { listRigs, type Rig } from './rigs';
import { type SessionKind, type Stage } from './session';

export interface ClosedSession {
  readonly id: string;
  readonly kind: SessionKind;
  readonly at: Date;
  readonly state: PlumbState;
  readonly r95Mm: number;
}

export interface OpenSession {
  readonly id: string;
  readonly kind: SessionKind;
  readonly stage: Stage;
  readonly sheetNumber: number;
  readonly stationsRead: number;
  readonly stations: number;
}

export interface RigEvent {
  readonly kind: string;
  readonly note: string;
  readonly by: string;
  readonly at: Date;
}

export interface BenchRig {
  readonly rig: Rig;
  /** Closed sessions that said something, oldest first. */
  readonly history: readonly ClosedSession[];
  readonly open: readonly OpenSession[];
  readonly events: readonly RigEvent[];
}

/** Every rig on the bench with what has been measured, what is open and what has happened to it. */
export async function loadBench(deps: Deps): Promise<BenchRig[]> {
  const list = await listRigs(deps);
  const ids = list.map((r) => r.id);
  if (ids.length === 0) return [];
  const [closed, happened, open] = await Promise.all([
    deps.db
      .select()
      .from(sessions)
      .where(and(inArray(sessions.rigId, ids), isNotNull(sessions.outcome)))
      .orderBy(asc(sessions.closedAt)),
    deps.db.select().from(events).where(inArray(events.rigId, ids)).orderBy(asc(events.happenedAt)),
    loadOpen(deps, ids),
  ]);
  return list.map((rig) => ({
    rig,
    history: closed
      .filter((s) => s.rigId === rig.id)
      .map((s) => ({
        id: s.id,
        kind: s.kind as SessionKind,
        at: s.closedAt!,
        state: s.outcome as PlumbState,
        r95Mm: s.outcomeR95Mm!,
      })),
    open: open.filter((s) => s.rigId === rig.id),
    events: happened
      .filter((e) => e.rigId === rig.id)
      .map((e) => ({ kind: e.kind, note: e.note, by: e.recordedBy, at: e.happenedAt })),
  }));
}

async function loadOpen(deps: Deps, rigIds: readonly string[]): Promise<(OpenSession & { rigId: string })[]> {
  const rows = await deps.db
    .select({ session: sessions, pass: passes, sheet: proofSheets })
    .from(sessions)
    .innerJoin(passes, eq(passes.sessionId, sessions.id))
    .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
    .where(and(inArray(sessions.rigId, [...rigIds]), isNull(sessions.closedAt)))
    .orderBy(asc(passes.position));
  const newest = new Map(rows.map((row) => [row.session.id, row]));
  return Promise.all(
    [...newest.values()].map(async ({ session, pass, sheet }) => {
      const read = await deps.db
        .selectDistinct({ station: readings.stationId })
        .from(readings)
        .where(and(eq(readings.passId, pass.id), isNull(readings.replacedAt)));
      const geometry = sheet.geometry as { stations: { set: number }[] };
      return {
        id: session.id,
        rigId: session.rigId,
        kind: session.kind as SessionKind,
        stage: session.stage as Stage,
        sheetNumber: sheet.number,
        stationsRead: read.length,
        stations: geometry.stations.filter((s) => s.set === pass.stationSet).length,
      };
    }),
  );
}
