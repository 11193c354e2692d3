import { sql } from 'drizzle-orm';
import { check, doublePrecision, index, pgTable, text, uuid } from 'drizzle-orm/pg-core';

import { at, id } from './columns';
import { setups } from './setups';

/** Runs of a machine's own calibration: what was picked on its page, in its own numbers. */
export const ownPages = pgTable(
  'own_pages',
  {
    id: id(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    /** What it printed its page on. */
    medium: text().notNull(),
    /** What its coarse step was answered with; empty when it has none. */
    coarse: text().notNull().default(''),
    across: doublePrecision().notNull(),
    along: doublePrecision().notNull(),
    lowest: doublePrecision().notNull(),
    highest: doublePrecision().notNull(),
    /** What the machine said at the end. */
    answer: text().notNull().default(''),
    by: text().notNull(),
    at: at('at').notNull(),
    /** Entered by mistake: it stays in the log. */
    takenBackAt: at('taken_back_at'),
  },
  (t) => [
    check('own_pages_range', sql`${t.lowest} < ${t.highest}`),
    check(
      'own_pages_within',
      sql`${t.across} between ${t.lowest} and ${t.highest} and ${t.along} between ${t.lowest} and ${t.highest}`,
    ),
    index('own_pages_setup').on(t.setupId, t.at),
  ],
);
