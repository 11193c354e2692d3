import type { z } from 'zod';

/** Stored JSON that is not of the shape it was stored in: a fault of ours, in the code or in a migration. */
export class StoredMismatch extends Error {
  constructor(what: string, cause: unknown) {
    super(`what is stored as ${what} has not the shape it should have`, { cause });
    this.name = 'StoredMismatch';
  }
}

/** How one JSON column is read: every shape that was ever stored there, and the way from the old ones to today's. */
export interface Codec<T> {
  readonly column: string;
  /** Throws StoredMismatch where no version fits. */
  readonly read: (value: unknown) => T;
  /** The same where the column may be empty. */
  readonly orNull: (value: unknown) => T | null;
}

/** A shape of before, newest first: never edited again, with what today's rows have that it had not. */
export interface Before<T> {
  readonly shape: z.ZodType;
  readonly up: (old: never) => T;
}

/** One from an older shape, with its type kept between shape and way up. */
export const before = <Old, T>(shape: z.ZodType<Old>, up: (old: Old) => T): Before<T> => ({ shape, up });

/**
 * The codec of a column.
 *
 * Versions  what is stored carries no number: today's shape is tried first, then each older one, newest first. A shape
 *           therefore has to differ from those before it in a field that they lack.
 * Not       the shapes that addresses and forms take: those may become stricter, what is stored must stay readable.
 */
export function codec<T>(
  column: string,
  shape: z.ZodType<T>,
  older: readonly Before<NoInfer<T>>[] = [],
): Codec<T> {
  const read = (value: unknown): T => {
    const now = shape.safeParse(value);
    if (now.success) return now.data;
    for (const then of older) {
      const old = then.shape.safeParse(value);
      if (old.success) return then.up(old.data as never);
    }
    throw new StoredMismatch(column, now.error);
  };
  return { column, read, orNull: (value) => (value === null || value === undefined ? null : read(value)) };
}
