import { sql } from 'drizzle-orm';
import { check, doublePrecision, index, jsonb, pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';

import { STANDING_SOURCES } from '@/core/setup';
import { at, id } from './columns';
import { corrections, sessions } from './sessions';
import { setups } from './setups';

/** What a setup’s settings shall show and what its cut files carry from day to day; earlier ones are kept. */
export const standingCorrections = pgTable(
  'standing_corrections',
  {
    id: id(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    /** The value that each setting shall show, by its id. */
    settings: jsonb().notNull(),
    /** T that cut files undo; null for files as drawn. */
    fileTransform: jsonb('file_transform'),
    /** Where it came from: found so, proved, accepted without a proof, or an earlier one taken back. */
    source: text({ enum: STANDING_SOURCES }).notNull(),
    sessionId: uuid('session_id').references(() => sessions.id),
    correctionId: uuid('correction_id').references(() => corrections.id),
    /** Expected radius of 95 of 100 cuts when it was made; null when nothing was proved then. */
    r95Mm: doublePrecision('r95_mm'),
    by: text().notNull(),
    since: at('since').notNull(),
    replacedAt: at('replaced_at'),
  },
  (t) => [
    check('standing_source', sql`${t.source} in ('as-found', 'proved', 'accepted', 'taken-back')`),
    uniqueIndex('standing_current')
      .on(t.setupId)
      .where(sql`replaced_at is null`),
    index('standing_setup').on(t.setupId, t.since),
  ],
);
