import { type SessionKind } from '@/core/setup';
import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';

import type { Affine } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import type { StationSet } from '@/core/proof';
import { corrections, fits, lengths, passes, readings, sessions } from '@/db/schema';
import {
  passFile,
  readingPick,
  restTransform,
  settingChangesOf,
  settingsAtCut,
  wholeTransform,
} from '@/db/stored/sessions';
import { passRecipe } from '@/db/stored/setups';

import type { Deps } from '@/server/base/deps';
import { setupRecord } from '@/server/setups/setupRecord';
import { getSetup } from '@/server/setups/repository';
import type { Pass, Session, StoredCorrection } from './session';
import { newestStudy } from './readAgain';
import { getSheet } from './sheets';

export async function getSession(deps: Deps, sessionId: string): Promise<Session | null> {
  const [row] = await deps.db.select().from(sessions).where(eq(sessions.id, sessionId));
  if (!row) return null;
  const setup = await getSetup(deps, row.setupId);
  const passRows = await deps.db
    .select()
    .from(passes)
    .where(eq(passes.sessionId, sessionId))
    .orderBy(asc(passes.position));
  // One after another: in a transaction there is one connection.
  const list: Pass[] = [];
  for (const p of passRows) list.push(await loadPass(deps, p));
  const study = await newestStudy(deps, setup!.rigId, row.startedAt);
  const acuityMm = study?.study.acuityMm ?? null;
  return {
    id: row.id,
    number: row.number,
    kind: row.kind,
    stage: row.stage,
    // A closed session is shown with what held when it was closed.
    setup: {
      ...setup!,
      media: row.mediaThen ?? setup!.media,
      toleranceMm: row.toleranceThenMm ?? setup!.toleranceMm,
    },
    passes: list,
    record: await setupRecord(deps, setup!, row.startedAt, acuityMm),
    acuityMm,
    startedBy: row.startedBy,
    startedAt: row.startedAt,
    closedBy: row.closedBy,
    closedAt: row.closedAt,
    outcome: row.outcome,
    outcomeR95Mm: row.outcomeR95Mm,
    discarded: row.discarded,
    unproved: row.unproved,
    version: row.version,
    changes: row.changes,
  };
}

export async function loadPass(deps: Deps, row: typeof passes.$inferSelect): Promise<Pass> {
  const sheet = (await getSheet(deps, row.sheetId))!;
  const rows = await deps.db
    .select()
    .from(readings)
    .where(and(eq(readings.passId, row.id), isNull(readings.replacedAt)))
    .orderBy(asc(readings.enteredAt));
  const measured = await deps.db
    .select()
    .from(lengths)
    .where(and(eq(lengths.passId, row.id), isNull(lengths.replacedAt)))
    .orderBy(asc(lengths.enteredAt));
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
    purpose: row.purpose,
    set: row.stationSet as StationSet,
    load: row.load,
    settingsAtCut: settingsAtCut.read(row.settingsAtCut),
    fileTransform: row.fileTransform === null ? null : passFile.read(row.fileTransform),
    recipe: row.recipe === null ? null : passRecipe.read(row.recipe),
    barAcrossMm: row.barAcrossMm,
    barAlongMm: row.barAlongMm,
    sheet,
    stations: sheet.geometry.stations.filter((s) => s.set === row.stationSet),
    readings: rows.map((r) => ({
      id: r.id,
      stationId: r.stationId,
      axis: r.axis,
      pick: readingPick.read(r.pick),
      xMm: r.xMm,
      yMm: r.yMm,
      coarseMm: r.coarseMm,
      offsetMm: r.offsetMm,
      uMm: r.uMm,
      by: r.enteredBy,
      at: r.enteredAt,
      setAsideBy: r.setAsideBy,
    })),
    lengths: measured.map((l) => ({
      id: l.id,
      from: l.fromStation,
      to: l.toStation,
      printMm: l.printMm,
      cutMm: l.cutMm,
      resolutionMm: l.resolutionMm,
      by: l.enteredBy,
    })),
    correction: correction ? toCorrection(correction.correction) : null,
    createdAt: row.createdAt,
  };
}

/** One set with what was read of it; null when there is none. */
export async function readingsOfPass(deps: Deps, passId: string): Promise<Pass | null> {
  const [row] = await deps.db.select().from(passes).where(eq(passes.id, passId));
  return row ? loadPass(deps, row) : null;
}

export const toCorrection = (row: typeof corrections.$inferSelect): StoredCorrection => ({
  id: row.id,
  decision: row.decision as StoredCorrection['decision'],
  changes: settingChangesOf.read(row.changes),
  restTransform: restTransform.read(row.restTransform),
  wholeTransform: wholeTransform.read(row.wholeTransform),
  done: row.done as StoredCorrection['done'],
  doneBy: row.doneBy,
  doneAt: row.doneAt,
});

export async function openSession(deps: Deps, setupId: string, kind: SessionKind): Promise<string | null> {
  const [row] = await deps.db
    .select({ id: sessions.id })
    .from(sessions)
    .where(and(eq(sessions.setupId, setupId), eq(sessions.kind, kind), isNull(sessions.closedAt)));
  return row?.id ?? null;
}

/** Moves with everything that is kept in a session, readings too. Null when there is no such session. */
export async function sessionStamp(deps: Deps, sessionId: string): Promise<number | null> {
  const [row] = await deps.db
    .select({ changes: sessions.changes })
    .from(sessions)
    .where(eq(sessions.id, sessionId));
  return row?.changes ?? null;
}

/** What the newest fit of a pass was made from, and whether its correction is in use; null when it has none. */
export async function storedFingerprint(
  deps: Deps,
  passId: string,
): Promise<{ readonly fingerprint: string | null; readonly done: string | null } | null> {
  const [row] = await deps.db
    .select({ fingerprint: sql<string | null>`${fits.inputs}->>'fingerprint'`, done: corrections.done })
    .from(fits)
    .innerJoin(corrections, eq(corrections.fitId, fits.id))
    .where(eq(fits.passId, passId))
    .orderBy(desc(fits.createdAt))
    .limit(1);
  return row ?? null;
}

/** What the cut file of a pass undoes by itself, or null for the file as drawn. */
export async function passFileTransform(
  deps: Deps,
  passId: string,
  of: { readonly sheetId: string; readonly set: number },
): Promise<Outcome<Affine | null, null>> {
  const [row] = await deps.db
    .select({ t: passes.fileTransform })
    .from(passes)
    .where(and(eq(passes.id, passId), eq(passes.sheetId, of.sheetId), eq(passes.stationSet, of.set)));
  if (!row) return refuse(null);
  return accept(row.t ? passFile.read(row.t) : null);
}
