import { index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';

import type { PagePick } from '@/core/setup';

import { at, id } from './columns';
import { setups } from './setups';

/** Runs of a machine's own calibration: what was picked on its page, as its lines are labelled. */
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
    across: jsonb().$type<PagePick>().notNull(),
    along: jsonb().$type<PagePick>().notNull(),
    /** What the machine said at the end. */
    answer: text().notNull().default(''),
    by: text().notNull(),
    at: at('at').notNull(),
    /** Entered by mistake: it stays in the log. */
    takenBackAt: at('taken_back_at'),
  },
  (t) => [index('own_pages_setup').on(t.setupId, t.at)],
);
