import { asc, eq, gt, inArray } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';

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
  setups,
  tapeMeasures,
} from '@/db/schema';
import { csvHead, csvRows } from '@/server/base/csv';
import type { Deps } from '@/server/base/deps';

import {
  changePages,
  changeOverPages,
  eventPages,
  fitPages,
  READING_COLUMNS,
  readingPages,
  standingPages,
} from './exportPages';
import { pages, ROWS_AT_ONCE } from './inPages';

/*
 * The log as text, made page by page as it is read: however long the log is, only a page of it is in memory.
 */

type Chunks = AsyncGenerator<string, void, undefined>;

const RUNS_AT_ONCE = 10;

/** A reading a row, with a heading. */
export async function* csvOfLog(deps: Deps): Chunks {
  yield csvHead(READING_COLUMNS);
  for await (const rows of readingPages(deps)) yield csvRows(READING_COLUMNS, rows);
}

/** The same for a document: by name. */
async function* namedReadings(deps: Deps) {
  for await (const rows of readingPages(deps))
    yield rows.map((row) => Object.fromEntries(READING_COLUMNS.map(([name, of]) => [name, of(row)])));
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

/** Rows of a table as they are, in the order of a time. */
const rowsOf = (deps: Deps, table: PgTable & { readonly id: PgColumn }, at: PgColumn) =>
  pages(
    at,
    table.id,
    (after, order) =>
      deps.db
        .select()
        .from(table as PgTable)
        .where(after)
        .orderBy(...order)
        .limit(ROWS_AT_ONCE),
    (row) => (row as { readonly id: string }).id,
  );

/** The whole log as one document: sessions with fits and corrections, setting changes, events, runs. */
export async function* documentOfLog(deps: Deps): Chunks {
  yield '{"format":"red-plumb-log-1","units":"mm, rad"';
  yield* list('readings', namedReadings(deps));
  yield* list('lengths', rowsOf(deps, lengths, lengths.enteredAt));
  yield* list('readAgain', rowsOf(deps, repeatReadings, repeatReadings.enteredAt));
  yield* list('ownPages', rowsOf(deps, ownPages, ownPages.at));
  yield* list('fits', fitPages(deps));
  yield* list('corrections', rowsOf(deps, corrections, corrections.createdAt));
  yield* list('settingChanges', changePages(deps));
  yield* list('standingCorrections', standingPages(deps));
  yield* list('changeOvers', changeOverPages(deps));
  yield* list('events', eventPages(deps));
  yield* list('runs', runPages(deps));
  yield* list('driftEstimates', rowsOf(deps, driftEstimates, driftEstimates.createdAt));
  yield* list('tapeMeasures', rowsOf(deps, tapeMeasures, tapeMeasures.enteredAt));
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
