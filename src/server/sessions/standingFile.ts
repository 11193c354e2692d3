import { and, desc, eq, isNotNull, ne } from 'drizzle-orm';

import type { Affine } from '@/core/geometry';
import { corrections, fits, passes, sessions } from '@/db/schema';

import type { Deps } from '@/server/base/deps';
import { toCorrection } from './loadSession';
import { fileTransformOf } from './session';

/**
 * T that this rig's cut files undo from day to day: the file's part of the correction that was carried out last, in a
 * calibration that is closed. Null when the settings do it all, or when nothing was ever corrected.
 */
export async function standingFile(deps: Deps, rigId: string): Promise<Affine | null> {
  const [row] = await deps.db
    .select({ correction: corrections })
    .from(corrections)
    .innerJoin(fits, eq(fits.id, corrections.fitId))
    .innerJoin(passes, eq(passes.id, fits.passId))
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .where(
      and(
        eq(sessions.rigId, rigId),
        eq(sessions.discarded, false),
        isNotNull(sessions.closedAt),
        isNotNull(corrections.done),
        ne(corrections.done, 'leave'),
      ),
    )
    .orderBy(desc(corrections.doneAt))
    .limit(1);
  if (!row) return null;
  const correction = toCorrection(row.correction);
  return correction.done === null || correction.done === 'leave'
    ? null
    : fileTransformOf(correction, correction.done);
}
