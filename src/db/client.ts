import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';

import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema>;

let pool: Pool | undefined;

/** The pool is made at first use, so that a build needs no database. */
export function database(): Database {
  if (!pool) {
    const connectionString = process.env.DATABASE_URL;
    if (!connectionString) throw new Error('DATABASE_URL is not set; start Red Plumb with “npm start”.');
    pool = new Pool({ connectionString, max: 8, connectionTimeoutMillis: 4000 });
    // A database that goes away while a connection rests must not end the server.
    pool.on('error', () => undefined);
  }
  return drizzle(pool, { schema });
}

export async function closeDatabase(): Promise<void> {
  await pool?.end();
  pool = undefined;
}
