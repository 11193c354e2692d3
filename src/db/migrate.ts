import { readFileSync } from 'node:fs';
import { join } from 'node:path';

import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import type { ClientBase } from 'pg';

import { database } from './client';

/** Any number, the same in every process: who holds it migrates. */
const LOCK = 7_243_001;
const FOLDER = join(process.cwd(), 'src/db/migrations');

/** Brings the database to the present schema; safe to run twice, and by two at once. On one connection, however long it takes. */
export async function migrateDatabase(): Promise<void> {
  const holder = await database().$client.connect();
  try {
    await holder.query('set statement_timeout = 0');
    await holder.query('set idle_in_transaction_session_timeout = 0');
    await holder.query('select pg_advisory_lock($1)', [LOCK]);
    const [ran, known] = [await migrationsRun(holder), migrationsKnown()];
    if (ran > known)
      throw new Error(
        `this database was brought to a newer version (${ran} steps) than this program knows (${known}). Start the newer Red Plumb, or restore a backup of before`,
      );
    await migrate(drizzle(holder), { migrationsFolder: FOLDER });
  } finally {
    // Its session ends with it, and so does the lock.
    holder.release(true);
  }
}

/** How many migrations a database has seen; 0 of a new one. */
export async function migrationsRun(client: ClientBase): Promise<number> {
  const there = await client.query<{ there: boolean }>(
    `select to_regclass('drizzle.__drizzle_migrations') is not null as there`,
  );
  if (!there.rows[0]!.there) return 0;
  const ran = await client.query<{ n: number }>(
    'select count(*)::int as n from drizzle.__drizzle_migrations',
  );
  return ran.rows[0]!.n;
}

/** How many this program knows. */
export function migrationsKnown(): number {
  const journal = JSON.parse(readFileSync(join(FOLDER, 'meta/_journal.json'), 'utf8')) as {
    readonly entries: readonly unknown[];
  };
  return journal.entries.length;
}
