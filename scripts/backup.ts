import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { createInterface } from 'node:readline';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';

import pg from 'pg';

import { closeDatabase } from '../src/db/client';
import { migrateDatabase } from '../src/db/migrate';
import { ArchiveRefused, restoreShop, shopLines } from '../src/server/backup/shopArchive';

/*
 * backup [FILE] · backup --daily · restore FILE. Run through `npm run backup` and `npm run restore`, which find the
 * database.
 */

const FOLDER = resolve(process.env.RED_PLUMB_BACKUPS ?? join('.local', 'backups'));
const KEEP_DAYS = 14;
const DAY_MS = 24 * 3600 * 1000;
const DAILY = /^daily-\d{4}-\d\d-\d\d\.ndjson\.gz$/;

const dayOf = (at: Date): string => at.toISOString().slice(0, 10);

async function withClient<T>(work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** Written beside and then moved into place: a backup that was cut off never looks like one. */
async function backup(file: string): Promise<void> {
  mkdirSync(dirname(file), { recursive: true });
  const unfinished = `${file}.unfinished`;
  await withClient((client) =>
    pipeline(
      Readable.from(shopLines(client, new Date())),
      createGzip(),
      createWriteStream(unfinished, { mode: 0o600 }),
    ),
  );
  renameSync(unfinished, file);
  console.log(`red plumb  backed up into ${file} (${Math.ceil(statSync(file).size / 1024)} KB)`);
}

/** One a day, the last of fourteen days kept; nothing else in the folder is touched. */
async function daily(): Promise<void> {
  const file = join(FOLDER, `daily-${dayOf(new Date())}.ndjson.gz`);
  if (!existsSync(file)) await backup(file);
  const oldest = `daily-${dayOf(new Date(Date.now() - KEEP_DAYS * DAY_MS))}`;
  for (const name of readdirSync(FOLDER)) if (DAILY.test(name) && name < oldest) rmSync(join(FOLDER, name));
}

/** The lines of an archive. The file is opened when the first is asked for: a line that nobody waits for yet is lost. */
async function* linesOf(file: string): AsyncGenerator<string> {
  const unpacked = createReadStream(file).pipe(createGunzip());
  yield* createInterface({ input: unpacked, crlfDelay: Infinity });
}

/** The one failure after which something has changed. */
class RestoredOnly extends Error {}

async function restore(file: string): Promise<void> {
  // What is there now is not lost by it.
  const before = join(FOLDER, `before-restore-${new Date().toISOString().replace(/[:.]/g, '-')}.ndjson.gz`);
  await backup(before);
  const rows = await withClient((client) => restoreShop(client, linesOf(file)));
  try {
    await migrateDatabase();
  } catch (error) {
    throw new RestoredOnly(
      `The archive is restored, but it could not be brought to this version: ${(error as Error).message}. What was there before is in ${before}.`,
    );
  }
  console.log(`red plumb  restored ${rows} rows from ${file}; what was there before is in ${before}`);
}

async function main([what, file]: readonly string[]): Promise<void> {
  if (what === 'backup' && file === '--daily') return daily();
  if (what === 'backup')
    return backup(
      resolve(file ?? join(FOLDER, `shop-${new Date().toISOString().replace(/[:.]/g, '-')}.ndjson.gz`)),
    );
  if (what === 'restore' && file && existsSync(file)) return restore(resolve(file));
  throw new ArchiveRefused(
    what === 'restore'
      ? `There is no file “${file ?? ''}”. Name the archive to restore.`
      : `“${what}” is not known.`,
  );
}

main(process.argv.slice(2))
  .catch((error: unknown) => {
    const { code, message } = error as { code?: string; message: string };
    const words =
      error instanceof ArchiveRefused
        ? message
        : code?.startsWith('Z_')
          ? 'This archive is damaged: it cannot be unpacked.'
          : message;
    console.error(`red plumb  ${words}${error instanceof RestoredOnly ? '' : ' Nothing was changed.'}`);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
