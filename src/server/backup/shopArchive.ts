import { createHash } from 'node:crypto';

import type { ClientBase } from 'pg';

/*
 * The whole shop as one open file: gzipped lines of JSON. The first line says what it is, then each table's name and
 * its rows as PostgreSQL writes them, and last how many rows there were and a checksum over all lines before. Pictures follow
 * their row in pieces of base64, so that nobody ever holds one whole. What is in it can be read with nothing but gunzip; a
 * new or an emptied database becomes this shop again.
 */

export const ARCHIVE_FORMAT = 'red-plumb-shop-2';
/** Pictures stood in their rows, in hexadecimal figures. */
export const FORMAT_BEFORE = 'red-plumb-shop-1';

type Lines = AsyncGenerator<string, void, undefined>;

export const ROWS_AT_ONCE = 100;
const PIECE_BYTES = 1_500_000;
export const PIECE = '{"bytes":';
/** drizzle keeps here which migrations have run. */
export const MIGRATION_TABLE = 'drizzle.__drizzle_migrations';

interface Table {
  /** As SQL names it, schema and all. */
  readonly name: string;
  readonly order: string;
  readonly columns: readonly string[];
  /** Columns of pictures: told after their row. */
  readonly bytes: readonly string[];
}

/** Every table of the shop, those that others refer to first. */
export async function tablesOf(client: ClientBase): Promise<Table[]> {
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
