import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

import type { ClientBase } from 'pg';

import { sqlState } from '@/db/transaction';

/*
 * The whole shop as one open file: gzipped lines of JSON. The first line says what it is, then each table's name and
 * its rows as PostgreSQL writes them, and last how many rows there were and a checksum over all lines before. Pictures follow
 * their row in pieces of base64, so that nobody ever holds one whole. What is in it can be read with nothing but gunzip; a
 * new or an emptied database becomes this shop again.
 */

export const ARCHIVE_FORMAT = 'red-plumb-shop-2';
/** Pictures stood in their rows, in hexadecimal figures. */
const FORMAT_BEFORE = 'red-plumb-shop-1';

type Lines = AsyncGenerator<string, void, undefined>;

const ROWS_AT_ONCE = 100;
const BYTES_AT_ONCE = 4 * 1024 * 1024;
const PIECE_BYTES = 1_500_000;
const PIECE = '{"bytes":';
const MIGRATIONS = join(process.cwd(), 'src/db/migrations');
/** drizzle keeps here which migrations have run. */
const MIGRATION_TABLE = 'drizzle.__drizzle_migrations';

interface Table {
  /** As SQL names it, schema and all. */
  readonly name: string;
  readonly order: string;
  readonly columns: readonly string[];
  /** Columns of pictures: told after their row. */
  readonly bytes: readonly string[];
}

/** Every table of the shop, those that others refer to first. */
async function tablesOf(client: ClientBase): Promise<Table[]> {
  const found = await client.query<Table & { refers: string[] }>(
    `
    select format('%I.%I', n.nspname, c.relname) as name,
           coalesce((select string_agg(format('%I', a.attname), ', ' order by k.ord)
                     from pg_index i cross join unnest(i.indkey) with ordinality k(col, ord)
                     join pg_attribute a on a.attrelid = c.oid and a.attnum = k.col
                     where i.indrelid = c.oid and i.indisprimary), 'ctid') as "order",
           coalesce((select json_agg(format('%I', b.attname) order by b.attnum) from pg_attribute b
                     where b.attrelid = c.oid and b.attnum > 0 and not b.attisdropped and b.atttypid <> 'bytea'::regtype), '[]') as columns,
           coalesce((select json_agg(format('%I', b.attname) order by b.attnum) from pg_attribute b
                     where b.attrelid = c.oid and b.attnum > 0 and not b.attisdropped and b.atttypid = 'bytea'::regtype), '[]') as bytes,
           coalesce((select array_agg(distinct format('%I.%I', fn.nspname, fc.relname))
                     from pg_constraint f join pg_class fc on fc.oid = f.confrelid
                     join pg_namespace fn on fn.oid = fc.relnamespace
                     where f.conrelid = c.oid and f.contype = 'f' and f.confrelid <> c.oid), '{}') as refers
    from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where c.relkind = 'r' and (n.nspname = 'public' or format('%I.%I', n.nspname, c.relname) = $1)
    order by 1`,
    [MIGRATION_TABLE],
  );
  const left = new Map(found.rows.map((t) => [t.name, t]));
  const sorted: Table[] = [];
  while (left.size > 0) {
    const next = [...left.values()].find((t) => t.refers.every((r) => !left.has(r)));
    if (!next) throw new Error('tables refer to each other in a circle');
    left.delete(next.name);
    sorted.push(next);
  }
  return sorted;
}

/** Writes the shop as it is at one moment, a line at a time; nothing that happens meanwhile is half in it. */
export async function* shopLines(client: ClientBase, at: Date): Lines {
  await client.query('begin isolation level repeatable read read only');
  try {
    await client.query('set local statement_timeout = 0');
    await client.query('set local idle_in_transaction_session_timeout = 0');
    const hash = createHash('sha256');
    const line = (value: unknown): string => {
      const text = `${typeof value === 'string' ? value : JSON.stringify(value)}\n`;
      hash.update(text);
      return text;
    };
    const tables = await tablesOf(client);
    const ran = await client.query<{ n: number }>(`select count(*)::int as n from ${MIGRATION_TABLE}`);
    yield line({ format: ARCHIVE_FORMAT, at: at.toISOString(), migrations: ran.rows[0]!.n });
    let rows = 0;
    for (const table of tables) {
      yield line({ table: table.name });
      const own = `(select to_json(r) from (select ${table.columns.map((c) => `t.${c}`).join(', ')}) r)`;
      await client.query(
        `declare reading no scroll cursor for select ${own}::text as row, t.ctid::text as at from ${table.name} t order by ${table.order}`,
      );
      for (;;) {
        const page = await client.query<{ row: string; at: string }>(`fetch ${ROWS_AT_ONCE} from reading`);
        if (page.rows.length === 0) break;
        rows += page.rows.length;
        if (table.bytes.length === 0) yield page.rows.map(({ row }) => line(row)).join('');
        else
          for (const { row, at: place } of page.rows) {
            yield line(row);
            for await (const piece of piecesOf(client, table, place)) yield line(piece);
          }
      }
      await client.query('close reading');
    }
    yield `${JSON.stringify({ end: true, rows, sha256: hash.digest('hex') })}\n`;
  } finally {
    await client.query('rollback').catch(() => undefined);
  }
}

/** The pictures of one row, piece by piece. */
async function* piecesOf(
  client: ClientBase,
  { name, bytes }: Table,
  at: string,
): AsyncGenerator<{ readonly bytes: string; readonly part: string }, void, undefined> {
  for (const column of bytes)
    for (let from = 1; ; from += PIECE_BYTES) {
      const found = await client.query<{ part: string | null }>(
        `select encode(substring(${column} from $2::int for $3::int), 'base64') as part from ${name} where ctid = $1::tid`,
        [at, from, PIECE_BYTES],
      );
      const part = found.rows[0]?.part?.replaceAll('\n', '') ?? null;
      // The first piece is told even when it is empty: there is a picture, of no bytes.
      if (part === null || (part === '' && from > 1)) break;
      yield { bytes: column, part };
      if (part === '') break;
    }
}

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
