import { sql } from 'drizzle-orm';
import { check, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';

import { CHANGEABLE, EVENT_KINDS } from '@/core/setup';
import { at, id } from './columns';
import { machines } from './machines';
import { setups } from './setups';

/** A printer and a cutter that work together; the same machine when it does both. */
export const rigs = pgTable(
  'rigs',
  {
    id: id(),
    name: text().notNull(),
    printerId: uuid('printer_id')
      .notNull()
      .references(() => machines.id),
    cutterId: uuid('cutter_id')
      .notNull()
      .references(() => machines.id),
    /** What can be changed to correct it. */
    changeable: text({ enum: CHANGEABLE }).notNull().default('settings-and-file'),
    /** How its cut files lie on the sheet; null while nobody told. */
    fileFrame: jsonb('file_frame'),
    /** Which events ask for a check, and after how many days without a cut; null for the usual. */
    checkAfter: jsonb('check_after'),
    version: integer().notNull().default(1),
    createdAt: at('created_at').notNull().defaultNow(),
  },
  (t) => [
    check(
      'rigs_changeable',
      sql`${t.changeable} in ('settings-and-file', 'settings', 'file', 'machine-page', 'nothing')`,
    ),
    check('rigs_names', sql`length(${t.name}) between 1 and 60`),
    index('rigs_cutter').on(t.cutterId),
  ],
);

export const events = pgTable(
  'events',
  {
    id: id(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    /** The setup that alone it concerns; null when it is the whole rig’s. */
    setupId: uuid('setup_id').references(() => setups.id),
    kind: text({ enum: EVENT_KINDS }).notNull(),
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

/** A rig got another setup: what was typed, and what it showed after. The newest tells what is on it now. */
export const changeOvers = pgTable(
  'change_overs',
  {
    id: id(),
    rigId: uuid('rig_id')
      .notNull()
      .references(() => rigs.id),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    /** From and to of each setting that was typed. */
    changes: jsonb().notNull(),
    by: text().notNull(),
    at: at('at').notNull(),
  },
  (t) => [index('change_overs_rig').on(t.rigId, t.at)],
);
