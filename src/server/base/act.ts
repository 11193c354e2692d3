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
 * The second time the same number comes, the first answer is given again.
 */
export function keep<T>(
  deps: Deps,
  actor: Actor,
  { act, subjectId, request }: Act,
  work: (inner: Deps) => Promise<Outcome<T, UseCaseRefusal>>,
): Promise<Outcome<T, UseCaseRefusal>> {
  return inTransaction(deps.db, async (tx) => {
    const [row] = await tx
      .insert(acts)
      .values({
        request: request ?? crypto.randomUUID(),
        act,
        subjectId: subjectId ?? null,
        by: actor,
        at: deps.now(),
      })
      // Whoever sent the same number first is waited for here.
      .onConflictDoNothing()
      .returning({ request: acts.request });
    if (!row) return answeredBefore<T>(tx, act, request!);
    const outcome = await work({ ...deps, db: tx });
    if (outcome.ok && outcome.value !== null)
      await tx
        .update(acts)
        .set({ result: sql`${JSON.stringify(outcome.value)}::jsonb` })
        .where(eq(acts.request, row.request));
    return outcome;
  });
}

/** The answer that was given to a request number when it came first. */
export async function answeredBefore<T>(
  tx: Deps['db'],
  act: string,
  request: string,
): Promise<Outcome<T, UseCaseRefusal>> {
  const [before] = await tx.select().from(acts).where(eq(acts.request, request));
  if (before?.act === act) return { ok: true, value: before.result as T };
  return refuse({
    code: 'stale',
    message: 'This request number was used for something else. Reload the page, then try again.',
  });
}
