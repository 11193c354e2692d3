import { sql } from 'drizzle-orm';
import { check, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';

import { CHANGEABLE } from '@/core/setup';
import { at, id } from './columns';
import { machines } from './machines';

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
