import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';

import { refuse, type Outcome } from '@/core/outcome';
import { acts } from '@/db/schema';
import { inTransaction } from '@/db/transaction';

import type { Actor, Deps, UseCaseRefusal } from './deps';

/** The number that a browser or a script gives to something it wants kept; without one it gets one here. */
export const requestNumberSchema = z.uuid('A request number is a UUID.');

export interface Act {
  /** What is done, for the log: “print”, “close”. */
  readonly act: string;
  readonly subjectId?: string | undefined;
  readonly request?: string | undefined;
}

/**
 * The one way to keep something: one transaction, logged with who did it, and done once however often it is sent.
 * The second time the same number comes for the same act, subject and content, the first answer is given again; for
 * anything else it is refused.
 */
export function keep<T>(
  deps: Deps,
  actor: Actor,
  given: Act,
  work: (inner: Deps) => Promise<Outcome<T, UseCaseRefusal>>,
): Promise<Outcome<T, UseCaseRefusal>> {
  const { act, subjectId, request } = given;
  return inTransaction(deps.db, async (tx) => {
    const [row] = await tx
      .insert(acts)
      .values({
        request: request ?? crypto.randomUUID(),
        act,
        subjectId: subjectId ?? null,
        asked: deps.asked ?? null,
        sure: deps.sure ?? null,
        by: actor,
        at: deps.now(),
      })
      // Whoever sent the same number first is waited for here.
      .onConflictDoNothing()
      .returning({ request: acts.request });
    if (!row) return (await answeredBefore<T>({ ...deps, db: tx }, given))!;
    const outcome = await work({ ...deps, db: tx });
    if (outcome.ok && outcome.value !== null)
      await tx
        .update(acts)
        .set({ result: sql`${JSON.stringify(outcome.value)}::jsonb` })
        .where(eq(acts.request, row.request));
    return outcome;
  });
}

const USED_OTHERWISE = {
  code: 'stale',
  message: 'This request number was used for something else. Reload the page, then try again.',
} as const;

/** The answer that was given to a request number when it came first; null when it never came. */
export async function answeredBefore<T>(
  { db, asked }: Deps,
  { act, subjectId, request }: Act,
): Promise<Outcome<T, UseCaseRefusal> | null> {
  if (request === undefined) return null;
  const [before] = await db.select().from(acts).where(eq(acts.request, request));
  if (!before) return null;
  const same =
    before.act === act &&
    (subjectId === undefined || before.subjectId === subjectId) &&
    (before.asked === null || asked === undefined || before.asked === asked);
  return same ? { ok: true, value: before.result as T } : refuse(USED_OTHERWISE);
}
