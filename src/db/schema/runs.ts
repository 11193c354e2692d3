import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  serial,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

import {
  RUN_KINDS,
  RUN_STAGES,
  SECTION_STATES,
  CHECK_PLACES,
  CHECK_WAYS,
  RUN_EVENT_KINDS,
} from '@/core/setup';
import { CUT_FORMATS } from '@/core/drawing/formats';
import { at, id } from './columns';
import { fileContents } from './files';
import { setups } from './setups';

/** A run along a roll: a job, or the first and the last mark of a piece read to learn the drift. */
export const runs = pgTable(
  'runs',
  {
    id: id(),
    number: serial().notNull().unique(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    kind: text({ enum: RUN_KINDS }).notNull(),
    name: text().notNull(),
    stage: text({ enum: RUN_STAGES }).notNull(),
    /** The frozen plan: job, imposition, strategy, sections, forecasts, versions; null for two marks. */
    plan: jsonb(),
    /** Its medium when it was planned; null of those planned before this was kept. */
    mediaThen: text('media_then'),
    /** What was known of the drift when it was planned. */
    knowledge: jsonb(),
    /** The cut file of one item, as given; null for the item’s outline. */
    itemFile: text('item_file'),
    startedBy: text('started_by').notNull(),
    startedAt: at('started_at').notNull(),
    closedBy: text('closed_by'),
    closedAt: at('closed_at'),
    /** What was predicted, what happened and what it taught; null until it is closed. */
    outcome: jsonb(),
    /** Where across its witness strip stands, from the printable width's left; null: it has none. */
    witnessXMm: doublePrecision('witness_x_mm'),
    /** Counts everything that was done on it: open pages look again when it moves. */
    version: integer().notNull().default(1),
  },
  (t) => [
    check('runs_kind', sql`${t.kind} in ('job', 'two-marks')`),
    check('runs_stage', sql`${t.stage} in ('release', 'running', 'paused', 'closed')`),
    check('runs_closed', sql`(${t.stage} = 'closed') = (${t.closedAt} is not null)`),
    check('runs_plan', sql`${t.kind} <> 'job' or ${t.plan} is not null`),
    index('runs_rig').on(t.setupId, t.startedAt),
    index('runs_started').on(t.kind, t.startedAt),
  ],
);

export const runSections = pgTable(
  'run_sections',
  {
    id: id(),
    runId: uuid('run_id')
      .notNull()
      .references(() => runs.id),
    index: integer().notNull(),
    state: text({ enum: SECTION_STATES }).notNull(),
    /** The correction its cut carried: drift part as a map, laminate stretch, outlook and versions; null as drawn. */
    applied: jsonb(),
    /** The file that was loaded; null as drawn, and of cuts from before this was asked. */
    fileId: uuid('file_id').references((): AnyPgColumn => runFiles.id),
    cutBy: text('cut_by'),
    cutAt: at('cut_at'),
    spoiled: integer(),
  },
  (t) => [
    check('run_sections_state', sql`${t.state} in ('waiting', 'cut', 'finished')`),
    check('run_sections_spoiled', sql`${t.spoiled} is null or ${t.spoiled} >= 0`),
    uniqueIndex('run_sections_index').on(t.runId, t.index),
  ],
);

export const runChecks = pgTable(
  'run_checks',
  {
    id: id(),
    runId: uuid('run_id')
      .notNull()
      .references(() => runs.id),
    section: integer().notNull(),
    place: text({ enum: CHECK_PLACES }).notNull(),
    /** From the run’s first registration. */
    yMm: doublePrecision('y_mm').notNull(),
    dxMm: doublePrecision('dx_mm'),
    dyMm: doublePrecision('dy_mm'),
    uMm: doublePrecision('u_mm').notNull(),
    way: text({ enum: CHECK_WAYS }).notNull(),
    enteredBy: text('entered_by').notNull(),
    enteredAt: at('entered_at').notNull(),
    /** Set when a later check replaced this one or it was taken back; nothing is deleted. */
    replacedAt: at('replaced_at'),
  },
  (t) => [
    check('run_checks_place', sql`${t.place} in ('first row', 'last row')`),
    check('run_checks_way', sql`${t.way} in ('comb', 'gaps', 'ruler')`),
    check('run_checks_something', sql`${t.dxMm} is not null or ${t.dyMm} is not null`),
    check('run_checks_u', sql`${t.uMm} > 0`),
    // Two people may have read the same place, each unseen by the other: both count.
    index('run_checks_run').on(t.runId, t.section, t.place),
  ],
);

export const runEvents = pgTable(
  'run_events',
  {
    id: id(),
    runId: uuid('run_id')
      .notNull()
      .references(() => runs.id),
    kind: text({ enum: RUN_EVENT_KINDS }).notNull(),
    /** The section it came before, or that it concerns. */
    section: integer(),
    detail: jsonb().notNull().default({}),
    by: text().notNull(),
    happenedAt: at('happened_at').notNull(),
  },
  (t) => [
    check(
      'run_events_kind',
      sql`${t.kind} in ('released', 'registered', 'slip-kept', 'laminated', 'standing', 'undone', 'paused', 'resumed', 'closed', 'reopened')`,
    ),
    index('run_events_run').on(t.runId, t.happenedAt),
  ],
);

export const runFiles = pgTable(
  'run_files',
  {
    id: id(),
    runId: uuid('run_id')
      .notNull()
      .references(() => runs.id),
    section: integer().notNull(),
    fileName: text('file_name').notNull(),
    format: text({ enum: CUT_FORMATS }).notNull(),
    applied: jsonb(),
    sha256: text()
      .notNull()
      .references(() => fileContents.sha256),
    madeBy: text('made_by').notNull(),
    madeAt: at('made_at').notNull(),
  },
  (t) => [index('run_files_run').on(t.runId, t.section, t.madeAt), index('run_files_content').on(t.sha256)],
);
