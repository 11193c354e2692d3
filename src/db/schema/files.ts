import { sql } from 'drizzle-orm';
import { boolean, check, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';

import { FILE_WAYS } from '../../core/daily/vocabulary';

import { at, id } from './columns';
import { corrections } from './sessions';
import { setups } from './setups';
import { standingCorrections } from './standing';

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
    /** The calibration’s own correction, while a session is under way; null when it was made on any other day. */
    correctionId: uuid('correction_id').references(() => corrections.id),
    setupId: uuid('setup_id')
      .notNull()
      .references(() => setups.id),
    /** The standing correction that it carries; null while a session is under way. */
    standingId: uuid('standing_id').references(() => standingCorrections.id),
    /** Where the file lay on the sheet, and what settled that. */
    lies: jsonb(),
    /** By which door it came. */
    cameBy: text('came_by', { enum: FILE_WAYS }).notNull().default('page'),
    /** SHA-256 of the file as it came. */
    givenSha256: text('given_sha256'),
    fileName: text('file_name').notNull(),
    /** Whether the settings were typed too, so that the file undid only the rest. */
    restOnly: boolean('rest_only').notNull(),
    /** T of the file’s own axes; null when there was nothing to carry. */
    transform: jsonb(),
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
    index('corrected_files_setup').on(t.setupId, t.madeAt),
    index('corrected_files_made').on(t.madeAt),
    check('corrected_files_of_one', sql`(${t.correctionId} is null) <> (${t.standingId} is null)`),
  ],
);
