import { asc, eq, gt, inArray } from 'drizzle-orm';

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
import type { CsvColumn } from '@/server/base/csv';
import type { Deps } from '@/server/base/deps';

import { pages, ROWS_AT_ONCE } from './inPages';

/** A reading with what it belongs to. */
const joined = {
  reading: readings,
  pass: { position: passes.position, purpose: passes.purpose },
  session: sessions,
  sheet: proofSheets.number,
  rig: rigs.name,
  media: media.name,
};

const rowsOf = (deps: Deps, sessionIds: readonly string[]) =>
  deps.db
    .select(joined)
    .from(readings)
    .innerJoin(passes, eq(passes.id, readings.passId))
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
    .innerJoin(setups, eq(setups.id, sessions.setupId))
    .innerJoin(rigs, eq(rigs.id, setups.rigId))
    .innerJoin(media, eq(media.id, setups.mediaId))
    .where(inArray(sessions.id, [...sessionIds]))
    .orderBy(asc(sessions.number), asc(passes.position), asc(readings.enteredAt));

type Joined = Awaited<ReturnType<typeof rowsOf>>[number];

/** What is exported of a reading, in this order. */
export const READING_COLUMNS: readonly CsvColumn<Joined>[] = [
  ['session', ({ session }) => session.number],
  ['rig', ({ rig }) => rig],
  ['media', ({ session, media: now }) => session.mediaThen ?? now],
  ['kind', ({ session }) => session.kind],
  ['startedAt', ({ session }) => session.startedAt.toISOString()],
  ['startedBy', ({ session }) => session.startedBy],
  ['closedAt', ({ session }) => session.closedAt?.toISOString() ?? ''],
  [
    'outcome',
    ({ session: s }) => (s.discarded ? 'discarded' : (s.outcome ?? (s.unproved ? 'not proved' : ''))),
  ],
  ['r95Mm', ({ session }) => session.outcomeR95Mm],
  ['pass', ({ pass }) => pass.position],
  ['purpose', ({ pass }) => pass.purpose],
  ['sheet', ({ sheet }) => sheet],
  ['station', ({ reading }) => reading.stationId],
  ['axis', ({ reading }) => reading.axis],
  ['xMm', ({ reading }) => reading.xMm],
  ['yMm', ({ reading }) => reading.yMm],
  ['offsetMm', ({ reading }) => reading.offsetMm],
  ['uMm', ({ reading }) => reading.uMm],
  ['enteredBy', ({ reading }) => reading.enteredBy],
  ['enteredAt', ({ reading }) => reading.enteredAt.toISOString()],
  ['replacedAt', ({ reading }) => reading.replacedAt?.toISOString() ?? ''],
  // Who left it out of the fit.
  ['setAsideBy', ({ reading }) => reading.setAsideBy ?? ''],
];

/** Every reading with its session, page by page. */
export async function* readingPages(deps: Deps) {
  for (let after = 0; ;) {
    const page = await deps.db
      .select({ id: sessions.id, number: sessions.number })
      .from(sessions)
      .where(gt(sessions.number, after))
      .orderBy(asc(sessions.number))
      .limit(SESSIONS_AT_ONCE);
    if (page.length === 0) return;
    after = page.at(-1)!.number;
    yield await rowsOf(
      deps,
      page.map((s) => s.id),
    );
  }
}

const SESSIONS_AT_ONCE = 20;

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
