import type { Outcome } from '@/core/outcome';

import type { Queryable } from './client';
import { holdOpen } from './closed';

/** The database went away while it was asked to keep something: nobody knows whether it did. */
export class OutcomeUnknown extends Error {
  constructor(cause: unknown) {
    super('the connection was lost while the transaction was being committed', { cause });
    this.name = 'OutcomeUnknown';
  }
}

class RolledBack extends Error {
  constructor(readonly outcome: Outcome<never, unknown>) {
    super('rolled back');
  }
}

/** A unique index of the table says no. */
export const isTaken = (error: unknown): boolean => sqlState(error) === '23505';

/**
 * Runs work in one transaction. A refusal takes back everything that was written on the way to it.
 * Throws   OutcomeUnknown when the commit itself got no answer.
 */
export async function inTransaction<T, R>(
  db: Queryable,
  work: (tx: Queryable) => Promise<Outcome<T, R>>,
): Promise<Outcome<T, R>> {
  let committing = false;
  try {
    return await db.transaction(async (tx) => {
      await holdOpen(tx);
      const outcome = await work(tx);
      if (!outcome.ok) throw new RolledBack(outcome);
      committing = true;
      return outcome;
    });
  } catch (error) {
    if (error instanceof RolledBack) return error.outcome as Outcome<T, R>;
    // A constraint that is checked at the commit has an answer; a lost connection has none.
    if (committing && !sqlState(error)) throw new OutcomeUnknown(error);
    throw error;
  }
}

/**
 * Something kept by one statement, which is its own transaction.
 * Throws   OutcomeUnknown when it was sent and got no answer.
 */
export async function asOneStatement<T>(work: Promise<T>): Promise<T> {
  try {
    return await work;
  } catch (error) {
    if (sqlState(error) || neverSent(error)) throw error;
    throw new OutcomeUnknown(error);
  }
}

const neverSent = (error: unknown): boolean => codesOf(error).includes('ECONNREFUSED');

/** The five characters PostgreSQL gives an error, wherever a driver wrapped it; null for any other error. */
export function sqlState(error: unknown): string | null {
  return codesOf(error).find((code) => /^[0-9A-Z]{5}$/.test(code) && !code.startsWith('E')) ?? null;
}

function codesOf(error: unknown): readonly string[] {
  const codes: string[] = [];
  for (let e: unknown = error; e instanceof Error; e = e.cause) {
    const { code } = e as { code?: unknown };
    if (typeof code === 'string') codes.push(code);
  }
  return codes;
}
