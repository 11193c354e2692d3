import { asc, eq, inArray } from 'drizzle-orm';

import {
  events,
  fits,
  media,
  passes,
  proofSheets,
  readings,
  rigs,
  rigSettings,
  sessions,
  settingChanges,
} from '@/db/schema';
import type { Deps } from '@/server/base/deps';

import { pages } from './exportLog';

export const ROWS_AT_ONCE = 100;

export async function readingsOf(deps: Deps, sessionIds: readonly string[]) {
  const rows = await deps.db
    .select({
      reading: readings,
      pass: { position: passes.position, purpose: passes.purpose },
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
    .where(inArray(sessions.id, [...sessionIds]))
    .orderBy(asc(sessions.number), asc(passes.position), asc(readings.enteredAt));
  return rows.map(({ reading, pass, session, sheet, rig, media: mediaName }) => ({
    session: session.number,
    rig,
    media: session.mediaThen ?? mediaName,
    kind: session.kind,
    startedAt: session.startedAt.toISOString(),
    startedBy: session.startedBy,
    closedAt: session.closedAt?.toISOString() ?? '',
    outcome: session.discarded ? 'discarded' : (session.outcome ?? (session.unproved ? 'not proved' : '')),
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
    /** Who left it out of the fit. */
    setAsideBy: reading.setAsideBy ?? '',
  }));
}

export const fitPages = (deps: Deps) =>
  pages(
    fits.createdAt,
    fits.id,
    (after, order) =>
      deps.db
        .select({ fit: fits, session: sessions.number, pass: passes.position })
        .from(fits)
        .innerJoin(passes, eq(passes.id, fits.passId))
        .innerJoin(sessions, eq(sessions.id, passes.sessionId))
        .where(after)
        .orderBy(...order)
        .limit(ROWS_AT_ONCE),
    ({ fit }) => ({ at: fit.createdAt, id: fit.id }),
  );

export const changePages = (deps: Deps) =>
  pages(
    settingChanges.changedAt,
    settingChanges.id,
    (after, order) =>
      deps.db
        .select({
          change: settingChanges,
          setting: rigSettings.name,
          unit: rigSettings.unit,
          rig: rigs.name,
        })
        .from(settingChanges)
        .innerJoin(rigSettings, eq(rigSettings.id, settingChanges.settingId))
        .innerJoin(rigs, eq(rigs.id, rigSettings.rigId))
        .where(after)
        .orderBy(...order)
        .limit(ROWS_AT_ONCE),
    ({ change }) => ({ at: change.changedAt, id: change.id }),
  );

export const eventPages = (deps: Deps) =>
  pages(
    events.happenedAt,
    events.id,
    (after, order) =>
      deps.db
        .select({ event: events, rig: rigs.name })
        .from(events)
        .innerJoin(rigs, eq(rigs.id, events.rigId))
        .where(after)
        .orderBy(...order)
        .limit(ROWS_AT_ONCE),
    ({ event }) => ({ at: event.happenedAt, id: event.id }),
  );
