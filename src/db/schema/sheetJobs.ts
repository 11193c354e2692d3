import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  customType,
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

import { at, id } from './columns';
import { machines } from './machines';
import { sessions } from './sessions';
import { setups } from './setups';

const bytea = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => 'bytea' });

/** Pictures as they were dropped, each once, by its SHA-256; kept as long as a job uses them. */
export const artworks = pgTable('artworks', {
  sha256: text().primaryKey(),
  bytes: bytea().notNull(),
  widthPx: integer('width_px').notNull(),
  heightPx: integer('height_px').notNull(),
  keptAt: at('kept_at').notNull(),
});

/** Sheet jobs: from artwork to a frozen pair of print and cut file that share a number. */
export const sheetJobs = pgTable(
  'sheet_jobs',
  {
    id: id(),
    number: serial().notNull().unique(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    name: text().notNull(),
    stage: text({ enum: ['draft', 'frozen', 'closed'] }).notNull(),
    /** What the recipes of its pieces gave, and how they are laid out; frozen it is never worked out again. */
    geometry: jsonb().notNull(),
    /** Rig, medium and address as they stood when it was frozen. */
    frozenAs: jsonb('frozen_as'),
    startedBy: text('started_by').notNull(),
    startedAt: at('started_at').notNull(),
    frozenBy: text('frozen_by'),
    frozenAt: at('frozen_at'),
    closedBy: text('closed_by'),
    closedAt: at('closed_at'),
    /** A draft that nobody wants; it can be brought back. */
    discarded: boolean().notNull().default(false),
    /** Counts its changes: who knows an older one is told. */
    version: integer().notNull().default(1),
  },
  (t) => [
    check('sheet_jobs_stage', sql`${t.stage} in ('draft', 'frozen', 'closed')`),
    check('sheet_jobs_frozen', sql`(${t.stage} = 'draft') = (${t.frozenAt} is null)`),
    check('sheet_jobs_closed', sql`(${t.stage} = 'closed') = (${t.closedAt} is not null)`),
    check('sheet_jobs_discarded', sql`not ${t.discarded} or ${t.stage} = 'draft'`),
    index('sheet_jobs_setup').on(t.setupId, t.startedAt),
    index('sheet_jobs_started').on(t.startedAt),
  ],
);

/** Pieces of artwork of a sheet job, by the letters that its geometry has them under. */
export const sheetJobPieces = pgTable(
  'sheet_job_pieces',
  {
    id: id(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => sheetJobs.id),
    piece: text().notNull(),
    artSha256: text('art_sha256')
      .notNull()
      .references(() => artworks.sha256),
    artName: text('art_name').notNull(),
    /** From the picture to its cut line, step by step: what can be changed while it is a draft. */
    recipe: jsonb().notNull(),
    /** The piece whose line it has, where it was not traced itself. */
    lineOf: text('line_of'),
  },
  (t) => [uniqueIndex('sheet_job_pieces_piece').on(t.jobId, t.piece)],
);

/** Cut files made of a frozen job, numbered: which lines, in what order, with which correction. */
export const sheetCuts = pgTable(
  'sheet_cuts',
  {
    id: id(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => sheetJobs.id),
    revision: integer().notNull(),
    /** What makes it differ: kind of line, the correction that it carries and of which calibration. */
    made: jsonb().notNull(),
    madeBy: text('made_by').notNull(),
    madeAt: at('made_at').notNull(),
  },
  (t) => [uniqueIndex('sheet_cuts_revision').on(t.jobId, t.revision)],
);

/** Witnesses that were read: which sheet, of which cut file, and the check that its readings are kept in. */
export const witnesses = pgTable(
  'witnesses',
  {
    id: id(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => sheetJobs.id),
    revision: integer().notNull(),
    /** From 0. */
    sheet: integer().notNull(),
    sessionId: uuid('session_id')
      .notNull()
      .unique()
      .references(() => sessions.id),
    startedBy: text('started_by').notNull(),
    startedAt: at('started_at').notNull(),
  },
  (t) => [index('witnesses_of_sheet').on(t.jobId, t.revision, t.sheet)],
);

/** Where printed sheets of jobs lay on their media, by a rule from its edges to the leading mark: what the printer did. */
export const printShifts = pgTable(
  'print_shifts',
  {
    id: id(),
    jobId: uuid('job_id')
      .notNull()
      .references(() => sheetJobs.id),
    printerId: uuid('printer_id')
      .notNull()
      .references(() => machines.id),
    tray: text().notNull(),
    sheetWidthMm: doublePrecision('sheet_width_mm').notNull(),
    sheetHeightMm: doublePrecision('sheet_height_mm').notNull(),
    /** From where it should lie without any placement, mm to the right and further. */
    dxMm: doublePrecision('dx_mm').notNull(),
    dyMm: doublePrecision('dy_mm').notNull(),
    by: text().notNull(),
    at: at('at').notNull(),
  },
  (t) => [index('print_shifts_of').on(t.printerId, t.tray, t.sheetWidthMm, t.sheetHeightMm, t.at)],
);

/** How far print files for a tray and size are moved, the newest counts; a print that was frozen keeps what it had. */
export const printPlacements = pgTable(
  'print_placements',
  {
    id: id(),
    printerId: uuid('printer_id')
      .notNull()
      .references(() => machines.id),
    tray: text().notNull(),
    sheetWidthMm: doublePrecision('sheet_width_mm').notNull(),
    sheetHeightMm: doublePrecision('sheet_height_mm').notNull(),
    xMm: doublePrecision('x_mm').notNull(),
    yMm: doublePrecision('y_mm').notNull(),
    by: text().notNull(),
    at: at('at').notNull(),
  },
  (t) => [index('print_placements_of').on(t.printerId, t.tray, t.sheetWidthMm, t.sheetHeightMm, t.at)],
);
