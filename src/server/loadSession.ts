import { and, asc, desc, eq, isNull } from 'drizzle-orm';

import type { Affine } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import type { StationSet } from '@/core/proof';
import type { OffsetAxis } from '@/core/units';
import type { PlumbState } from '@/core/verdict';
import { corrections, fits, passes, readings, sessions } from '@/db/schema';

import type { Deps, UseCaseRefusal } from './deps';
import { getRig } from './rigs';
import { affineSchema, recipeSchema, pickSchema, settingChangesSchema, settingsAtCutSchema } from './schemas';
import type { Pass, Session, SessionKind, Stage, StoredCorrection } from './session';
import { getSheet } from './sheets';

export async function getSession(deps: Deps, sessionId: string): Promise<Session | null> {
  const [row] = await deps.db.select().from(sessions).where(eq(sessions.id, sessionId));
  if (!row) return null;
  const rig = await getRig(deps, row.rigId);
  const passRows = await deps.db
    .select()
    .from(passes)
    .where(eq(passes.sessionId, sessionId))
    .orderBy(asc(passes.position));
  const list = await Promise.all(passRows.map((p) => loadPass(deps, p)));
  return {
    id: row.id,
    number: row.number,
    kind: row.kind as SessionKind,
    stage: row.stage as Stage,
    rig: rig!,
    passes: list,
    startedBy: row.startedBy,
    startedAt: row.startedAt,
    closedBy: row.closedBy,
    closedAt: row.closedAt,
    outcome: row.outcome as PlumbState | null,
    outcomeR95Mm: row.outcomeR95Mm,
  };
}

export async function loadPass(deps: Deps, row: typeof passes.$inferSelect): Promise<Pass> {
  const sheet = (await getSheet(deps, row.sheetId))!;
  const rows = await deps.db
    .select()
    .from(readings)
    .where(and(eq(readings.passId, row.id), isNull(readings.replacedAt)))
    .orderBy(asc(readings.enteredAt));
  const [correction] = await deps.db
    .select({ correction: corrections })
    .from(corrections)
    .innerJoin(fits, eq(fits.id, corrections.fitId))
    .where(eq(fits.passId, row.id))
    .orderBy(desc(corrections.createdAt))
    .limit(1);
  return {
    id: row.id,
    position: row.position,
    purpose: row.purpose as Pass['purpose'],
    set: row.stationSet as StationSet,
    load: row.load,
    settingsAtCut: settingsAtCutSchema.parse(row.settingsAtCut),
    fileTransform: row.fileTransform === null ? null : affineSchema.parse(row.fileTransform),
    recipe: row.recipe === null ? null : recipeSchema.parse(row.recipe),
    barAcrossMm: row.barAcrossMm,
    barAlongMm: row.barAlongMm,
    sheet,
    stations: sheet.geometry.stations.filter((s) => s.set === row.stationSet),
    readings: rows.map((r) => ({
      stationId: r.stationId,
      axis: r.axis as OffsetAxis,
      pick: pickSchema.parse(r.pick),
      coarseMm: r.coarseMm,
      offsetMm: r.offsetMm,
      uMm: r.uMm,
      by: r.enteredBy,
      at: r.enteredAt,
      setAsideBy: r.setAsideBy,
    })),
    correction: correction ? toCorrection(correction.correction) : null,
    createdAt: row.createdAt,
  };
}

export const toCorrection = (row: typeof corrections.$inferSelect): StoredCorrection => ({
  id: row.id,
  decision: row.decision as StoredCorrection['decision'],
  changes: settingChangesSchema.parse(row.changes),
  restTransform: affineSchema.parse(row.restTransform),
  wholeTransform: affineSchema.parse(row.wholeTransform),
  done: row.done as StoredCorrection['done'],
  doneBy: row.doneBy,
  doneAt: row.doneAt,
});

export async function openSession(deps: Deps, rigId: string, kind: SessionKind): Promise<string | null> {
  const [row] = await deps.db
    .select({ id: sessions.id })
    .from(sessions)
    .where(and(eq(sessions.rigId, rigId), eq(sessions.kind, kind), isNull(sessions.closedAt)));
  return row?.id ?? null;
}

export const NOT_FOUND = { code: 'not-found', what: 'session' } as const;
export const CLOSED = {
  code: 'refused',
  message: 'This session is closed. Start a new one from the bench.',
} as const;

export async function openOr(deps: Deps, sessionId: string): Promise<Outcome<Session, UseCaseRefusal>> {
  const session = await getSession(deps, sessionId);
  if (!session) return refuse(NOT_FOUND);
  return session.stage === 'closed' ? refuse(CLOSED) : accept(session);
}

/** What the cut file of a pass undoes by itself, or null for the file as drawn. */
export async function passFileTransform(deps: Deps, passId: string): Promise<Affine | null> {
  const [row] = await deps.db.select({ t: passes.fileTransform }).from(passes).where(eq(passes.id, passId));
  return row?.t ? affineSchema.parse(row.t) : null;
}
