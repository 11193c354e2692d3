import { and, eq, isNull, sql } from 'drizzle-orm';

import { accept, type Outcome, refuse } from '@/core/outcome';
import { rigs, runs, sessions } from '@/db/schema';
import { keep } from '@/server/base/act';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';

import { isTaken } from './writeRig';

/** Takes a rig off the bench, or puts it back: its log stays. Nothing may be open on it. */
export async function archiveRig(
  deps: Deps,
  actor: Actor,
  rigId: string,
  archived: boolean,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  try {
    const act = archived ? 'archive rig' : 'put rig back';
    return await keep(deps, actor, { act, subjectId: rigId, request }, async (inner) => {
      await inner.db.select({ id: rigs.id }).from(rigs).where(eq(rigs.id, rigId)).for('update');
      const open = archived ? await openOn(inner, rigId) : null;
      if (open) return refuse({ code: 'refused', message: `${open} Close it first.` });
      const done = await inner.db
        .update(rigs)
        .set({ archivedAt: archived ? deps.now() : null, version: sql`${rigs.version} + 1` })
        .where(eq(rigs.id, rigId))
        .returning({ id: rigs.id });
      return done.length > 0 ? accept(null) : refuse({ code: 'not-found', what: 'rig' });
    });
  } catch (error) {
    if (isTaken(error))
      return refuse({
        code: 'refused',
        message: 'Another rig took this name and media in the meantime. Rename that one first.',
      });
    throw error;
  }
}

/** What is still open on a rig, in words; null when nothing is. */
async function openOn(deps: Deps, rigId: string): Promise<string | null> {
  const [session] = await deps.db
    .select({ number: sessions.number })
    .from(sessions)
    .where(and(eq(sessions.rigId, rigId), isNull(sessions.closedAt)))
    .limit(1);
  if (session) return `Session ${session.number} of this rig is still open.`;
  const [run] = await deps.db
    .select({ name: runs.name })
    .from(runs)
    .where(and(eq(runs.rigId, rigId), isNull(runs.closedAt)))
    .limit(1);
  return run ? `The run “${run.name}” of this rig is still open.` : null;
}
