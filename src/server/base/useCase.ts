import { z } from 'zod';

import { refuse } from '@/core/outcome';
import { isTaken } from '@/db/transaction';

import { keep, requestNumberSchema } from './act';
import { contentHash } from './contentHash';
import { fieldMessages, type Actor, type Deps, type Done, type UseCaseRefusal } from './deps';

const short = z.string().max(100);

/** What a page sends along with what it wants kept: its own number, the version of what it showed, what it asked about. */
export const stampSchema = z.object({
  request: requestNumberSchema.optional(),
  version: z.int().positive().optional(),
  sure: z
    .array(z.object({ field: short, typed: short, why: z.string().max(400), meant: short }))
    .max(20)
    .optional(),
});
export type Stamp = z.output<typeof stampSchema>;

/**
 * The one way to have something kept. What is given is read against its shape first: whatever comes, it is refused in
 * words or done, and done once under its number.
 */
export interface UseCase<I, T> {
  (deps: Deps, actor: Actor, given: unknown, stamp?: Stamp): Done<T>;
  /** What is done, for the log: “print”, “close”. */
  readonly act: string;
  /** Only its type: what a page of ours sends. */
  readonly given?: Given<I>;
}

/** What may be given: it is only read. */
export type Given<I> = I extends Uint8Array
  ? I
  : I extends readonly (infer E)[]
    ? readonly Given<E>[]
    : I extends object
      ? { readonly [K in keyof I]: Given<I[K]> }
      : I;

/** Reads what is given, and lets the number of an act stand for it: `run` keeps by itself. */
export function withShape<S extends z.ZodType, T>(
  schema: S,
  act: string,
  run: (deps: Deps, actor: Actor, given: z.output<S>, stamp: Stamp) => Done<T>,
): UseCase<z.input<S>, T> {
  const use = async (deps: Deps, actor: Actor, raw: unknown, stamp: Stamp = {}) => {
    const read = schema.safeParse(raw);
    if (!read.success) return refuse({ code: 'invalid-input' as const, fields: fieldMessages(read.error) });
    return run({ ...deps, asked: contentHash(act, read.data), sure: stamp.sure }, actor, read.data, stamp);
  };
  return Object.assign(use, { act });
}

interface ActOn<Given> {
  readonly act: string;
  /** The id that it is about: a part of what is given. Nothing: the id that is given, or none. */
  readonly about?: Given extends object ? keyof Given & string : never;
  /** What is said where a unique index of the table says no. */
  readonly taken?: UseCaseRefusal;
}

/** A use case of one transaction: what `work` writes is kept as a whole or not at all. */
export function useCase<S extends z.ZodType, T>(
  schema: S,
  { act, about, taken }: ActOn<z.output<S>>,
  work: (inner: Deps, given: z.output<S>, actor: Actor) => Done<T>,
): UseCase<z.input<S>, T> {
  return withShape(schema, act, async (deps, actor, given, { request }) => {
    const subjectId = about ? (given as Record<string, string>)[about] : given;
    const named = { act, subjectId: typeof subjectId === 'string' ? subjectId : undefined, request };
    try {
      return await keep(deps, actor, named, (inner) => work(inner, given, actor));
    } catch (error) {
      if (taken && isTaken(error)) return refuse(taken);
      throw error;
    }
  });
}
