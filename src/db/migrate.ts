import { join } from 'node:path';

import { migrate } from 'drizzle-orm/node-postgres/migrator';

import { database } from './client';

/** Any number, the same in every process: who holds it migrates. */
const LOCK = 7_243_001;

/** Brings the database to the present schema; safe to run twice, and by two at once. */
export async function migrateDatabase(): Promise<void> {
  const db = database();
  const holder = await db.$client.connect();
  try {
    await holder.query('set statement_timeout = 0');
    await holder.query('select pg_advisory_lock($1)', [LOCK]);
    await migrate(db, { migrationsFolder: join(process.cwd(), 'src/db/migrations') });
  } finally {
    // Its session ends with it, and so does the lock.
    holder.release(true);
  }
}
