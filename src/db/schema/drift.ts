import { sql } from 'drizzle-orm';
import { check, doublePrecision, index, jsonb, pgTable, text, uniqueIndex, uuid } from 'drizzle-orm/pg-core';

import { TAPED } from '@/core/setup';
import { at, id } from './columns';
import { setups } from './setups';

/** What a rig’s log said about its drift, kept with the readings’ fingerprint so that it is worked out once. */
export const driftEstimates = pgTable(
  'drift_estimates',
  {
    id: id(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    version: text().notNull(),
    fingerprint: text().notNull(),
    inputs: jsonb().notNull(),
    result: jsonb().notNull(),
    createdAt: at('created_at').notNull(),
  },
  (t) => [uniqueIndex('drift_estimates_of').on(t.setupId, t.version, t.fingerprint)],
);

/** A long distance measured by steel tape: whether the print itself has its true length. */
export const tapeMeasures = pgTable(
  'tape_measures',
  {
    id: id(),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    of: text({ enum: TAPED }).notNull(),
    nominalMm: doublePrecision('nominal_mm').notNull(),
    measuredMm: doublePrecision('measured_mm').notNull(),
    uMm: doublePrecision('u_mm').notNull(),
    enteredBy: text('entered_by').notNull(),
    enteredAt: at('entered_at').notNull(),
  },
  (t) => [
    check('tape_measures_of', sql`${t.of} in ('print', 'cut')`),
    check('tape_measures_lengths', sql`${t.nominalMm} > 0 and ${t.measuredMm} > 0 and ${t.uMm} > 0`),
    index('tape_measures_rig').on(t.setupId, t.enteredAt),
  ],
);
