import { eq, sql } from 'drizzle-orm';

import type { Usual } from '@/core/record/plausible';
import { foundTerms } from '@/db/schema';
import type { Deps } from '@/server/base/deps';

import type { Setup } from './setup';

/** Too few loads say nothing of what is usual. */
const LOADS_TO_TELL = 3;

/** What figures of a setup are judged by: what is allowed, and how far its loads on record were ever off. */
export async function usualOf(
  deps: Deps,
  { id, toleranceMm }: Pick<Setup, 'id' | 'toleranceMm'>,
): Promise<Usual> {
  const far = sql`greatest(abs(${foundTerms.shiftXMm}), abs(${foundTerms.shiftYMm}))`;
  const [row] = await deps.db
    .select({ loads: sql<number>`count(*)::int`, mm: sql<number | null>`max(${far})` })
    .from(foundTerms)
    .where(eq(foundTerms.setupId, id));
  return { allowedMm: toleranceMm, everMm: row && row.loads >= LOADS_TO_TELL ? row.mm : null };
}
