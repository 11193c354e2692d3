import { type SQL, asc, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';

/**
 * Pages of a table in the order of a time and, at the same time, of the id. The next page begins after a row, not after a time:
 * the database knows that to the microsecond, and a date of ours does not.
 */
export async function* pages<R>(
  at: PgColumn,
  id: PgColumn,
  page: (after: SQL | undefined, order: readonly [SQL, SQL]) => Promise<readonly R[]>,
  idOf: (row: R) => string,
): AsyncGenerator<readonly R[]> {
  for (let after: SQL | undefined; ;) {
    const rows: readonly R[] = await page(after, [asc(at), asc(id)]);
    if (rows.length > 0) yield rows;
    if (rows.length < ROWS_AT_ONCE) return;
    after = sql`(${at}, ${id}) > (select ${at}, ${id} from ${at.table} where ${id} = ${idOf(rows.at(-1)!)})`;
  }
}
export const ROWS_AT_ONCE = 100;
