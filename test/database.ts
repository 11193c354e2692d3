import pg from 'pg';

import { closeDatabase, database } from '@/db/client';
import { migrateDatabase } from '@/db/migrate';
import type { Deps } from '@/server/deps';

/** A migrated database of its own for one test file, beside the one that DATABASE_URL names. */
export async function freshDeps(name: string): Promise<Deps & { close: () => Promise<void> }> {
  const given = process.env.DATABASE_URL;
  if (!given) throw new Error('DATABASE_URL is not set: run these tests with “npm test”.');
  const own = `red_plumb_jest_${name}`;
  const admin = new pg.Client({ connectionString: given });
  await admin.connect();
  await admin.query(`drop database if exists ${own} with (force)`);
  await admin.query(`create database ${own}`);
  await admin.end();
  process.env.DATABASE_URL = Object.assign(new URL(given), { pathname: `/${own}` }).href;
  await migrateDatabase();
  let seconds = 0;
  return {
    db: database(),
    now: () => new Date(Date.UTC(2026, 10, 2, 8, 0, (seconds += 1))),
    origin: 'http://127.0.0.1:3000',
    close: async () => {
      await closeDatabase();
      process.env.DATABASE_URL = given;
    },
  };
}
