import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import type { NodePgQueryResultHKT } from 'drizzle-orm/node-postgres';
import type { PgDatabase } from 'drizzle-orm/pg-core';
import { Pool, type Client } from 'pg';

import { onePerProcess } from '@/process/onePerProcess';

import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema> & { readonly $client: Pool };

/** The database, or one transaction in it: what every query needs. */
export type Queryable = PgDatabase<NodePgQueryResultHKT, typeof schema>;

const CONNECT_MS = 4000;
/** A query that takes longer holds the others up; exports go through cursors and are not meant. */
const STATEMENT_MS = 30_000;

/** Made at first use, so that a build needs no database. */
const held = onePerProcess<{ pool?: Pool | undefined }>('database', () => ({}));

function made(): Pool {
  const connectionString = process.env.DATABASE_URL;
  if (!connectionString) throw new Error('DATABASE_URL is not set; start Red Plumb with “npm start”.');
  const pool = new Pool({
    connectionString,
    max: 8,
    connectionTimeoutMillis: CONNECT_MS,
    statement_timeout: STATEMENT_MS,
    idle_in_transaction_session_timeout: STATEMENT_MS,
    // Compiling a query takes longer than any of ours runs.
    options: '-c jit=off',
  });
  // A database that goes away while a connection rests must not end the server.
  pool.on('error', () => undefined);
  return pool;
}

/** The database, by the one pool that everything in this process shares. */
export const database = (): Database => drizzle((held.pool ??= made()), { schema });

/** The same by a connection of one's own. */
export const databaseOn = (client: Client): Queryable => drizzle(client, { schema });

export async function closeDatabase(): Promise<void> {
  await held.pool?.end();
  held.pool = undefined;
}
