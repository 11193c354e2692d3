import type { ClientBase } from 'pg';

/** A checksum of each table’s rows, whatever their order. */
export async function tableSums(client: ClientBase): Promise<Map<string, string>> {
  const names = await client.query<{ name: string }>(
    `select relname as name from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace order by 1`,
  );
  const sums = new Map<string, string>();
  for (const { name } of names.rows) sums.set(name, await rowsOf(client, `select * from ${name}`));
  return sums;
}

/** How many rows a question has, and a checksum of them. */
export async function rowsOf(client: ClientBase, question: string): Promise<string> {
  const { rows } = await client.query<{ sum: string }>(
    `select count(*) || ' ' || coalesce(md5(string_agg(md5(t::text), '' order by md5(t::text))), '') as sum from (${question}) t`,
  );
  return rows[0]!.sum;
}
