import { boolean, index, pgTable, text, uuid } from 'drizzle-orm/pg-core';

import { REMEDY_IDS } from '@/core/diagnosis';
import { at, id } from './columns';
import { setups } from './setups';

/** What was tried when a mark would not read, and whether it helped: the order of the next time follows from it. */
export const remediesTried = pgTable(
  'remedies_tried',
  {
    id: id(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    remedy: text({ enum: REMEDY_IDS }).notNull(),
    worked: boolean().notNull(),
    by: text().notNull(),
    at: at('at').notNull(),
    /** Pressed by mistake: it does not count. */
    takenBackAt: at('taken_back_at'),
  },
  (t) => [index('remedies_tried_setup').on(t.setupId)],
);
