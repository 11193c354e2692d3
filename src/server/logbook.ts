import { and, asc, desc, eq, sql, type SQL } from 'drizzle-orm';

import type { PlumbState } from '@/core/verdict';
import {
  correctedFiles,
  corrections,
  driftEstimates,
  events,
  fits,
  media,
  passes,
  proofSheets,
  readings,
  rigs,
  rigSettings,
  runChecks,
  runEvents,
  runFiles,
  runs,
  runSections,
  sessions,
  settingChanges,
  tapeMeasures,
} from '@/db/schema';

import type { Deps } from './deps';
import { type SessionKind, type Stage } from './session';

export interface LogFilter {
  readonly rigId?: string;
  readonly kind?: SessionKind;
  readonly outcome?: PlumbState;
  readonly sort: 'when' | 'r95';
  readonly descending: boolean;
}

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
}

/** Sessions, filtered and sorted. */
export async function listSessions(deps: Deps, filter: LogFilter): Promise<LogRow[]> {
  const wheres: SQL[] = [];
  if (filter.rigId) wheres.push(eq(sessions.rigId, filter.rigId));
  if (filter.kind) wheres.push(eq(sessions.kind, filter.kind));
  if (filter.outcome) wheres.push(eq(sessions.outcome, filter.outcome));
  const column = filter.sort === 'when' ? sessions.startedAt : sessions.outcomeR95Mm;
  const direction = filter.descending ? desc : asc;
  const rows = await deps.db
    .select({ session: sessions, rig: rigs.name, media: media.name, toleranceMm: rigs.toleranceMm })
    .from(sessions)
    .innerJoin(rigs, eq(rigs.id, sessions.rigId))
    .innerJoin(media, eq(media.id, rigs.mediaId))
    .where(and(...wheres))
    .orderBy(sql`${direction(column)} nulls last`, desc(sessions.startedAt))
    .limit(500);
  return rows.map(({ session, rig, media: mediaName, toleranceMm }) => ({
    id: session.id,
    number: session.number,
    rig,
    media: mediaName,
    kind: session.kind as SessionKind,
    stage: session.stage as Stage,
    startedAt: session.startedAt,
    startedBy: session.startedBy,
    closedAt: session.closedAt,
    outcome: session.outcome as PlumbState | null,
    r95Mm: session.outcomeR95Mm,
    toleranceMm,
  }));
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
        setting: rigSettings.name,
        unit: rigSettings.unit,
        position: passes.position,
      })
      .from(settingChanges)
      .innerJoin(rigSettings, eq(rigSettings.id, settingChanges.settingId))
      .innerJoin(corrections, eq(corrections.id, settingChanges.correctionId))
      .innerJoin(fits, eq(fits.id, corrections.fitId))
      .innerJoin(passes, eq(passes.id, fits.passId))
      .where(eq(passes.sessionId, sessionId))
      .orderBy(asc(settingChanges.changedAt), asc(rigSettings.position)),
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
      .select({ fit: fits, position: passes.position })
      .from(fits)
      .innerJoin(passes, eq(passes.id, fits.passId))
      .where(eq(passes.sessionId, sessionId))
      .orderBy(asc(fits.createdAt)),
  ]);
  return { entered, typed, files, fits: stored };
}

export async function correctedFileById(deps: Deps, fileId: string) {
  const [row] = await deps.db.select().from(correctedFiles).where(eq(correctedFiles.id, fileId));
  return row ?? null;
}

export interface ExportRow {
  readonly session: number;
  readonly rig: string;
  readonly media: string;
  readonly kind: string;
  readonly startedAt: string;
  readonly startedBy: string;
  readonly closedAt: string;
  readonly outcome: string;
  readonly r95Mm: number | null;
  readonly pass: number;
  readonly purpose: string;
  readonly sheet: number;
  readonly station: string;
  readonly axis: string;
  readonly xMm: number;
  readonly yMm: number;
  readonly offsetMm: number;
  readonly uMm: number;
  readonly enteredBy: string;
  readonly enteredAt: string;
  readonly replacedAt: string;
  /** Who left it out of the fit. */
  readonly setAsideBy: string;
}

/** Every reading with its session, one a row: what the CSV export holds. */
export async function exportRows(deps: Deps): Promise<ExportRow[]> {
  const rows = await deps.db
    .select({
      reading: readings,
      pass: passes,
      session: sessions,
      sheet: proofSheets.number,
      rig: rigs.name,
      media: media.name,
    })
    .from(readings)
    .innerJoin(passes, eq(passes.id, readings.passId))
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
    .innerJoin(rigs, eq(rigs.id, sessions.rigId))
    .innerJoin(media, eq(media.id, rigs.mediaId))
    .orderBy(asc(sessions.number), asc(passes.position), asc(readings.enteredAt));
  return rows.map(({ reading, pass, session, sheet, rig, media: mediaName }) => ({
    session: session.number,
    rig,
    media: mediaName,
    kind: session.kind,
    startedAt: session.startedAt.toISOString(),
    startedBy: session.startedBy,
    closedAt: session.closedAt?.toISOString() ?? '',
    outcome: session.outcome ?? '',
    r95Mm: session.outcomeR95Mm,
    pass: pass.position,
    purpose: pass.purpose,
    sheet,
    station: reading.stationId,
    axis: reading.axis,
    xMm: reading.xMm,
    yMm: reading.yMm,
    offsetMm: reading.offsetMm,
    uMm: reading.uMm,
    enteredBy: reading.enteredBy,
    enteredAt: reading.enteredAt.toISOString(),
    replacedAt: reading.replacedAt?.toISOString() ?? '',
    setAsideBy: reading.setAsideBy ?? '',
  }));
}

/** The whole log as one document: sessions with fits and corrections, setting changes and events. */
export async function exportDocument(deps: Deps) {
  const [readingRows, fitRows, correctionRows, changes, happened, runRows, drift, tapes] = await Promise.all([
    exportRows(deps),
    deps.db
      .select({ fit: fits, session: sessions.number, pass: passes.position })
      .from(fits)
      .innerJoin(passes, eq(passes.id, fits.passId))
      .innerJoin(sessions, eq(sessions.id, passes.sessionId))
      .orderBy(asc(fits.createdAt)),
    deps.db.select().from(corrections).orderBy(asc(corrections.createdAt)),
    deps.db
      .select({ change: settingChanges, setting: rigSettings.name, unit: rigSettings.unit, rig: rigs.name })
      .from(settingChanges)
      .innerJoin(rigSettings, eq(rigSettings.id, settingChanges.settingId))
      .innerJoin(rigs, eq(rigs.id, rigSettings.rigId))
      .orderBy(asc(settingChanges.changedAt)),
    deps.db
      .select({ event: events, rig: rigs.name })
      .from(events)
      .innerJoin(rigs, eq(rigs.id, events.rigId))
      .orderBy(asc(events.happenedAt)),
    exportRuns(deps),
    deps.db.select().from(driftEstimates).orderBy(asc(driftEstimates.createdAt)),
    deps.db.select().from(tapeMeasures).orderBy(asc(tapeMeasures.enteredAt)),
  ]);
  return {
    format: 'red-plumb-log-1',
    units: 'mm, rad',
    readings: readingRows,
    fits: fitRows,
    corrections: correctionRows,
    settingChanges: changes,
    events: happened,
    runs: runRows,
    driftEstimates: drift,
    tapeMeasures: tapes,
  };
}

/** Runs with their frozen plans, sections, checks (replaced ones included), events and what their files carried. */
async function exportRuns(deps: Deps) {
  const [rows, sections, checks, happened, files] = await Promise.all([
    deps.db
      .select({ run: runs, rig: rigs.name })
      .from(runs)
      .innerJoin(rigs, eq(rigs.id, runs.rigId))
      .orderBy(asc(runs.number)),
    deps.db.select().from(runSections).orderBy(asc(runSections.index)),
    deps.db.select().from(runChecks).orderBy(asc(runChecks.enteredAt)),
    deps.db.select().from(runEvents).orderBy(asc(runEvents.happenedAt)),
    deps.db
      .select({
        runId: runFiles.runId,
        section: runFiles.section,
        fileName: runFiles.fileName,
        applied: runFiles.applied,
        madeBy: runFiles.madeBy,
        madeAt: runFiles.madeAt,
      })
      .from(runFiles)
      .orderBy(asc(runFiles.madeAt)),
  ]);
  const own = <T extends { readonly runId: string }>(list: readonly T[], id: string): T[] =>
    list.filter((r) => r.runId === id);
  return rows.map(({ run, rig }) => ({
    ...run,
    rig,
    sections: own(sections, run.id),
    checks: own(checks, run.id),
    events: own(happened, run.id),
    files: own(files, run.id),
  }));
}
