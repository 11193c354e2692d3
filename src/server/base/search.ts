import { ilike, or, type SQL } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';

/** Rows of which one of the columns holds what was typed; nothing when nothing was typed. Wildcards mean themselves. */
export function holding(typed: string, ...columns: readonly (PgColumn | SQL)[]): SQL | undefined {
  const words = typed.trim().replace(/[\\%_]/g, '\\$&');
  return words === '' ? undefined : or(...columns.map((c) => ilike(c as PgColumn, `%${words}%`)));
}
