import { index, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';

import { at } from './columns';

/**
 * Acts that kept something, each with the number that its browser or script gave it: sent twice, it is done once, and
 * the second answer is the first.
 */
export const acts = pgTable(
  'acts',
  {
    request: uuid().primaryKey(),
    act: text().notNull(),
    /** What it was done to: a session, a run, a rig; null for what was only being made. */
    subjectId: uuid('subject_id'),
    /** SHA-256 of what was asked for; null for acts of before it was kept, and of our own making. */
    asked: text(),
    /** Figures that were hardly meant: why each was asked about, and what was answered. */
    sure: jsonb(),
    by: text().notNull(),
    at: at('at').notNull(),
    /** What was answered. */
    result: jsonb(),
  },
  (t) => [index('acts_subject').on(t.subjectId, t.at), index('acts_at').on(t.at)],
);

/** What is so of the whole shop: whether its demo was loaded, when it was backed up last. */
export const shopFacts = pgTable('shop_facts', {
  name: text().primaryKey(),
  value: jsonb().notNull(),
  at: at('at').notNull(),
});
