import { eq } from 'drizzle-orm';

import { accept, refuse, type Outcome } from '@/core/outcome';
import { setups } from '@/db/schema';
import type { Deps, UseCaseRefusal } from '@/server/base/deps';

/**
 * Holds a setup for the length of a transaction that begins something on it, so that nobody takes it off the bench
 * meanwhile. Refuses one that is put away already.
 */
export async function holdSetup(inner: Deps, setupId: string): Promise<Outcome<null, UseCaseRefusal>> {
  const [row] = await inner.db
    .select({ archivedAt: setups.archivedAt })
    .from(setups)
    .where(eq(setups.id, setupId))
    .for('share');
  if (!row) return refuse({ code: 'not-found', what: 'setup' });
  return row.archivedAt === null
    ? accept(null)
    : refuse({
        code: 'refused',
        message: 'This setup is put away. Put it back first, on its own page.',
      });
}
