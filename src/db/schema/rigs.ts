import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  smallint,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

import { at, id } from './columns';
import { corrections } from './sessions';

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
