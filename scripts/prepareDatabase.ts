import { sql } from 'drizzle-orm';

import { closeDatabase, database } from '../src/db/client';
import { loadDemo } from '../src/server/demo';
import { migrateDatabase } from '../src/db/migrate';
import { rigs } from '../src/db/schema';

/** Migrates, and loads the demo once into an empty database. Flags: --no-demo, --reset. */
async function prepare(flags: readonly string[]): Promise<void> {
  const db = database();
  if (flags.includes('--reset')) {
    await db.execute(sql`drop schema if exists public cascade`);
    await db.execute(sql`drop schema if exists drizzle cascade`);
    await db.execute(sql`create schema public`);
  }
  await migrateDatabase();
  const empty = (await db.select({ id: rigs.id }).from(rigs).limit(1)).length === 0;
  if (empty && !flags.includes('--no-demo')) {
    console.log('red plumb  loading the demo: the print room of a small island ferry company');
    await loadDemo(db);
  }
}

prepare(process.argv.slice(2))
  .catch((error: unknown) => {
    console.error(
      `red plumb  the database could not be prepared: ${error instanceof Error ? error.message : String(error)}`,
    );
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
