import { EVENT_KINDS } from '@/core/setup/vocabulary';
import { sql } from 'drizzle-orm';
import { pgTable, uuid, text, check, index, jsonb } from 'drizzle-orm/pg-core';
import { id, at } from './columns';
import { rigs } from './rigs';
import { setups } from './setups';

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
