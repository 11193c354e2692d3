import { boolean, doublePrecision, index, jsonb, pgTable, smallint, uuid } from 'drizzle-orm/pg-core';

import { at } from './columns';
import { passes, sessions } from './sessions';
import { setups } from './setups';

/**
 * The six terms that a read set of combs found, as its newest fit has them: what charts, watch and bench look through,
 * a short row a load. Fits keep the whole working.
 */
export const foundTerms = pgTable(
  'found_terms',
  {
    passId: uuid('pass_id')
      .primaryKey()
      .references(() => passes.id),
    sessionId: uuid('session_id')
      .notNull()
      .references(() => sessions.id),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    position: smallint().notNull(),
    at: at('at').notNull(),
    /** Only the shift was told. */
    shiftOnly: boolean('shift_only').notNull(),
    shiftXMm: doublePrecision('shift_x_mm').notNull(),
    shiftYMm: doublePrecision('shift_y_mm').notNull(),
    turnRad: doublePrecision('turn_rad').notNull(),
    scaleAcross: doublePrecision('scale_across').notNull(),
    scaleAlong: doublePrecision('scale_along').notNull(),
    leanRad: doublePrecision('lean_rad').notNull(),
    /** What its cut file undid in the middle of the work area. */
    fileXMm: doublePrecision('file_x_mm').notNull(),
    fileYMm: doublePrecision('file_y_mm').notNull(),
    /** What the machine's settings showed. */
    shown: jsonb().notNull(),
    /** Over which it was found. */
    workArea: jsonb('work_area').notNull(),
  },
  (t) => [index('found_terms_setup').on(t.setupId, t.at)],
);
