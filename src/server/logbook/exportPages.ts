import { asc, eq, inArray } from 'drizzle-orm';

import {
  events,
  fits,
  media,
  passes,
  proofSheets,
  readings,
  machines,
  machineSettings,
  rigs,
  setups,
  standingCorrections,
  changeOvers,
  sessions,
  settingChanges,
} from '@/db/schema';
import type { Deps } from '@/server/base/deps';

import { pages, ROWS_AT_ONCE } from './inPages';

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
    .innerJoin(setups, eq(setups.id, sessions.setupId))
    .innerJoin(rigs, eq(rigs.id, setups.rigId))
    .innerJoin(media, eq(media.id, setups.mediaId))
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
    ({ fit }) => fit.id,
  );

export const changePages = (deps: Deps) =>
  pages(
    settingChanges.changedAt,
    settingChanges.id,
    (after, order) =>
      deps.db
        .select({
          change: settingChanges,
          setting: machineSettings.name,
          unit: machineSettings.unit,
          machine: machines.name,
        })
        .from(settingChanges)
        .innerJoin(machineSettings, eq(machineSettings.id, settingChanges.settingId))
        .innerJoin(machines, eq(machines.id, machineSettings.machineId))
        .where(after)
        .orderBy(...order)
        .limit(ROWS_AT_ONCE),
    ({ change }) => change.id,
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
    ({ event }) => event.id,
  );

export const standingPages = (deps: Deps) =>
  pages(
    standingCorrections.since,
    standingCorrections.id,
    (after, order) =>
      deps.db
        .select({ standing: standingCorrections, rig: rigs.name, media: media.name })
        .from(standingCorrections)
        .innerJoin(setups, eq(setups.id, standingCorrections.setupId))
        .innerJoin(rigs, eq(rigs.id, setups.rigId))
        .innerJoin(media, eq(media.id, setups.mediaId))
        .where(after)
        .orderBy(...order)
        .limit(ROWS_AT_ONCE),
    ({ standing }) => standing.id,
  );

export const changeOverPages = (deps: Deps) =>
  pages(
    changeOvers.at,
    changeOvers.id,
    (after, order) =>
      deps.db
        .select({ changeOver: changeOvers, rig: rigs.name, media: media.name })
        .from(changeOvers)
        .innerJoin(rigs, eq(rigs.id, changeOvers.rigId))
        .innerJoin(setups, eq(setups.id, changeOvers.setupId))
        .innerJoin(media, eq(media.id, setups.mediaId))
        .where(after)
        .orderBy(...order)
        .limit(ROWS_AT_ONCE),
    ({ changeOver }) => changeOver.id,
  );
