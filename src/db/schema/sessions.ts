import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  serial,
  smallint,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

import { CORRECTION_WAYS, SESSION_KINDS, STAGES, PASS_PURPOSES } from '@/core/setup';
import { OFFSET_AXES } from '@/core/units';
import { PLUMB_STATES } from '@/core/verdict';
import { at, id } from './columns';
import { setups } from './setups';

export const proofSheets = pgTable(
  'proof_sheets',
  {
    id: id(),
    number: serial().notNull().unique(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    /** The whole frozen geometry, with its spec and the generator's version. */
    geometry: jsonb().notNull(),
    rigName: text('rig_name').notNull(),
    mediaName: text('media_name').notNull(),
    /** The date that stands on it, in the shop's zone; null of those made before this was kept, in universal time. */
    madeOn: text('made_on'),
    /** Where the QR code points. */
    address: text().notNull(),
    createdAt: at('created_at').notNull(),
    printedAt: at('printed_at'),
    printedBy: text('printed_by'),
  },
  (t) => [index('proof_sheets_rig').on(t.setupId)],
);

export const sessions = pgTable(
  'sessions',
  {
    id: id(),
    number: serial().notNull().unique(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    kind: text({ enum: SESSION_KINDS }).notNull(),
    stage: text({ enum: STAGES }).notNull(),
    startedBy: text('started_by').notNull(),
    startedAt: at('started_at').notNull(),
    closedBy: text('closed_by'),
    closedAt: at('closed_at'),
    /** plumb, leaning, out-of-plumb; null while open or when given up. */
    outcome: text({ enum: PLUMB_STATES }),
    /** Expected radius of 95 of 100 cuts at the worst place when it was closed. */
    outcomeR95Mm: doublePrecision('outcome_r95_mm'),
    /** Where the scatter of loads in that figure came from: assumed, log; null of those closed before this was kept. */
    outcomeLoads: text('outcome_loads'),
    note: text().notNull().default(''),
    /** Medium and tolerance as they were when it was closed; null while open, and of those closed before this was kept. */
    mediaThen: text('media_then'),
    toleranceThenMm: doublePrecision('tolerance_then_mm'),
    /** A correction was carried out and its proof was never read: what is known is what was there before. */
    unproved: boolean().notNull().default(false),
    /** Started by mistake and thrown away: closed without an outcome, and in nobody's way. */
    discarded: boolean().notNull().default(false),
    /** Counts the steps of the walk: a page that knows an older one is out of date. */
    version: integer().notNull().default(1),
    /** Counts everything that was kept, readings too: open pages look again when it moves. */
    changes: integer().notNull().default(0),
  },
  (t) => [
    check('sessions_discarded', sql`not ${t.discarded} or (${t.stage} = 'closed' and ${t.outcome} is null)`),
    check('sessions_unproved', sql`not ${t.unproved} or (${t.stage} = 'closed' and ${t.outcome} is null)`),
    check('sessions_kind', sql`${t.kind} in ('calibration', 'quick-check', 'roll-proof')`),
    check('sessions_stage', sql`${t.stage} in ('print', 'read', 'correct', 'prove', 'closed')`),
    check('sessions_closed', sql`(${t.stage} = 'closed') = (${t.closedAt} is not null)`),
    check(
      'sessions_outcome',
      sql`${t.outcome} is null or ${t.outcome} in ('plumb', 'leaning', 'out-of-plumb')`,
    ),
    check(
      'sessions_outcome_loads',
      sql`${t.outcomeLoads} is null or ${t.outcomeLoads} in ('assumed', 'log')`,
    ),
    uniqueIndex('sessions_one_open')
      .on(t.setupId, t.kind)
      .where(sql`closed_at is null`),
    index('sessions_rig').on(t.setupId, t.startedAt),
    index('sessions_of_kind').on(t.setupId, t.kind, t.startedAt),
    index('sessions_started').on(t.startedAt),
    index('sessions_told')
      .on(t.setupId, t.closedAt)
      .where(sql`outcome is not null`),
  ],
);

export const passes = pgTable(
  'passes',
  {
    id: id(),
    sessionId: uuid('session_id')
      .notNull()
      .references(() => sessions.id),
    position: smallint().notNull(),
    sheetId: uuid('sheet_id')
      .notNull()
      .references(() => proofSheets.id),
    stationSet: smallint('station_set').notNull(),
    purpose: text({ enum: PASS_PURPOSES }).notNull(),
    /** Value of each setting, by its id, when this set was cut. */
    settingsAtCut: jsonb('settings_at_cut').notNull(),
    /** T that the cut file of this set undoes by itself; null for the file as drawn. */
    fileTransform: jsonb('file_transform'),
    /** The print recipe as it stood when the sheet was printed. */
    recipe: jsonb(),
    /** What the operator measured the check bars to be. */
    barAcrossMm: doublePrecision('bar_across_mm'),
    barAlongMm: doublePrecision('bar_along_mm'),
    /** Counts loads of the sheet into the cutter; the proof on the same load shares it. */
    load: integer().notNull(),
    createdAt: at('created_at').notNull(),
  },
  (t) => [
    check('passes_set', sql`${t.stationSet} in (1, 2)`),
    check(
      'passes_bars',
      sql`(${t.barAcrossMm} is null or ${t.barAcrossMm} > 0) and (${t.barAlongMm} is null or ${t.barAlongMm} > 0)`,
    ),
    check('passes_purpose', sql`${t.purpose} in ('measure', 'prove')`),
    uniqueIndex('passes_position').on(t.sessionId, t.position),
    index('passes_sheet').on(t.sheetId),
  ],
);

export const readings = pgTable(
  'readings',
  {
    id: id(),
    passId: uuid('pass_id')
      .notNull()
      .references(() => passes.id),
    stationId: text('station_id').notNull(),
    axis: text({ enum: OFFSET_AXES }).notNull(),
    pick: jsonb().notNull(),
    coarseMm: doublePrecision('coarse_mm'),
    xMm: doublePrecision('x_mm').notNull(),
    yMm: doublePrecision('y_mm').notNull(),
    offsetMm: doublePrecision('offset_mm').notNull(),
    uMm: doublePrecision('u_mm').notNull(),
    enteredBy: text('entered_by').notNull(),
    enteredAt: at('entered_at').notNull(),
    /** Kept, but left out of the fit, by the operator's decision. */
    setAsideBy: text('set_aside_by'),
    setAsideAt: at('set_aside_at'),
    /** Set when a later reading replaced this one or it was cleared; nothing is deleted. */
    replacedAt: at('replaced_at'),
  },
  (t) => [
    check('readings_axis', sql`${t.axis} in ('across', 'along')`),
    check('readings_u_positive', sql`${t.uMm} > 0`),
    uniqueIndex('readings_current')
      .on(t.passId, t.stationId, t.axis)
      .where(sql`replaced_at is null`),
    index('readings_pass').on(t.passId, t.enteredAt),
  ],
);

/** Combs that were read again, by the same or another person, to learn how well they are read: no part of any fit. */
export const repeatReadings = pgTable(
  'repeat_readings',
  {
    id: id(),
    passId: uuid('pass_id')
      .notNull()
      .references(() => passes.id),
    stationId: text('station_id').notNull(),
    axis: text({ enum: OFFSET_AXES }).notNull(),
    /** From 1: which time this person reads this comb again. */
    round: smallint().notNull(),
    pick: jsonb().notNull(),
    offsetMm: doublePrecision('offset_mm').notNull(),
    enteredBy: text('entered_by').notNull(),
    enteredAt: at('entered_at').notNull(),
    /** Set when it was taken back; nothing is deleted. */
    replacedAt: at('replaced_at'),
  },
  (t) => [
    check('repeat_readings_axis', sql`${t.axis} in ('across', 'along')`),
    check('repeat_readings_round', sql`${t.round} > 0`),
    uniqueIndex('repeat_readings_current')
      .on(t.passId, t.stationId, t.axis, t.enteredBy, t.round)
      .where(sql`replaced_at is null`),
    index('repeat_readings_entered').on(t.enteredAt),
  ],
);

/** Long lengths between stations of a set: how long the print is there, and how long the cut. */
export const lengths = pgTable(
  'lengths',
  {
    id: id(),
    passId: uuid('pass_id')
      .notNull()
      .references(() => passes.id),
    fromStation: text('from_station').notNull(),
    toStation: text('to_station').notNull(),
    /** Null: not measured, the print was taken to be true. */
    printMm: doublePrecision('print_mm'),
    cutMm: doublePrecision('cut_mm').notNull(),
    /** What the ruler is read to. */
    resolutionMm: doublePrecision('resolution_mm').notNull(),
    enteredBy: text('entered_by').notNull(),
    enteredAt: at('entered_at').notNull(),
    /** Set when a later one replaced it or it was taken back; nothing is deleted. */
    replacedAt: at('replaced_at'),
  },
  (t) => [
    check(
      'lengths_positive',
      sql`${t.cutMm} > 0 and ${t.resolutionMm} > 0 and (${t.printMm} is null or ${t.printMm} > 0)`,
    ),
    uniqueIndex('lengths_current')
      .on(t.passId, t.fromStation, t.toStation)
      .where(sql`replaced_at is null`),
  ],
);

export const fits = pgTable(
  'fits',
  {
    id: id(),
    passId: uuid('pass_id')
      .notNull()
      .references(() => passes.id),
    version: text().notNull(),
    recommended: text().notNull(),
    widest: text().notNull(),
    inputs: jsonb().notNull(),
    result: jsonb().notNull(),
    createdAt: at('created_at').notNull(),
  },
  (t) => [index('fits_pass').on(t.passId, t.createdAt)],
);

export const corrections = pgTable(
  'corrections',
  {
    id: id(),
    fitId: uuid('fit_id')
      .notNull()
      .references(() => fits.id),
    version: text().notNull(),
    decision: text({ enum: ['correct', 'leave'] }).notNull(),
    /** From and to of each setting. */
    changes: jsonb().notNull(),
    /** T that a file is to undo when the settings are typed too, and when the file does it all. */
    restTransform: jsonb('rest_transform').notNull(),
    wholeTransform: jsonb('whole_transform').notNull(),
    plan: jsonb().notNull(),
    /** How it was carried out: settings, file, both, the machine's own page, leave; null while it is only proposed. */
    done: text({ enum: [...CORRECTION_WAYS, 'leave'] }),
    doneBy: text('done_by'),
    doneAt: at('done_at'),
    createdAt: at('created_at').notNull(),
  },
  (t) => [
    check('corrections_decision', sql`${t.decision} in ('correct', 'leave')`),
    check(
      'corrections_done',
      sql`${t.done} is null or ${t.done} in ('settings', 'file', 'both', 'machine-page', 'push', 'leave')`,
    ),
    uniqueIndex('corrections_fit').on(t.fitId),
  ],
);
