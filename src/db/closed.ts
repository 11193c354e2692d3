import { sql } from 'drizzle-orm';
import type { ClientBase } from 'pg';

import type { Queryable } from './client';

/*
 * The shop is closed to writing while it is copied and another is put in its place. Whoever writes holds the door open for the
 * length of a transaction; whoever closes it waits for them, and the others are told at once.
 */

/** Any number, the same in every process: who holds it alone has closed the shop. */
export const DOOR = 7_243_002;

export const CLOSED_WORDS = 'the shop is being restored from a backup. Try again in a minute.';

export class ShopClosed extends Error {
  constructor() {
    super('the shop is closed to writing');
    this.name = 'ShopClosed';
  }
}

/** Holds the door open for the transaction that begins to write. Throws ShopClosed while it is shut. */
export async function holdOpen(tx: Queryable): Promise<void> {
  const { rows } = await tx.execute<{ open: boolean }>(
    sql`select pg_try_advisory_xact_lock_shared(${DOOR}) as open`,
  );
  if (!rows[0]!.open) throw new ShopClosed();
}

/** Whether the shop is closed to writing now. */
export async function isClosed(db: Queryable): Promise<boolean> {
  const { rows } = await db.execute<{ shut: boolean }>(
    sql`select exists (select 1 from pg_locks where locktype = 'advisory' and objid = ${DOOR} and mode = 'ExclusiveLock') as shut`,
  );
  return rows[0]!.shut;
}

/** What connections that read the whole log for somebody are called: they hold its tables for as long as it is taken. */
export const EXPORT_CONNECTION = 'red-plumb-export';

/**
 * Closes the shop once everybody who is writing has ended, works, and opens it again. Whoever is fetching the whole log is
 * broken off: nothing waits for a slow taker, neither the work nor the pages that would queue behind it.
 */
export async function whileClosed<T>(client: ClientBase, work: () => Promise<T>): Promise<T> {
  await client.query('set statement_timeout = 0');
  await client.query('select pg_advisory_lock($1)', [DOOR]);
  try {
    await client.query(
      'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and application_name = $1',
      [EXPORT_CONNECTION],
    );
    return await work();
  } finally {
    await client.query('select pg_advisory_unlock($1)', [DOOR]);
  }
}
