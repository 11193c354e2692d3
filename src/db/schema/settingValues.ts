import { pgTable, uuid, doublePrecision, text, unique, index } from 'drizzle-orm/pg-core';
import { id, at } from './columns';
import { machineSettings } from './machines';
import { media, setups } from './setups';
import { corrections } from './sessions';

/** What a setting shows on its machine now; of one that is kept per medium, what it shows for that medium. */
export const settingValues = pgTable(
  'setting_values',
  {
    id: id(),
    settingId: uuid('setting_id')
      .notNull()
      .references(() => machineSettings.id),
    /** Null where the machine keeps one for all. */
    mediaId: uuid('media_id').references(() => media.id),
    value: doublePrecision().notNull(),
    since: at('since').notNull(),
    by: text().notNull(),
  },
  (t) => [unique('setting_values_of').on(t.settingId, t.mediaId).nullsNotDistinct()],
);

/** Every value that was ever typed. */
export const settingChanges = pgTable(
  'setting_changes',
  {
    id: id(),
    settingId: uuid('setting_id')
      .notNull()
      .references(() => machineSettings.id),
    /** The setup that it was typed for; null when it was the machine’s own. */
    setupId: uuid('setup_id').references(() => setups.id),
    fromValue: doublePrecision('from_value'),
    toValue: doublePrecision('to_value').notNull(),
    reason: text().notNull(),
    correctionId: uuid('correction_id').references(() => corrections.id),
    changedBy: text('changed_by').notNull(),
    changedAt: at('changed_at').notNull(),
  },
  (t) => [
    index('setting_changes_setting').on(t.settingId, t.changedAt),
    index('setting_changes_correction').on(t.correctionId),
  ],
);
