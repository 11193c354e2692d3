import type { z } from 'zod';

import { StoredMismatch } from './failure';

/** Reads a stored JSON value through its schema; what does not fit is our bug and is called so. */
export function stored<Schema extends z.ZodType>(
  schema: Schema,
  value: unknown,
  what: string,
): z.output<Schema> {
  const read = schema.safeParse(value);
  if (!read.success) throw new StoredMismatch(what, read.error);
  return read.data;
}
