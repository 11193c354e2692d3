import { createHash } from 'node:crypto';

import { eq, sql } from 'drizzle-orm';

import { accept, refuse } from '@/core/outcome';
import { correctedFiles, fileContents } from '@/db/schema';
import { fileLies, fileReport, fileTransform } from '@/db/stored/files';

import type { Deps } from '@/server/base/deps';

/*
 * Contents of the files that were made, each kept once under its SHA-256.
 */

/** How long a content is kept after it was made or asked for last. Files of runs that are not closed are kept longer. */
export const KEEP_FILES_DAYS = 400;

/** Keeps a content once; returns the name it is found by. */
export async function keepContent(deps: Deps, content: string): Promise<string> {
  const sha256 = createHash('sha256').update(content, 'utf8').digest('hex');
  const bytes = Buffer.byteLength(content, 'utf8');
  await deps.db
    .insert(fileContents)
    .values({ sha256, content, bytes, keptAt: deps.now() })
    .onConflictDoUpdate({
      target: fileContents.sha256,
      // One that was let go and is made again is there again.
      set: { keptAt: deps.now(), content: sql`coalesce(${fileContents.content}, excluded.content)` },
    });
  return sha256;
}

/** A kept content, or null when its keeping time is over. */
export async function contentOf(deps: Deps, sha256: string): Promise<string | null> {
  const [row] = await deps.db
    .select({ content: fileContents.content })
    .from(fileContents)
    .where(eq(fileContents.sha256, sha256));
  return row?.content ?? null;
}

/** A corrected file as it was answered with when it was made; words where its keeping time is over. */
export async function fileOfThen(deps: Deps, fileId: string) {
  const [row] = await deps.db.select().from(correctedFiles).where(eq(correctedFiles.id, fileId));
  const content = row && (await contentOf(deps, row.sha256));
  if (!row || content === null || content === undefined)
    return refuse(
      `This was made and answered before, and the file itself is not kept any more (${KEEP_FILES_DAYS} days). Send it under a new number.`,
    );
  return accept({
    content,
    fileName: row.fileName,
    setupId: row.setupId,
    report: fileReport.read(row.report),
    lies: fileLies.orNull(row.lies),
    transform: fileTransform.orNull(row.transform),
  });
}

/** Lets contents go whose keeping time is over; what they were made of, when and by whom stays. Returns how many. */
export async function letFilesGo(deps: Deps): Promise<number> {
  const before = new Date(deps.now().getTime() - KEEP_FILES_DAYS * 24 * 3600 * 1000);
  const gone = await deps.db.execute(sql`
    update file_contents c set content = null
    where c.content is not null and c.kept_at < ${before.toISOString()}
      and not exists (select 1 from run_files f join runs r on r.id = f.run_id
                      where f.sha256 = c.sha256 and r.closed_at is null)`);
  return gone.rowCount ?? 0;
}
