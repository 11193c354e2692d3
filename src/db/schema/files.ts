import { boolean, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';

import { at, id } from './columns';
import { corrections } from './sessions';

/**
 * Contents of files that were made, each once, by its SHA-256. One that nobody asked for in a long time is let go
 * (`keepFiles.ts` says how long); what was made of it and when stays in the log.
 */
export const fileContents = pgTable('file_contents', {
  sha256: text().primaryKey(),
  content: text(),
  bytes: integer().notNull(),
  keptAt: at('kept_at').notNull(),
});

export const correctedFiles = pgTable(
  'corrected_files',
  {
    id: id(),
    correctionId: uuid('correction_id')
      .notNull()
      .references(() => corrections.id),
    fileName: text('file_name').notNull(),
    /** Whether the settings were typed too, so that the file undid only the rest. */
    restOnly: boolean('rest_only').notNull(),
    transform: jsonb().notNull(),
    report: jsonb().notNull(),
    sha256: text()
      .notNull()
      .references(() => fileContents.sha256),
    madeBy: text('made_by').notNull(),
    madeAt: at('made_at').notNull(),
  },
  (t) => [
    index('corrected_files_correction').on(t.correctionId, t.madeAt),
    index('corrected_files_content').on(t.sha256),
  ],
);
