import { sql } from 'drizzle-orm';
import {
  boolean,
  type AnyPgColumn,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  serial,
  smallint,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

/*
 * Lengths in mm, angles in radians, unless a column says otherwise.
 * JSON columns are read through the Zod schemas of src/server/schemas.ts.
 */

const id = () => uuid().primaryKey().defaultRandom();
const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' });

export const media = pgTable('media', {
  id: id(),
  name: text().notNull().unique(),
});

export const rigs = pgTable(
  'rigs',
  {
    id: id(),
    name: text().notNull(),
    printer: text().notNull(),
    cutter: text().notNull(),
    mediaId: uuid('media_id')
      .notNull()
      .references(() => media.id),
    sheetWidthMm: doublePrecision('sheet_width_mm').notNull(),
    sheetHeightMm: doublePrecision('sheet_height_mm').notNull(),
    areaX0Mm: doublePrecision('area_x0_mm').notNull(),
    areaY0Mm: doublePrecision('area_y0_mm').notNull(),
    areaX1Mm: doublePrecision('area_x1_mm').notNull(),
    areaY1Mm: doublePrecision('area_y1_mm').notNull(),
    toleranceMm: doublePrecision('tolerance_mm').notNull(),
    /** What can be changed to correct it. */
    changeable: text().notNull().default('settings-and-file'),
    /** The registration marks its cutter reads; null when the media never leaves the machine. */
    marks: jsonb(),
    /** Its media for drift, until the log knows better: film, paper or transfer. */
    mediaClass: text('media_class').notNull().default('film'),
    /** How this media is printed on this rig. */
    recipe: jsonb().notNull().default({}),
    /** Whether the edge that the bob points to leaves the printer first; null until somebody has looked. */
    bobFirst: boolean('bob_first'),
    /** What a roll needs on this rig: lead, tail, rollers, far marks. */
    roll: jsonb().notNull().default({}),
    /** The printer's feed compensation as it is typed, and since when; null while nobody told. */
    feedPercent: doublePrecision('feed_percent'),
    feedSetAt: at('feed_set_at'),
    /** A stand-in for a printer and a cutter; null for a real rig. */
    simulation: jsonb(),
    version: integer().notNull().default(1),
    createdAt: at('created_at').notNull().defaultNow(),
    archivedAt: at('archived_at'),
  },
  (t) => [
    check('rigs_sheet_positive', sql`${t.sheetWidthMm} > 0 and ${t.sheetHeightMm} > 0`),
    check(
      'rigs_area_inside_sheet',
      sql`${t.areaX0Mm} >= 0 and ${t.areaY0Mm} >= 0 and ${t.areaX1Mm} > ${t.areaX0Mm} and ${t.areaY1Mm} > ${t.areaY0Mm} and ${t.areaX1Mm} <= ${t.sheetWidthMm} + 1e-6 and ${t.areaY1Mm} <= ${t.sheetHeightMm} + 1e-6`,
    ),
    check(
      'rigs_changeable',
      sql`${t.changeable} in ('settings-and-file', 'settings', 'file', 'machine-page', 'nothing')`,
    ),
    check('rigs_media_class', sql`${t.mediaClass} in ('film', 'paper', 'transfer')`),
    check('rigs_tolerance_positive', sql`${t.toleranceMm} > 0`),
    check('rigs_feed', sql`${t.feedPercent} is null or ${t.feedPercent} between 50 and 200`),
    check('rigs_names', sql`length(${t.name}) between 1 and 60`),
    uniqueIndex('rigs_name_in_use')
      .on(t.name, t.mediaId)
      .where(sql`archived_at is null`),
  ],
);

export const rigSettings = pgTable(
  'rig_settings',
  {
    id: id(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    position: smallint().notNull(),
    name: text().notNull(),
    /** offset, scale, length or turn. */
    kind: text().notNull().default('offset'),
    /** Unit of value, step, min and max. */
    unit: text().notNull(),
    step: doublePrecision().notNull(),
    value: doublePrecision().notNull(),
    min: doublePrecision(),
    max: doublePrecision(),
    /** How the machine shows it: signed, or sign and size apart. */
    display: text().notNull().default('signed'),
    /** Which way +1 moves, stretches or turns the cut. */
    direction: text().notNull(),
    /** The place that a stretch or a turn leaves where it is. */
    anchorXMm: doublePrecision('anchor_x_mm').notNull().default(0),
    anchorYMm: doublePrecision('anchor_y_mm').notNull().default(0),
    /** Of a length setting: the commanded length that the typed one is compared with. */
    nominalMm: doublePrecision('nominal_mm'),
    /** Taken off the rig; its history stays. */
    retiredAt: at('retired_at'),
  },
  (t) => [
    check(
      'rig_settings_unit',
      sql`(${t.kind} in ('offset', 'length') and ${t.unit} in ('mm', 'in')) or (${t.kind} = 'scale' and ${t.unit} in ('percent', 'permille', 'mm-per-m')) or (${t.kind} = 'turn' and ${t.unit} in ('degree', 'mm-per-m'))`,
    ),
    check('rig_settings_nominal', sql`${t.kind} <> 'length' or coalesce(${t.nominalMm}, 0) > 0`),
    check('rig_settings_step_positive', sql`${t.step} > 0`),
    check('rig_settings_range', sql`${t.min} is null or ${t.max} is null or ${t.min} < ${t.max}`),
    check('rig_settings_display', sql`${t.display} in ('signed', 'sign-and-size')`),
    check(
      'rig_settings_direction',
      sql`(${t.kind} = 'offset' and ${t.direction} in ('right', 'left', 'further', 'back')) or (${t.kind} in ('scale', 'length') and ${t.direction} in ('wider', 'narrower', 'longer', 'shorter')) or (${t.kind} = 'turn' and ${t.direction} in ('anticlockwise', 'clockwise'))`,
    ),
    uniqueIndex('rig_settings_position')
      .on(t.rigId, t.position)
      .where(sql`retired_at is null`),
  ],
);

export const proofSheets = pgTable(
  'proof_sheets',
  {
    id: id(),
    number: serial().notNull().unique(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    /** The whole frozen geometry, with its spec and the generator's version. */
    geometry: jsonb().notNull(),
    rigName: text('rig_name').notNull(),
    mediaName: text('media_name').notNull(),
    /** Where the QR code points. */
    address: text().notNull(),
    createdAt: at('created_at').notNull(),
    printedAt: at('printed_at'),
    printedBy: text('printed_by'),
  },
  (t) => [index('proof_sheets_rig').on(t.rigId)],
);

export const sessions = pgTable(
  'sessions',
  {
    id: id(),
    number: serial().notNull().unique(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    kind: text().notNull(),
    stage: text().notNull(),
    startedBy: text('started_by').notNull(),
    startedAt: at('started_at').notNull(),
    closedBy: text('closed_by'),
    closedAt: at('closed_at'),
    /** plumb, leaning, out-of-plumb; null while open or when given up. */
    outcome: text(),
    /** Expected radius of 95 of 100 cuts at the worst place when it was closed. */
    outcomeR95Mm: doublePrecision('outcome_r95_mm'),
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
    uniqueIndex('sessions_one_open')
      .on(t.rigId, t.kind)
      .where(sql`closed_at is null`),
    index('sessions_rig').on(t.rigId, t.startedAt),
    index('sessions_started').on(t.startedAt),
    index('sessions_told')
      .on(t.rigId, t.closedAt)
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
    purpose: text().notNull(),
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
    axis: text().notNull(),
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
    decision: text().notNull(),
    /** From and to of each setting. */
    changes: jsonb().notNull(),
    /** T that a file is to undo when the settings are typed too, and when the file does it all. */
    restTransform: jsonb('rest_transform').notNull(),
    wholeTransform: jsonb('whole_transform').notNull(),
    plan: jsonb().notNull(),
    /** How it was carried out: settings, file, both, the machine's own page, leave; null while it is only proposed. */
    done: text(),
    doneBy: text('done_by'),
    doneAt: at('done_at'),
    createdAt: at('created_at').notNull(),
  },
  (t) => [
    check('corrections_decision', sql`${t.decision} in ('correct', 'leave')`),
    check(
      'corrections_done',
      sql`${t.done} is null or ${t.done} in ('settings', 'file', 'both', 'machine-page', 'leave')`,
    ),
    uniqueIndex('corrections_fit').on(t.fitId),
  ],
);

export const settingChanges = pgTable(
  'setting_changes',
  {
    id: id(),
    settingId: uuid('setting_id')
      .notNull()
      .references(() => rigSettings.id),
    fromValue: doublePrecision('from_value'),
    toValue: doublePrecision('to_value').notNull(),
    reason: text().notNull(),
    correctionId: uuid('correction_id').references(() => corrections.id),
    changedBy: text('changed_by').notNull(),
    changedAt: at('changed_at').notNull(),
  },
  (t) => [
    index('setting_changes_setting').on(t.settingId, t.changedAt),
    index('setting_changes_correction').on(t.correctionId),
  ],
);

/**
 * Contents of files that were made, each once, by its SHA-256. One that nobody asked for in a long time is let go
 * (`keepFiles.ts` says how long); what was made of it and when stays in the log.
 */
export const fileContents = pgTable('file_contents', {
  sha256: text().primaryKey(),
  content: text(),
  bytes: integer().notNull(),
  keptAt: at('kept_at').notNull(),
});

export const correctedFiles = pgTable(
  'corrected_files',
  {
    id: id(),
    correctionId: uuid('correction_id')
      .notNull()
      .references(() => corrections.id),
    fileName: text('file_name').notNull(),
    /** Whether the settings were typed too, so that the file undid only the rest. */
    restOnly: boolean('rest_only').notNull(),
    transform: jsonb().notNull(),
    report: jsonb().notNull(),
    sha256: text()
      .notNull()
      .references(() => fileContents.sha256),
    madeBy: text('made_by').notNull(),
    madeAt: at('made_at').notNull(),
  },
  (t) => [
    index('corrected_files_correction').on(t.correctionId, t.madeAt),
    index('corrected_files_content').on(t.sha256),
  ],
);

export const events = pgTable(
  'events',
  {
    id: id(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    kind: text().notNull(),
    note: text().notNull().default(''),
    recordedBy: text('recorded_by').notNull(),
    happenedAt: at('happened_at').notNull(),
  },
  (t) => [
    check(
      'events_kind',
      sql`${t.kind} in ('moved', 'unplugged', 'firmware', 'new-blade', 'media-change', 'size-change', 'long-idle', 'feed', 'other')`,
    ),
    index('events_rig').on(t.rigId, t.happenedAt),
  ],
);

/** A run along a roll: a job, or the first and the last mark of a piece read to learn the drift. */
export const runs = pgTable(
  'runs',
  {
    id: id(),
    number: serial().notNull().unique(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    kind: text().notNull(),
    name: text().notNull(),
    stage: text().notNull(),
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
    /** Counts everything that was done on it: open pages look again when it moves. */
    version: integer().notNull().default(1),
  },
  (t) => [
    check('runs_kind', sql`${t.kind} in ('job', 'two-marks')`),
    check('runs_stage', sql`${t.stage} in ('release', 'running', 'paused', 'closed')`),
    check('runs_closed', sql`(${t.stage} = 'closed') = (${t.closedAt} is not null)`),
    check('runs_plan', sql`${t.kind} <> 'job' or ${t.plan} is not null`),
    index('runs_rig').on(t.rigId, t.startedAt),
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
    state: text().notNull(),
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
    place: text().notNull(),
    /** From the run’s first registration. */
    yMm: doublePrecision('y_mm').notNull(),
    dxMm: doublePrecision('dx_mm'),
    dyMm: doublePrecision('dy_mm'),
    uMm: doublePrecision('u_mm').notNull(),
    way: text().notNull(),
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
    kind: text().notNull(),
    /** The section it came before, or that it concerns. */
    section: integer(),
    detail: jsonb().notNull().default({}),
    by: text().notNull(),
    happenedAt: at('happened_at').notNull(),
  },
  (t) => [
    check(
      'run_events_kind',
      sql`${t.kind} in ('released', 'registered', 'slip-kept', 'laminated', 'undone', 'paused', 'resumed', 'closed', 'reopened')`,
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
    format: text().notNull(),
    applied: jsonb(),
    sha256: text()
      .notNull()
      .references(() => fileContents.sha256),
    madeBy: text('made_by').notNull(),
    madeAt: at('made_at').notNull(),
  },
  (t) => [index('run_files_run').on(t.runId, t.section, t.madeAt), index('run_files_content').on(t.sha256)],
);

/** What a rig’s log said about its drift, kept with the readings’ fingerprint so that it is worked out once. */
export const driftEstimates = pgTable(
  'drift_estimates',
  {
    id: id(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    version: text().notNull(),
    fingerprint: text().notNull(),
    inputs: jsonb().notNull(),
    result: jsonb().notNull(),
    createdAt: at('created_at').notNull(),
  },
  (t) => [uniqueIndex('drift_estimates_of').on(t.rigId, t.version, t.fingerprint)],
);

/** A long distance measured by steel tape: whether the print itself has its true length. */
export const tapeMeasures = pgTable(
  'tape_measures',
  {
    id: id(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    of: text().notNull(),
    nominalMm: doublePrecision('nominal_mm').notNull(),
    measuredMm: doublePrecision('measured_mm').notNull(),
    uMm: doublePrecision('u_mm').notNull(),
    enteredBy: text('entered_by').notNull(),
    enteredAt: at('entered_at').notNull(),
  },
  (t) => [
    check('tape_measures_of', sql`${t.of} in ('print', 'cut')`),
    check('tape_measures_lengths', sql`${t.nominalMm} > 0 and ${t.measuredMm} > 0 and ${t.uMm} > 0`),
    index('tape_measures_rig').on(t.rigId, t.enteredAt),
  ],
);

/**
 * Acts that kept something, each with the number that its browser or script gave it: sent twice, it is done once, and
 * the second answer is the first.
 */
export const acts = pgTable(
  'acts',
  {
    request: uuid().primaryKey(),
    act: text().notNull(),
    /** What it was done to: a session, a run, a rig; null for what was only being made. */
    subjectId: uuid('subject_id'),
    by: text().notNull(),
    at: at('at').notNull(),
    /** What was answered. */
    result: jsonb(),
  },
  (t) => [index('acts_subject').on(t.subjectId, t.at)],
);

/** What is so of the whole shop: whether its demo was loaded, when it was backed up last. */
export const shopFacts = pgTable('shop_facts', {
  name: text().primaryKey(),
  value: jsonb().notNull(),
  at: at('at').notNull(),
});
