import { asc, eq, gt, inArray } from 'drizzle-orm';

import {
  corrections,
  driftEstimates,
  lengths,
  ownPages,
  repeatReadings,
  rigs,
  runChecks,
  runEvents,
  runFiles,
  runs,
  runSections,
  sessions,
  setups,
  tapeMeasures,
} from '@/db/schema';
import { csvLine } from '@/server/base/csv';
import type { Deps } from '@/server/base/deps';

import { changePages, changeOverPages, eventPages, standingPages, fitPages, readingsOf } from './exportPages';
import { ROWS_AT_ONCE } from './inPages';
import { pages } from './inPages';

/*
 * The log as text, made page by page as it is read: however long the log is, only a page of it is in memory.
 */

type Chunks = AsyncGenerator<string, void, undefined>;

const SESSIONS_AT_ONCE = 20;

const RUNS_AT_ONCE = 10;

/** Every reading with its session, one a row: what the CSV export holds. */
async function* exportRows(deps: Deps) {
  for (let after = 0; ;) {
    const page = await deps.db
      .select({ id: sessions.id, number: sessions.number })
      .from(sessions)
      .where(gt(sessions.number, after))
      .orderBy(asc(sessions.number))
      .limit(SESSIONS_AT_ONCE);
    if (page.length === 0) return;
    after = page.at(-1)!.number;
    yield await readingsOf(
      deps,
      page.map((s) => s.id),
    );
  }
}

const COLUMNS = [
  ...['session', 'rig', 'media', 'kind', 'startedAt', 'startedBy', 'closedAt', 'outcome', 'r95Mm', 'pass'],
  ...['purpose', 'sheet', 'station', 'axis', 'xMm', 'yMm', 'offsetMm', 'uMm', 'enteredBy', 'enteredAt'],
  ...['replacedAt', 'setAsideBy'],
] as const;

/** A reading a row, with a heading. */
export async function* csvOfLog(deps: Deps): Chunks {
  yield csvLine([...COLUMNS]);
  for await (const rows of exportRows(deps))
    yield rows.map((row) => csvLine(COLUMNS.map((c) => row[c as keyof typeof row]))).join('');
}

/** One list of the document: `"name":[…]`, an entry a line. */
async function* list(name: string, source: AsyncIterable<readonly unknown[]>): Chunks {
  yield `,\n${JSON.stringify(name)}:[`;
  let first = true;
  for await (const rows of source) {
    if (rows.length === 0) continue;
    yield `${first ? '\n' : ',\n'}${rows.map((row) => JSON.stringify(row)).join(',\n')}`;
    first = false;
  }
  yield ']';
}

/** Rows of a table as they were entered. */
const enteredPages = (deps: Deps, table: typeof lengths | typeof repeatReadings) =>
  pages(
    table.enteredAt,
    table.id,
    (after, order) =>
      deps.db
        .select()
        .from(table)
        .where(after)
        .orderBy(...order)
        .limit(ROWS_AT_ONCE),
    (row) => row.id,
  );

/** The whole log as one document: sessions with fits and corrections, setting changes, events, runs. */
export async function* documentOfLog(deps: Deps): Chunks {
  yield '{"format":"red-plumb-log-1","units":"mm, rad"';
  yield* list('readings', exportRows(deps));
  yield* list('lengths', enteredPages(deps, lengths));
  yield* list('readAgain', enteredPages(deps, repeatReadings));
  yield* list(
    'ownPages',
    pages(
      ownPages.at,
      ownPages.id,
      (after, order) =>
        deps.db
          .select()
          .from(ownPages)
          .where(after)
          .orderBy(...order)
          .limit(ROWS_AT_ONCE),
      (row) => row.id,
    ),
  );
  yield* list('fits', fitPages(deps));
  yield* list(
    'corrections',
    pages(
      corrections.createdAt,
      corrections.id,
      (after, order) =>
        deps.db
          .select()
          .from(corrections)
          .where(after)
          .orderBy(...order)
          .limit(ROWS_AT_ONCE),
      (row) => row.id,
    ),
  );
  yield* list('settingChanges', changePages(deps));
  yield* list('standingCorrections', standingPages(deps));
  yield* list('changeOvers', changeOverPages(deps));
  yield* list('events', eventPages(deps));
  yield* list('runs', runPages(deps));
  yield* list(
    'driftEstimates',
    pages(
      driftEstimates.createdAt,
      driftEstimates.id,
      (after, order) =>
        deps.db
          .select()
          .from(driftEstimates)
          .where(after)
          .orderBy(...order)
          .limit(ROWS_AT_ONCE),
      (row) => row.id,
    ),
  );
  yield* list(
    'tapeMeasures',
    pages(
      tapeMeasures.enteredAt,
      tapeMeasures.id,
      (after, order) =>
        deps.db
          .select()
          .from(tapeMeasures)
          .where(after)
          .orderBy(...order)
          .limit(ROWS_AT_ONCE),
      (row) => row.id,
    ),
  );
  yield '\n}\n';
}

/** Runs with their frozen plans, sections, checks (replaced ones included), events and what their files carried. */
async function* runPages(deps: Deps) {
  for (let after = 0; ;) {
    const rows = await deps.db
      .select({ run: runs, rig: rigs.name })
      .from(runs)
      .innerJoin(setups, eq(setups.id, runs.setupId))
      .innerJoin(rigs, eq(rigs.id, setups.rigId))
      .where(gt(runs.number, after))
      .orderBy(asc(runs.number))
      .limit(RUNS_AT_ONCE);
    if (rows.length === 0) return;
    after = rows.at(-1)!.run.number;
    const ids = rows.map(({ run }) => run.id);
    // One after the other: there is one connection.
    const sections = await deps.db
      .select()
      .from(runSections)
      .where(inArray(runSections.runId, ids))
      .orderBy(asc(runSections.index));
    const checks = await deps.db
      .select()
      .from(runChecks)
      .where(inArray(runChecks.runId, ids))
      .orderBy(asc(runChecks.enteredAt));
    const happened = await deps.db
      .select()
      .from(runEvents)
      .where(inArray(runEvents.runId, ids))
      .orderBy(asc(runEvents.happenedAt));
    const files = await deps.db
      .select()
      .from(runFiles)
      .where(inArray(runFiles.runId, ids))
      .orderBy(asc(runFiles.madeAt));
    const own = <T extends { readonly runId: string }>(all: readonly T[], id: string): T[] =>
      all.filter((r) => r.runId === id);
    yield rows.map(({ run, rig }) => ({
      ...run,
      rig,
      sections: own(sections, run.id),
      checks: own(checks, run.id),
      events: own(happened, run.id),
      files: own(files, run.id),
    }));
  }
}
