import { join } from 'node:path';

import { migrate } from 'drizzle-orm/node-postgres/migrator';

import { database } from './client';

/** Brings the database to the present schema; safe to run twice. */
export const migrateDatabase = (): Promise<void> =>
  migrate(database(), { migrationsFolder: join(process.cwd(), 'src/db/migrations') });
