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

import { GRIPS, TOOL_KINDS, WEARS } from '../../core/setup/vocabulary';

import { SETTING_KINDS, SETTING_UNITS, EFFECT_DIRECTIONS } from '@/core/correction';
import { KEPT, VALUE_DISPLAYS } from '@/core/setup';
import { at, id } from './columns';

/** A printer, a cutter, or both in one. Two may have one name until somebody tells that they are the same. */
export const machines = pgTable(
  'machines',
  {
    id: id(),
    name: text().notNull(),
    prints: boolean().notNull(),
    cuts: boolean().notNull(),
    /** The widest that its carriage reaches; null where nobody told. */
    reachMm: doublePrecision('reach_mm'),
    /** What is done when it is switched on, in order. */
    startUp: text('start_up')
      .array()
      .notNull()
      .default(sql`'{}'::text[]`),
    /** Counts every change of it, of what its settings are, and of what they show. */
    version: integer().notNull().default(1),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [
    check('machines_does_something', sql`${t.prints} or ${t.cuts}`),
    check('machines_name', sql`length(${t.name}) between 1 and 60`),
  ],
);

/** The figures that a machine takes: what each is called there, and what it does to the cut. */
export const machineSettings = pgTable(
  'machine_settings',
  {
    id: id(),
    machineId: uuid('machine_id')
      .notNull()
      .references(() => machines.id),
    position: smallint().notNull(),
    name: text().notNull(),
    /** offset, scale, length or turn. */
    kind: text({ enum: SETTING_KINDS }).notNull().default('offset'),
    /** Unit of value, step, min and max. */
    unit: text({ enum: SETTING_UNITS }).notNull(),
    step: doublePrecision().notNull(),
    min: doublePrecision(),
    max: doublePrecision(),
    /** How the machine shows it: signed, or sign and size apart. */
    display: text({ enum: VALUE_DISPLAYS }).notNull().default('signed'),
    /** Which way +1 moves, stretches or turns the cut. */
    direction: text({ enum: EFFECT_DIRECTIONS }).notNull(),
    /** Declared by somebody or seen in a push; else the direction stands for nothing yet. */
    directionKnown: boolean('direction_known').notNull().default(true),
    /** The place that a stretch or a turn leaves where it is. */
    anchorXMm: doublePrecision('anchor_x_mm').notNull().default(0),
    anchorYMm: doublePrecision('anchor_y_mm').notNull().default(0),
    /** Of a length setting: the commanded length that the typed one is compared with. */
    nominalMm: doublePrecision('nominal_mm'),
    /** Where the machine keeps its value: one for all media, or one for each. */
    kept: text({ enum: KEPT }).notNull().default('one'),
    /** The machine’s own words for it: where it is, which keys, in what state, what not to press first, what after. */
    words: jsonb().notNull().default({}),
    /** Taken off the machine; its history stays. */
    retiredAt: at('retired_at'),
  },
  (t) => [
    check(
      'machine_settings_unit',
      sql`(${t.kind} in ('offset', 'length') and ${t.unit} in ('mm', 'in')) or (${t.kind} = 'scale' and ${t.unit} in ('percent', 'permille', 'mm-per-m')) or (${t.kind} = 'turn' and ${t.unit} in ('degree', 'mm-per-m'))`,
    ),
    check('machine_settings_nominal', sql`${t.kind} <> 'length' or coalesce(${t.nominalMm}, 0) > 0`),
    check('machine_settings_step_positive', sql`${t.step} > 0`),
    check('machine_settings_range', sql`${t.min} is null or ${t.max} is null or ${t.min} < ${t.max}`),
    check('machine_settings_display', sql`${t.display} in ('signed', 'sign-and-size')`),
    check('machine_settings_kept', sql`${t.kept} in ('one', 'per-medium')`),
    check(
      'machine_settings_direction',
      sql`(${t.kind} = 'offset' and ${t.direction} in ('right', 'left', 'further', 'back')) or (${t.kind} in ('scale', 'length') and ${t.direction} in ('wider', 'narrower', 'longer', 'shorter')) or (${t.kind} = 'turn' and ${t.direction} in ('anticlockwise', 'clockwise'))`,
    ),
    uniqueIndex('machine_settings_position')
      .on(t.machineId, t.position)
      .where(sql`retired_at is null`),
  ],
);

/** What a cutter can have in its holder. */
export const tools = pgTable(
  'tools',
  {
    id: id(),
    machineId: uuid('machine_id')
      .notNull()
      .references(() => machines.id),
    name: text().notNull(),
    kind: text({ enum: TOOL_KINDS }).notNull(),
    holder: text().notNull().default(''),
    fittedAt: at('fitted_at').notNull(),
    /** How far it has cut, as somebody keeps count; null where nobody does. */
    metresRun: doublePrecision('metres_run'),
    retiredAt: at('retired_at'),
  },
  (t) => [
    check('tools_kind', sql`${t.kind} in ('knife', 'rotary', 'creaser', 'pen')`),
    check('tools_run', sql`${t.metresRun} is null or ${t.metresRun} >= 0`),
    index('tools_machine').on(t.machineId),
  ],
);

/** Mats that carry a sheet through a cutter. */
export const mats = pgTable(
  'mats',
  {
    id: id(),
    machineId: uuid('machine_id')
      .notNull()
      .references(() => machines.id),
    name: text().notNull(),
    grip: text({ enum: GRIPS }).notNull(),
    colour: text().notNull().default(''),
    widthMm: doublePrecision('width_mm').notNull(),
    heightMm: doublePrecision('height_mm').notNull(),
    wear: text({ enum: WEARS }).notNull(),
    retiredAt: at('retired_at'),
  },
  (t) => [
    check('mats_grip', sql`${t.grip} in ('light', 'standard', 'strong')`),
    check('mats_wear', sql`${t.wear} in ('fresh', 'used', 'worn')`),
    check('mats_size', sql`${t.widthMm} > 0 and ${t.heightMm} > 0`),
    index('mats_machine').on(t.machineId),
  ],
);
