import { and, asc, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm';

import { artworks, media, rigs, setups, sheetCuts, sheetJobPieces, sheetJobs } from '@/db/schema';
import { cutMade, jobFrozenAs, jobGeometry, jobRecipe } from '@/db/stored/sheetJobs';
import type { Deps } from '@/server/base/deps';
import { holding } from '@/server/base/search';
import type { JobFilter } from '@/server/runs/listRuns';

import { jobLabel, type SheetJob, type SheetJobRow } from './job';

export async function getJob(deps: Deps, id: string): Promise<SheetJob | null> {
  const [row] = await deps.db.select().from(sheetJobs).where(eq(sheetJobs.id, id));
  if (!row) return null;
  const cuts = await deps.db
    .select()
    .from(sheetCuts)
    .where(eq(sheetCuts.jobId, id))
    .orderBy(asc(sheetCuts.revision));
  const pieces = await deps.db
    .select({ piece: sheetJobPieces, widthPx: artworks.widthPx })
    .from(sheetJobPieces)
    .innerJoin(artworks, eq(artworks.sha256, sheetJobPieces.artSha256))
    .where(eq(sheetJobPieces.jobId, id))
    .orderBy(asc(sheetJobPieces.piece));
  return {
    id: row.id,
    number: row.number,
    label: jobLabel(row.number),
    name: row.name,
    setupId: row.setupId,
    stage: row.stage,
    discarded: row.discarded,
    pieces: pieces.map(({ piece: p, widthPx }) => ({
      id: p.piece,
      art: { sha256: p.artSha256, name: p.artName, widthPx },
      recipe: jobRecipe.read(p.recipe),
      lineOf: p.lineOf,
    })),
    geometry: jobGeometry.read(row.geometry),
    frozenAs: jobFrozenAs.orNull(row.frozenAs),
    startedBy: row.startedBy,
    startedAt: row.startedAt,
    frozenBy: row.frozenBy,
    frozenAt: row.frozenAt,
    closedAt: row.closedAt,
    version: row.version,
    cuts: cuts.map((c) => ({
      ...cutMade.read(c.made),
      revision: c.revision,
      by: c.madeBy,
      at: c.madeAt,
    })),
  };
}

/** The job that a number on a print belongs to. */
export async function jobOfNumber(deps: Deps, number: number): Promise<string | null> {
  const [row] = await deps.db
    .select({ id: sheetJobs.id })
    .from(sheetJobs)
    .where(eq(sheetJobs.number, number));
  return row?.id ?? null;
}

export async function artOf(deps: Deps, sha256: string): Promise<Buffer | null> {
  const [row] = await deps.db
    .select({ bytes: artworks.bytes })
    .from(artworks)
    .where(eq(artworks.sha256, sha256));
  return row?.bytes ?? null;
}

export const JOBS_A_PAGE = 12;

/** One page of sheet jobs, and how many there are. */
export async function listJobs(
  deps: Deps,
  { show, sort, page, find = '' }: JobFilter,
): Promise<{ readonly rows: SheetJobRow[]; readonly total: number }> {
  const where = and(
    show === 'open' ? and(isNull(sheetJobs.closedAt), eq(sheetJobs.discarded, false)) : undefined,
    show === 'closed' ? isNotNull(sheetJobs.closedAt) : undefined,
    holding(
      find,
      ...[sheetJobs.name, rigs.name, media.name, sheetJobs.startedBy],
      sql`'P' || lpad(${sheetJobs.number}::text, 4, '0')`,
    ),
  );
  const newest = desc(sheetJobs.startedAt);
  const order = {
    newest: [newest],
    spoiled: [newest],
    rig: [asc(rigs.name), newest],
    name: [asc(sheetJobs.name), newest],
  }[sort];
  const from = deps.db
    .select({
      id: sheetJobs.id,
      number: sheetJobs.number,
      name: sheetJobs.name,
      setupId: sheetJobs.setupId,
      rig: rigs.name,
      media: media.name,
      stage: sheetJobs.stage,
      discarded: sheetJobs.discarded,
      startedBy: sheetJobs.startedBy,
      startedAt: sheetJobs.startedAt,
      sheets: sql<number>`jsonb_array_length(${sheetJobs.geometry}->'sheets')`,
      copies: sql<number>`(select coalesce(sum(jsonb_array_length(s)), 0)::int from jsonb_array_elements(${sheetJobs.geometry}->'sheets') s)`,
      total: sql<number>`(count(*) over ())::int`,
    })
    .from(sheetJobs)
    .innerJoin(setups, eq(setups.id, sheetJobs.setupId))
    .innerJoin(rigs, eq(rigs.id, setups.rigId))
    .innerJoin(media, eq(media.id, setups.mediaId))
    .where(where);
  const rows = await from
    .orderBy(...order)
    .limit(JOBS_A_PAGE)
    .offset((page - 1) * JOBS_A_PAGE);
  return {
    total: rows[0]?.total ?? 0,
    rows: rows.map(({ number, ...row }) => ({ ...row, label: jobLabel(number) })),
  };
}
