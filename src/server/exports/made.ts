import { pipeline, Readable } from 'node:stream';
import { createGzip } from 'node:zlib';

import pg from 'pg';

import { databaseOn } from '@/db/client';
import { EXPORT_CONNECTION } from '@/db/closed';
import { shopLines } from '@/server/backup/shopArchive';
import type { Deps } from '@/server/base/deps';
import { csvOfLog, documentOfLog } from '@/server/logbook/exportLog';

/** What can be had of the whole log at once. */
const EXPORTS = {
  csv: (client: pg.Client, now: Date) => ofOneMoment(client, csvOfLog(depsOn(client, now))),
  json: (client: pg.Client, now: Date) => ofOneMoment(client, documentOfLog(depsOn(client, now))),
  shop: (client: pg.Client, now: Date) => shopLines(client, now),
} as const;

export type ExportKind = keyof typeof EXPORTS;
export const isExport = (kind: string): kind is ExportKind => kind in EXPORTS;

const depsOn = (client: pg.Client, now: Date): Deps => ({
  ...{ db: databaseOn(client), now: () => now, origin: '' },
});

/** Chunks that are read in one transaction: what is entered meanwhile is in none of them. */
async function* ofOneMoment(client: pg.Client, chunks: AsyncGenerator<string, void, undefined>) {
  await client.query('begin isolation level repeatable read read only');
  try {
    yield* chunks;
  } finally {
    await client.query('rollback').catch(() => undefined);
  }
}

/**
 * An export of this moment as a stream of bytes (the shop’s archive packed), on a connection of its own that `end` gives back.
 * Throws   when the database does not answer.
 */
export async function exported(
  kind: ExportKind,
  now: Date,
): Promise<{ readonly stream: Readable; readonly end: () => Promise<void> }> {
  const client = new pg.Client({
    connectionString: process.env.DATABASE_URL,
    connectionTimeoutMillis: 4000,
    application_name: EXPORT_CONNECTION,
  });
  // A database that goes away ends the export, not whoever makes it.
  client.on('error', () => undefined);
  await client.connect();
  const plain = Readable.from(EXPORTS[kind](client, now), { objectMode: false });
  const stream = kind === 'shop' ? pipeline(plain, createGzip(), () => undefined) : plain;
  return { stream, end: () => client.end().catch(() => undefined) };
}
