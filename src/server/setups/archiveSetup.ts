import { and, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { setups, runs, sessions } from '@/db/schema';
import type { Deps, Done } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';
import { useCase } from '@/server/base/useCase';

const TAKEN = {
  code: 'refused',
  message: 'Another setup of this rig has this medium and size by now. Tell the two apart by a word first.',
} as const;

/** Takes a rig off the bench, or puts it back: its log stays. Nothing may be open on it. */
export const archiveSetup = useCase(
  z.object({ setupId: idSchema, archived: z.boolean() }),
  { act: 'archive rig', about: 'setupId', taken: TAKEN },
  async (inner, { setupId, archived }): Done => {
    await inner.db.select({ id: setups.id }).from(setups).where(eq(setups.id, setupId)).for('update');
    const open = archived ? await openOn(inner, setupId) : null;
    if (open) return refuse({ code: 'refused', message: `${open} Close it first.` });
    const done = await inner.db
      .update(setups)
      .set({ archivedAt: archived ? inner.now() : null, version: sql`${setups.version} + 1` })
      .where(eq(setups.id, setupId))
      .returning({ id: setups.id });
    return done.length > 0 ? accept(null) : refuse({ code: 'not-found', what: 'rig' });
  },
);

/** What is still open on a rig, in words; null when nothing is. */
async function openOn(deps: Deps, setupId: string): Promise<string | null> {
  const [session] = await deps.db
    .select({ number: sessions.number })
    .from(sessions)
    .where(and(eq(sessions.setupId, setupId), isNull(sessions.closedAt)))
    .limit(1);
  if (session) return `Session ${session.number} of this rig is still open.`;
  const [run] = await deps.db
    .select({ name: runs.name })
    .from(runs)
    .where(and(eq(runs.setupId, setupId), isNull(runs.closedAt)))
    .limit(1);
  return run ? `The run “${run.name}” of this rig is still open.` : null;
}
