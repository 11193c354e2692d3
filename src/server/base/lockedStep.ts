import { eq, sql, type SQL } from 'drizzle-orm';
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core';
import type { z } from 'zod';

import { refuse, type Outcome } from '@/core/outcome';

import { answeredBefore, keep, type Act } from './act';
import type { Actor, Deps, Done, UseCaseRefusal } from './deps';
import { withShape, type Stamp, type UseCase } from './useCase';

/** Of what there are steps: a session, a run, a job on sheets. */
export interface Stepped<Row extends { readonly version: number }, How extends { readonly act: string }> {
  /** “session”: its acts are called after it. */
  readonly what: string;
  /** By which name its id is given. */
  readonly key: string;
  readonly table: PgTable & { readonly id: PgColumn; readonly version: PgColumn };
  readonly load: (deps: Deps, id: string) => Promise<Row | null>;
  readonly missing: UseCaseRefusal;
  /** Why a step may not be done to it as it is; null: it may. */
  readonly refused: (row: Row, how: How & Stamp) => UseCaseRefusal | null;
  /** What else a step counts up, beside the version; null: this step leaves even that. */
  readonly counts?: (how: How) => Record<string, SQL> | null;
}

/** What is worked out before a row is held. */
export interface Preparation<Row, Given, P> {
  readonly prepare: (deps: Deps, row: Row, given: Given) => Promise<Outcome<P, UseCaseRefusal>>;
  /** All of the row that it depends on; nothing: its version. */
  readonly basis?: (row: Row, given: Given) => unknown;
}

/** What was worked out for a row that somebody changed meanwhile is worked out again so often. */
const TRIES = 5;

/** The steps of one kind of row: each locks it, looks at its stage and version, and is kept as a whole or not at all. */
export function stepsOf<Row extends { readonly version: number }, How extends { readonly act: string }>(
  stepped: Stepped<Row, How>,
) {
  const { what, key, table, load, missing, refused } = stepped;
  const idOf = (given: unknown): string =>
    typeof given === 'string' ? given : (given as Record<string, string>)[key]!;
  const named = (how: How, given: unknown, request: string | undefined): Act => ({
    ...{ act: `${what} ${how.act}`, subjectId: idOf(given), request },
  });

  /** The row, held: what it is cannot change until the transaction ends. */
  function held<T>(
    deps: Deps,
    actor: Actor,
    how: How,
    given: unknown,
    stamp: Stamp,
    work: (inner: Deps, row: Row) => Done<T>,
  ): Done<T> {
    const id = idOf(given);
    return keep(deps, actor, named(how, given, stamp.request), async (inner) => {
      await inner.db.select({ id: table.id }).from(table).where(eq(table.id, id)).for('update');
      const row = await load(inner, id);
      const why = row ? refused(row, { ...how, ...stamp }) : missing;
      if (!row || why) return refuse(why!);
      const done = await work(inner, row);
      const counted = stepped.counts ? stepped.counts(how) : {};
      if (done.ok && counted)
        await inner.db
          .update(table)
          .set({ version: sql`${table.version} + 1`, ...counted } as never)
          .where(eq(table.id, id));
      return done;
    });
  }

  /** One step. */
  function step<S extends z.ZodType, T>(
    schema: S,
    how: How,
    work: (inner: Deps, row: Row, given: z.output<S>, actor: Actor) => Done<T>,
  ): UseCase<z.input<S>, T> {
    return withShape(schema, `${what} ${how.act}`, (deps, actor, given, stamp) =>
      held(deps, actor, how, given, stamp, (inner, row) => work(inner, row, given, actor)),
    );
  }

  /**
   * One step with something heavy in it: that is worked out first, while nothing is held, and counts only where what it
   * goes by is still the same once the row is locked.
   */
  function stepWith<S extends z.ZodType, P, T>(
    schema: S,
    how: How,
    { prepare, basis = ({ version }) => version }: Preparation<Row, z.output<S>, P>,
    work: (inner: Deps, row: Row, given: z.output<S>, actor: Actor, prepared: P) => Done<T>,
  ): UseCase<z.input<S>, T> {
    return withShape(schema, `${what} ${how.act}`, async (deps, actor, given, stamp) => {
      const before = await answeredBefore<T>(deps, named(how, given, stamp.request));
      if (before) return before;
      const keyOf = (row: Row): string => JSON.stringify(basis(row, given));
      for (let left = TRIES; ; left -= 1) {
        const seen = await load(deps, idOf(given));
        const why = seen ? refused(seen, { ...how, ...stamp }) : missing;
        if (!seen || why) return refuse(why!);
        const prepared = await prepare(deps, seen, given);
        if (!prepared.ok) return prepared;
        let changed = false;
        const done = await held<T>(deps, actor, how, given, stamp, async (inner, row) => {
          changed = keyOf(row) !== keyOf(seen);
          return changed ? refuse(OUT_OF_DATE) : work(inner, row, given, actor, prepared.value);
        });
        if (!changed || left === 1) return done;
      }
    });
  }

  return { step, stepWith };
}

export const OUT_OF_DATE = {
  code: 'stale',
  message:
    'Somebody went on with this in the meantime. The page shows what is so now: look, then press again.',
} as const;
