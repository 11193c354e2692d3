import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import pg from 'pg';

import { CARRIED_OVER, oldShop } from '@test/carriedOver';
import { rowsOf, tableSums } from '@test/sums';
import { addressOf, asAdmin, freshDeps, TEMPLATE } from '@test/database';
import { migrateDatabase } from '@/db/migrate';

import { startSession } from '@/server/sessions/startSession';
import { listSetups } from '@/server/setups/repository';

import { ArchiveRefused, restoreShop } from './restoreShop';
import { shopLines } from './shopArchive';

/* A shop made by version 4: its demo and two corrected files. */
const OLD_SHOP = oldShop(4);

let deps: Awaited<ReturnType<typeof freshDeps>>;
let client: pg.Client;
let before: string[];
beforeAll(async () => {
  deps = await freshDeps('archive');
  client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  await client.query('drop schema public cascade; drop schema drizzle cascade; create schema public');
  await client.query(OLD_SHOP);
  await client.query('reset all');
  before = [];
  for (const [, question] of CARRIED_OVER) before.push(await rowsOf(client, question));
  await migrateDatabase();
});
afterAll(async () => {
  await client.end();
  await deps.close();
});

async function* linesOf(text: string): AsyncGenerator<string> {
  for (const line of text.trimEnd().split('\n')) yield line;
}

async function archive(): Promise<string> {
  let text = '';
  for await (const chunk of shopLines(client, new Date(0))) text += chunk;
  return text;
}

test('a shop of the version before is carried over: every row the same, files by their content', async () => {
  for (const [i, [what, , question]] of CARRIED_OVER.entries())
    expect(`${what}: ${await rowsOf(client, question)}`).toBe(`${what}: ${before[i]}`);
  const files = await client.query(
    `select count(*)::int as files, count(distinct sha256)::int as contents from (select sha256 from run_files union all select sha256 from corrected_files) f`,
  );
  const kept = await client.query(
    `select count(*)::int as n, bool_and(encode(sha256(convert_to(content, 'UTF8')), 'hex') = sha256 and bytes = octet_length(content)) as true_sums from file_contents`,
  );
  expect(kept.rows[0]).toEqual({ n: files.rows[0].contents, true_sums: true });
  // The two corrected files of the fixture are one content.
  expect(files.rows[0].files).toBeGreaterThan(files.rows[0].contents);
});

test('wiped and restored: every table’s checksum as before, and numbers go on after the last', async () => {
  // A picture of a sheet job, byte by byte.
  await client.query(
    `insert into artworks (sha256, bytes, width_px, height_px, kept_at) select 'art', decode(string_agg(lpad(to_hex(i), 2, '0'), ''), 'hex'), 16, 16, now() from generate_series(0, 255) i`,
  );
  const text = await archive();
  const sums = await tableSums(client);
  await client.query(
    'truncate sessions, runs, setups, rigs, machines, proof_sheets, acts, file_contents, artworks cascade',
  );
  expect(await tableSums(client)).not.toEqual(sums);
  const rows = await restoreShop(client, linesOf(text));
  expect(rows).toBeGreaterThan(500);
  expect(await tableSums(client)).toEqual(sums);
  expect(await archive()).toBe(text);
  const last = await client.query('select max(number) as n from sessions');
  const [setup] = (await listSetups(deps)).filter((r) => r.name.includes('Honey'));
  const started = await startSession(deps, 'KT', { setupId: setup!.id, kind: 'calibration' });
  expect(started.ok).toBe(true);
  const now = await client.query('select max(number) as n from sessions');
  expect(now.rows[0].n).toBe(last.rows[0].n + 1);
});

test('an archive into an empty database of another name', async () => {
  const text = await archive();
  await asAdmin(
    'drop database if exists red_plumb_jest_archive_2 with (force)',
    `create database red_plumb_jest_archive_2 template ${TEMPLATE}`,
  );
  const other = new pg.Client({ connectionString: addressOf('red_plumb_jest_archive_2') });
  await other.connect();
  await restoreShop(other, linesOf(text));
  expect(await tableSums(other)).toEqual(await tableSums(client));
  await other.end();
});

test('by the commands: backed up into a file, changed, restored from it, and what was there kept beside', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'red-plumb-backup-'));
  const file = join(folder, 'shop.ndjson.gz');
  const command = (...words: string[]): string =>
    execFileSync(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'scripts/backup.ts', ...words], {
      encoding: 'utf8',
      // Jest’s own environment is a copy, which a child does not get by itself.
      env: { ...process.env, RED_PLUMB_BACKUPS: folder },
    });
  try {
    command('backup', file);
    const sums = await tableSums(client);
    await client.query('truncate sessions, runs cascade');
    const said = command('restore', file);
    expect(said).toMatch(/restored \d{3,} rows/);
    expect(await tableSums(client)).toEqual(sums);
    expect(existsSync(/is in (\S+)/.exec(said)![1]!)).toBe(true);
    // Not even packed: refused, and nothing changed.
    writeFileSync(file, 'not packed');
    expect(() => command('restore', file)).toThrow(/cannot be unpacked/);
    expect(await tableSums(client)).toEqual(sums);
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test.each<[string, (lines: string[]) => string[], RegExp]>([
  ['stops in the middle', (l) => l.slice(0, -1), /stops in the middle/],
  ['has a row less', (l) => l.filter((x) => !x.includes('"station_id":"A5"')), /checksum/],
  [
    'has lost what others refer to',
    (l) => l.filter((x) => !x.includes('"sha256"') || x.includes('file_name')),
    /do not fit together/,
  ],
  ['has a figure changed', (l) => l.map((x) => x.replace('"KT"', '"IM"')), /checksum/],
  [
    'is of a newer version',
    (l) => [l[0]!.replace(/"migrations":\d+/, '"migrations":999'), ...l.slice(1)],
    /newer Red Plumb/,
  ],
  ['is something else', () => ['{"hello":1}'], /not an archive/],
  ['is no JSON', () => ['PK\u0003'], /not JSON/],
  ['goes on after its end', (l) => [...l, '{"table":"public.rigs"}'], /after the end/],
  [
    'names a table of the system',
    (l) => [l[0]!, '{"table":"pg_catalog.pg_class"}', ...l.slice(1)],
    /nobody knows/,
  ],
])('an archive that %s is refused, and nothing is changed', async (_, damage, words) => {
  const sums = await tableSums(client);
  const damaged = damage((await archive()).trimEnd().split('\n')).join('\n');
  const refused = restoreShop(client, linesOf(damaged));
  await expect(refused).rejects.toThrow(ArchiveRefused);
  await expect(refused).rejects.toThrow(words);
  expect(await tableSums(client)).toEqual(sums);
});
