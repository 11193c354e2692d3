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
import { whileClosed } from '../src/db/closed';
import { migrateDatabase, migrationsRun } from '../src/db/migrate';
import { ArchiveRefused, checkArchive, restoreShop } from '../src/server/backup/restoreShop';
import { shopLines } from '../src/server/backup/shopArchive';

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

/** There was room for so much of a backup, and it is larger. */
class NoRoom extends Error {
  constructor(bytes: number) {
    super(
      `The disk of the backup is full: it needs more than ${Math.ceil(bytes / 1024 / 1024)} MB. Make room on it, or name a file on another disk.`,
    );
  }
}

/** Written beside and then moved into place: a backup that was cut off never looks like one. */
async function written(file: string, lines: AsyncIterable<string>): Promise<void> {
  const unfinished = `${file}.unfinished`;
  try {
    await pipeline(Readable.from(lines), createGzip(), createWriteStream(unfinished, { mode: 0o600 }));
    renameSync(unfinished, file);
  } catch (error) {
    const bytes = existsSync(unfinished) ? statSync(unfinished).size : 0;
    rmSync(unfinished, { force: true });
    throw (error as { code?: string }).code === 'ENOSPC' ? new NoRoom(bytes) : error;
  }
}

async function backup(file: string): Promise<void> {
  mkdirSync(dirname(file), { recursive: true });
  await withClient((client) => written(file, shopLines(client, new Date())));
  console.log(`red plumb  backed up into ${file} (${Math.ceil(statSync(file).size / 1024)} KB)`);
}

/** One a day, the last of fourteen days kept; nothing else in the folder is touched. Of an empty database there is none. */
async function daily(): Promise<void> {
  if ((await withClient(migrationsRun)) === 0) return;
  mkdirSync(FOLDER, { recursive: true });
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

/** So many copies of what was there before a restore are kept. */
const KEEP_BEFORE = 3;
const BEFORE = /^before-restore-.*\.ndjson\.gz$/;

async function restore(file: string): Promise<void> {
  // An archive that is none, or damaged, costs no copy and closes nobody's shop.
  await checkArchive(linesOf(file));
  mkdirSync(FOLDER, { recursive: true });
  const before = join(FOLDER, `before-restore-${new Date().toISOString().replace(/[:.]/g, '-')}.ndjson.gz`);
  // The shop is closed to writing, copied and replaced as one act: what was acknowledged is in the copy.
  const rows = await withClient((client) =>
    whileClosed(client, async () => {
      await written(before, shopLines(client, new Date()));
      return restoreShop(client, linesOf(file));
    }),
  );
  for (const name of readdirSync(FOLDER)
    .filter((n) => BEFORE.test(n))
    .sort()
    .slice(0, -KEEP_BEFORE))
    rmSync(join(FOLDER, name));
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
