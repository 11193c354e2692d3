import { type SessionKind, type Stage } from '@/core/setup';
import { and, asc, desc, eq, inArray, sql, type SQL } from 'drizzle-orm';

import type { PlumbState } from '@/core/verdict';
import {
  correctedFiles,
  corrections,
  fits,
  media,
  passes,
  proofSheets,
  readings,
  machineSettings,
  rigs,
  setups,
  sessions,
  settingChanges,
} from '@/db/schema';

import type { Deps } from '@/server/base/deps';
import { holding } from '@/server/base/search';
import { contentOf } from '@/server/files/keepFiles';

export interface LogFilter {
  readonly setupId?: string;
  readonly kind?: SessionKind;
  readonly outcome?: PlumbState;
  /** Part of a rig's, setup's or medium's name, initials, a session's number. */
  readonly find?: string;
  readonly sort: 'when' | 'r95';
  readonly descending: boolean;
  /** From 1. */
  readonly page?: number;
}

export const SESSIONS_A_PAGE = 100;

export interface LogRow {
  readonly id: string;
  readonly number: number;
  readonly rig: string;
  readonly media: string;
  readonly kind: SessionKind;
  readonly stage: Stage;
  readonly startedAt: Date;
  readonly startedBy: string;
  readonly closedAt: Date | null;
  readonly outcome: PlumbState | null;
  readonly r95Mm: number | null;
  readonly toleranceMm: number;
  /** Started by mistake and thrown away. */
  readonly discarded: boolean;
  /** Corrected, and the proof not read. */
  readonly unproved: boolean;
}

/** One page of sessions, filtered and sorted, and how many are like that. */
export async function listSessions(
  deps: Deps,
  filter: LogFilter,
): Promise<{ readonly rows: LogRow[]; readonly total: number }> {
  const wheres: SQL[] = [];
  if (filter.setupId) wheres.push(eq(sessions.setupId, filter.setupId));
  if (filter.kind) wheres.push(eq(sessions.kind, filter.kind));
  if (filter.outcome) wheres.push(eq(sessions.outcome, filter.outcome));
  const column = filter.sort === 'when' ? sessions.startedAt : sessions.outcomeR95Mm;
  const direction = filter.descending ? desc : asc;
  const like = holding(
    filter.find ?? '',
    ...[rigs.name, media.name, sessions.mediaThen, setups.label, sessions.startedBy],
    sql`lpad(${sessions.number}::text, 4, '0')`,
  );
  const named = deps.db
    .select({ id: sessions.id })
    .from(sessions)
    .innerJoin(setups, eq(setups.id, sessions.setupId))
    .innerJoin(rigs, eq(rigs.id, setups.rigId))
    .innerJoin(media, eq(media.id, setups.mediaId))
    .where(like);
  if (like) wheres.push(inArray(sessions.id, named));
  const total = await deps.db.$count(sessions, and(...wheres));
  const found = await deps.db
    .select({ session: sessions, rig: rigs.name, media: media.name, toleranceMm: setups.toleranceMm })
    .from(sessions)
    .innerJoin(setups, eq(setups.id, sessions.setupId))
    .innerJoin(rigs, eq(rigs.id, setups.rigId))
    .innerJoin(media, eq(media.id, setups.mediaId))
    .where(and(...wheres))
    .orderBy(sql`${direction(column)} nulls last`, desc(sessions.startedAt))
    .limit(SESSIONS_A_PAGE)
    .offset(((filter.page ?? 1) - 1) * SESSIONS_A_PAGE);
  const rows = found.map(({ session, rig, media: mediaName, toleranceMm }) => ({
    id: session.id,
    number: session.number,
    rig,
    media: session.mediaThen ?? mediaName,
    kind: session.kind,
    stage: session.stage,
    startedAt: session.startedAt,
    startedBy: session.startedBy,
    closedAt: session.closedAt,
    outcome: session.outcome,
    r95Mm: session.outcomeR95Mm,
    toleranceMm: session.toleranceThenMm ?? toleranceMm,
    discarded: session.discarded,
    unproved: session.unproved,
  }));
  return { rows, total };
}

/** The session that a sheet of this number belongs to, or null. */
export async function sessionOfSheet(deps: Deps, number: number): Promise<string | null> {
  const [row] = await deps.db
    .select({ id: passes.sessionId })
    .from(passes)
    .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
    .where(eq(proofSheets.number, number))
    .limit(1);
  return row?.id ?? null;
}

/** Everything that was ever entered in a session, replaced readings included, and the files made from it. */
export async function sessionTrace(deps: Deps, sessionId: string) {
  const [entered, typed, files, stored] = await Promise.all([
    deps.db
      .select({ reading: readings, position: passes.position, sheet: proofSheets.number })
      .from(readings)
      .innerJoin(passes, eq(passes.id, readings.passId))
      .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
      .where(eq(passes.sessionId, sessionId))
      .orderBy(asc(readings.enteredAt)),
    deps.db
      .select({
        change: settingChanges,
        setting: machineSettings.name,
        unit: machineSettings.unit,
        step: machineSettings.step,
        position: passes.position,
      })
      .from(settingChanges)
      .innerJoin(machineSettings, eq(machineSettings.id, settingChanges.settingId))
      .innerJoin(corrections, eq(corrections.id, settingChanges.correctionId))
      .innerJoin(fits, eq(fits.id, corrections.fitId))
      .innerJoin(passes, eq(passes.id, fits.passId))
      .where(eq(passes.sessionId, sessionId))
      .orderBy(asc(settingChanges.changedAt), asc(machineSettings.position)),
    deps.db
      .select({
        id: correctedFiles.id,
        fileName: correctedFiles.fileName,
        by: correctedFiles.madeBy,
        at: correctedFiles.madeAt,
      })
      .from(correctedFiles)
      .innerJoin(corrections, eq(corrections.id, correctedFiles.correctionId))
      .innerJoin(fits, eq(fits.id, corrections.fitId))
      .innerJoin(passes, eq(passes.id, fits.passId))
      .where(eq(passes.sessionId, sessionId))
      .orderBy(asc(correctedFiles.madeAt)),
    deps.db
      .select({
        fit: { id: fits.id, recommended: fits.recommended, widest: fits.widest, version: fits.version },
        position: passes.position,
      })
      .from(fits)
      .innerJoin(passes, eq(passes.id, fits.passId))
      .where(eq(passes.sessionId, sessionId))
      .orderBy(asc(fits.createdAt)),
  ]);
  return { entered, typed, files, fits: stored };
}

/** A corrected file as it was made; its content is null when its keeping time is over. */
export async function correctedFileById(deps: Deps, fileId: string) {
  const [row] = await deps.db.select().from(correctedFiles).where(eq(correctedFiles.id, fileId));
  if (!row) return null;
  // What was made from a standing correction has the medium in its name already.
  const fileName =
    row.standingId === null ? row.fileName.replace(/(\.[a-z0-9]{1,5})?$/i, '-corrected$1') : row.fileName;
  return { fileName, content: await contentOf(deps, row.sha256) };
}
