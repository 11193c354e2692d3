import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

import type { ClientBase } from 'pg';

import { sqlState } from '@/db/transaction';

import { ARCHIVE_FORMAT, FORMAT_BEFORE, MIGRATION_TABLE, PIECE, ROWS_AT_ONCE, tablesOf } from './shopArchive';

/* An archive made a shop again: looked at whole first, then put in the place of what is there, or nothing of it. */

const BYTES_AT_ONCE = 4 * 1024 * 1024;
const MIGRATIONS = join(process.cwd(), 'src/db/migrations');

/** What is wrong with an archive, in words for whoever wants it back. */
export class ArchiveRefused extends Error {}

interface Journal {
  readonly entries: readonly { readonly tag: string }[];
}

/** The statements of the first migrations, as they were written. */
function migrationStatements(count: number): string[] {
  const { entries } = JSON.parse(readFileSync(join(MIGRATIONS, 'meta/_journal.json'), 'utf8')) as Journal;
  if (count > entries.length)
    throw new ArchiveRefused(
      `This archive was made by a newer Red Plumb (${count} migrations, this one knows ${entries.length}). Update first.`,
    );
  return entries
    .slice(0, count)
    .flatMap(({ tag }) =>
      readFileSync(join(MIGRATIONS, `${tag}.sql`), 'utf8').split('--> statement-breakpoint'),
    );
}

/**
 * Puts an archive's shop in the place of what is there: all of it or, when anything is wrong with the archive, nothing.
 * The schema is that of the archive; migrations that came later run afterwards. Returns the number of rows.
 */
export async function restoreShop(client: ClientBase, lines: AsyncIterable<string>): Promise<number> {
  await client.query('begin');
  try {
    await client.query('set local statement_timeout = 0');
    await client.query('set local idle_in_transaction_session_timeout = 0');
    const rows = await load(client, lines);
    await resetCounters(client);
    await client.query('commit');
    return rows;
  } catch (error) {
    await client.query('rollback').catch(() => undefined);
    throw error;
  }
}

async function load(client: ClientBase, lines: AsyncIterable<string>): Promise<number> {
  const hash = createHash('sha256');
  let known = new Set<string>();
  let table = '';
  let batch: string[] = [];
  let rows = 0;
  let state: 'head' | 'rows' | 'ended' = 'head';
  let bytes = 0;
  /** Pictures of the row that was read last. */
  const pieces = new Map<string, Buffer[]>();
  const withPictures = (): void => {
    if (pieces.size === 0) return;
    const row = JSON.parse(batch.pop()!) as Record<string, unknown>;
    for (const [column, parts] of pieces)
      row[column.replace(/^"|"$/g, '')] = `\\x${Buffer.concat(parts).toString('hex')}`;
    batch.push(JSON.stringify(row));
    pieces.clear();
  };
  const flush = async (): Promise<void> => {
    withPictures();
    const insert = `insert into ${table} select * from json_populate_recordset(null::${table}, $1::json)`;
    if (batch.length > 0)
      await client.query(insert, [`[${batch.join(',')}]`]).catch((error: unknown) => {
        // Rows that do not fit the tables they were taken from are no longer what was taken.
        if (/^2[23]/.test(sqlState(error) ?? ''))
          throw new ArchiveRefused(`This archive is damaged: rows of ${table} do not fit together.`);
        throw error;
      });
    batch = [];
    bytes = 0;
  };
  for await (const line of lines) {
    if (state === 'head') {
      await emptySchema(client, headOf(line));
      known = new Set((await tablesOf(client)).map((t) => t.name));
      state = 'rows';
    } else if (state === 'ended')
      throw new ArchiveRefused('There is something after the end of this archive.');
    else if (line.startsWith('{"table":')) {
      await flush();
      table = String(read(line, 'a table’s line').table);
      if (!known.has(table))
        throw new ArchiveRefused(`This archive has a table that nobody knows: ${table}.`);
    } else if (line.startsWith('{"end":true')) {
      await flush();
      const end = read(line, 'its last line');
      if (end.rows !== rows || end.sha256 !== hash.digest('hex')) throw new ArchiveRefused(DAMAGED);
      state = 'ended';
      continue;
    } else if (line.startsWith(PIECE)) {
      const { bytes: column, part } = read(line, 'a piece of a picture');
      if (batch.length === 0)
        throw new ArchiveRefused(`This archive is damaged: rows of ${table} do not fit together.`);
      pieces.set(String(column), [
        ...(pieces.get(String(column)) ?? []),
        Buffer.from(String(part), 'base64'),
      ]);
    } else {
      if (pieces.size > 0) {
        withPictures();
        await flush();
      }
      batch.push(line);
      rows += 1;
      bytes += line.length;
      if (batch.length >= 5 * ROWS_AT_ONCE || bytes > BYTES_AT_ONCE) await flush();
    }
    hash.update(`${line}\n`);
  }
  if (state !== 'ended') throw new ArchiveRefused(CUT_SHORT);
  return rows;
}

function read(line: string, what: string): Record<string, unknown> {
  try {
    return JSON.parse(line) as Record<string, unknown>;
  } catch {
    throw new ArchiveRefused(`This archive cannot be read: ${what} is not JSON.`);
  }
}

/** Reads an archive to its end without touching any database. Throws ArchiveRefused where it is none, damaged, or newer. */
export async function checkArchive(lines: AsyncIterable<string>): Promise<void> {
  const hash = createHash('sha256');
  let state: 'head' | 'rows' | 'ended' = 'head';
  let rows = 0;
  for await (const line of lines) {
    if (state === 'ended') throw new ArchiveRefused('There is something after the end of this archive.');
    if (state === 'head') {
      migrationStatements(headOf(line));
      state = 'rows';
    } else if (line.startsWith('{"end":true')) {
      const end = read(line, 'its last line');
      if (end.rows !== rows || end.sha256 !== hash.digest('hex')) throw new ArchiveRefused(DAMAGED);
      state = 'ended';
      continue;
    } else if (!line.startsWith('{"table":') && !line.startsWith(PIECE)) rows += 1;
    hash.update(`${line}\n`);
  }
  if (state !== 'ended') throw new ArchiveRefused(CUT_SHORT);
}

/** How many migrations an archive was made after, by its first line. */
function headOf(line: string): number {
  const head = read(line, 'its first line');
  const known = head.format === ARCHIVE_FORMAT || head.format === FORMAT_BEFORE;
  if (!known || typeof head.migrations !== 'number')
    throw new ArchiveRefused('This is not an archive of a Red Plumb shop.');
  return head.migrations;
}

const DAMAGED = 'This archive is damaged: its checksum does not agree with what is in it.';
const CUT_SHORT = 'This archive stops in the middle: its last line is missing.';

/** The schema as it was after so many migrations, without a row. */
async function emptySchema(client: ClientBase, migrations: number): Promise<void> {
  const statements = migrationStatements(migrations);
  await client.query('drop schema if exists public cascade');
  await client.query('drop schema if exists drizzle cascade');
  await client.query('create schema public');
  await client.query('create schema drizzle');
  await client.query(
    `create table ${MIGRATION_TABLE} (id serial primary key, hash text not null, created_at bigint)`,
  );
  for (const statement of statements) await client.query(statement);
}

/** Numbers that count up go on after the highest that was used. */
async function resetCounters(client: ClientBase): Promise<void> {
  const counters = await client.query<{ table: string; column: string; sequence: string }>(`
    select format('%I.%I', n.nspname, c.relname) as table, format('%I', a.attname) as column,
           pg_get_serial_sequence(format('%I.%I', n.nspname, c.relname), a.attname) as sequence
    from pg_attribute a join pg_class c on c.oid = a.attrelid join pg_namespace n on n.oid = c.relnamespace
    where c.relkind = 'r' and n.nspname in ('public', 'drizzle') and a.attnum > 0 and not a.attisdropped
      and pg_get_serial_sequence(format('%I.%I', n.nspname, c.relname), a.attname) is not null`);
  for (const { table, column, sequence } of counters.rows)
    await client.query(`select setval($1, coalesce((select max(${column}) from ${table}), 0) + 1, false)`, [
      sequence,
    ]);
}
