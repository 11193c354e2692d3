import { and, desc, eq, sql } from 'drizzle-orm';

import type { FileWay } from '@/core/daily';
import { correctedFiles, media, rigs, setups } from '@/db/schema';
import type { Deps } from '@/server/base/deps';
import { holding } from '@/server/base/search';

export interface FileRow {
  readonly id: string;
  readonly fileName: string;
  readonly setupId: string;
  readonly rig: string;
  readonly media: string;
  /** Something was changed in it. */
  readonly changed: boolean;
  /** Made in a calibration, not from what stands. */
  readonly ofSession: boolean;
  readonly cameBy: FileWay;
  readonly by: string;
  readonly at: Date;
}

export interface FileFilter {
  /** Part of the name; empty for all. */
  readonly find: string;
  readonly setupId: string | null;
  /** From 1. */
  readonly page: number;
}

export const FILES_A_PAGE = 30;

/** One page of the corrected files, newest first, and how many there are. */
export async function listFiles(
  deps: Deps,
  { find, setupId, page }: FileFilter,
): Promise<{ readonly rows: FileRow[]; readonly total: number }> {
  const where = and(
    holding(find, correctedFiles.fileName),
    setupId === null ? undefined : eq(correctedFiles.setupId, setupId),
  );
  const [total, rows] = await Promise.all([
    deps.db.$count(correctedFiles, where),
    deps.db
      .select({
        id: correctedFiles.id,
        fileName: correctedFiles.fileName,
        setupId: correctedFiles.setupId,
        rig: rigs.name,
        media: media.name,
        changed: sql<boolean>`${correctedFiles.transform} is not null`,
        ofSession: sql<boolean>`${correctedFiles.correctionId} is not null`,
        cameBy: correctedFiles.cameBy,
        by: correctedFiles.madeBy,
        at: correctedFiles.madeAt,
      })
      .from(correctedFiles)
      .innerJoin(setups, eq(setups.id, correctedFiles.setupId))
      .innerJoin(rigs, eq(rigs.id, setups.rigId))
      .innerJoin(media, eq(media.id, setups.mediaId))
      .where(where)
      .orderBy(desc(correctedFiles.madeAt))
      .limit(FILES_A_PAGE)
      .offset((page - 1) * FILES_A_PAGE),
  ]);
  return { total, rows };
}

/** For which setups files were made last, newest first: one look into the index for each setup. */
export async function lastUsedSetups(deps: Deps): Promise<string[]> {
  const { rows } = await deps.db.execute<{ id: string }>(sql`
    select s.id from ${setups} s cross join lateral
      (select f.made_at from ${correctedFiles} f where f.setup_id = s.id order by f.made_at desc limit 1) last
    order by last.made_at desc limit 60`);
  return rows.map((r) => r.id);
}
