import { sql } from 'drizzle-orm';
import {
  type AnyPgColumn,
  boolean,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';

import { GRIPS } from '../../core/setup/vocabulary';

import { MEDIA_CLASSES } from '@/core/drift';
import { at, id } from './columns';
import { mats, tools } from './machines';
import { rigs } from './rigs';

export const media = pgTable('media', {
  id: id(),
  name: text().notNull().unique(),
  /** How strongly a mat has to hold it; null where it needs none or nobody told. */
  grip: text({ enum: GRIPS }),
  /** Printed reversed: seen through it, or pressed on the other way round. */
  mirrored: boolean().notNull().default(false),
});

export const setups = pgTable(
  'setups',
  {
    id: id(),
    rigId: uuid('rig_id')
      .notNull()
      .references((): AnyPgColumn => rigs.id),
    /** What tells it from another of the same medium and size; mostly empty. */
    label: text().notNull().default(''),
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
    /** The registration marks its cutter reads; null when the media never leaves the machine. */
    marks: jsonb(),
    /** Its media for drift, until the log knows better: film, paper or transfer. */
    mediaClass: text('media_class', { enum: MEDIA_CLASSES }).notNull().default('film'),
    /** The tool that its correction is proved with; null while the cutter has one only. */
    toolId: uuid('tool_id').references((): AnyPgColumn => tools.id),
    matId: uuid('mat_id').references((): AnyPgColumn => mats.id),
    /** The page that the printer’s driver is set to; null while nobody told. */
    driverWidthMm: doublePrecision('driver_width_mm'),
    driverHeightMm: doublePrecision('driver_height_mm'),
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
    check('setups_sheet_positive', sql`${t.sheetWidthMm} > 0 and ${t.sheetHeightMm} > 0`),
    check(
      'setups_area_inside_sheet',
      sql`${t.areaX0Mm} >= 0 and ${t.areaY0Mm} >= 0 and ${t.areaX1Mm} > ${t.areaX0Mm} and ${t.areaY1Mm} > ${t.areaY0Mm} and ${t.areaX1Mm} <= ${t.sheetWidthMm} + 1e-6 and ${t.areaY1Mm} <= ${t.sheetHeightMm} + 1e-6`,
    ),
    check('setups_media_class', sql`${t.mediaClass} in ('film', 'paper', 'transfer')`),
    check('setups_tolerance_positive', sql`${t.toleranceMm} > 0`),
    check('setups_feed', sql`${t.feedPercent} is null or ${t.feedPercent} between 50 and 200`),
    check('setups_label', sql`length(${t.label}) <= 60`),
    uniqueIndex('setups_in_use')
      .on(
        t.rigId,
        t.mediaId,
        t.sheetWidthMm,
        t.sheetHeightMm,
        t.label,
        sql`coalesce(${t.toolId}, '00000000-0000-0000-0000-000000000000')`,
      )
      .where(sql`archived_at is null`),
    index('setups_rig').on(t.rigId),
  ],
);
