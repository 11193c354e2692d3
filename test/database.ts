import pg from 'pg';

import { closeDatabase, database } from '@/db/client';
import type { Deps } from '@/server/base/deps';

/** Made and migrated once for all test files (`scripts/prepareTemplate.ts`); each gets a copy of its own. */
export const TEMPLATE = 'red_plumb_jest_template';

export const givenAddress = (): string => {
  const given = process.env.DATABASE_URL;
  if (!given) throw new Error('DATABASE_URL is not set: run these tests with “npm test”.');
  return given;
};

export const addressOf = (name: string): string =>
  Object.assign(new URL(givenAddress()), { pathname: `/${name}` }).href;

/** Runs statements as nobody's transaction: `create database` takes no other way. */
export async function asAdmin(...statements: readonly string[]): Promise<void> {
  const admin = new pg.Client({ connectionString: givenAddress() });
  await admin.connect();
  try {
    for (const statement of statements) await admin.query(statement);
  } finally {
    await admin.end();
  }
}

/** A migrated database of its own for one test file, beside the one that DATABASE_URL names. */
export async function freshDeps(name: string): Promise<Deps & { close: () => Promise<void> }> {
  const given = givenAddress();
  const own = `red_plumb_jest_${name}`;
  await asAdmin(`drop database if exists ${own} with (force)`, `create database ${own} template ${TEMPLATE}`);
  process.env.DATABASE_URL = addressOf(own);
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
