import { pipeline, Readable } from 'node:stream';
import { createGzip } from 'node:zlib';

import { database } from '@/db/client';

import { shopLines } from './shopArchive';

/** The packed archive of this moment, made as it is taken; when nobody takes it any more, nothing goes on. */
export async function shopStream(now: Date): Promise<ReadableStream<Uint8Array>> {
  const client = await database().$client.connect();
  const packed = pipeline(Readable.from(shopLines(client, now)), createGzip(), () => client.release(true));
  return Readable.toWeb(packed) as ReadableStream<Uint8Array>;
}
