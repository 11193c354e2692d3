import { once } from 'node:events';
import { pipeline, Readable } from 'node:stream';
import { createGzip } from 'node:zlib';

import pg from 'pg';

import { TooBusy } from '@/server/base/failure';

import { shopLines } from './shopArchive';

let busy = false;

/**
 * The packed archive of this moment, made as it is taken, on a connection of its own; when nobody takes it any more, nothing
 * goes on. One at a time.
 * Throws   TooBusy while another is being taken.
 */
export async function shopStream(now: Date): Promise<ReadableStream<Uint8Array>> {
  if (busy) throw new TooBusy();
  busy = true;
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  try {
    await client.connect();
  } catch (error) {
    busy = false;
    throw error;
  }
  // A database that goes away ends the archive, not the server.
  client.on('error', () => undefined);
  const packed = pipeline(Readable.from(shopLines(client, now)), createGzip(), () => undefined);
  void once(packed, 'close')
    .catch(() => undefined)
    .finally(() => {
      busy = false;
      return client.end().catch(() => undefined);
    });
  return Readable.toWeb(packed) as ReadableStream<Uint8Array>;
}
