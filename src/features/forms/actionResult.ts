import { revalidatePath } from 'next/cache';
import { headers } from 'next/headers';
import { ZodError, type z } from 'zod';

import type { Outcome } from '@/core/outcome';
import { requestNumber } from '@/server/base/apiError';
import { contentHash } from '@/server/base/contentHash';
import { failed } from '@/server/base/failure';
import { stampSchema, type Stamp } from '@/server/base/step';
import { NobodySaid, requestActor, requestDeps } from '@/server/base/context';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';

import type { ActionResult, SaidAs } from './keeping';

/** The sentence for a refusal, and the messages for its fields. */
export function actionResult<T>(outcome: Outcome<T, UseCaseRefusal>): ActionResult<T> {
  if (outcome.ok) return outcome;
  const { refusal } = outcome;
  switch (refusal.code) {
    case 'invalid-input':
      return no('refused', 'Some figures need another look; they are marked.', refusal.fields);
    case 'not-found':
      return no('stale', `This ${refusal.what} is not in the records any more. Reload the page.`);
    case 'stale':
      return no('stale', refusal.message);
    case 'refused': {
      const { message, changeOver } = refusal;
      return changeOver ? { ...no('refused', message), changeOver } : no('refused', message);
    }
    case 'too-large':
      return no('refused', refusal.message);
    default:
      return refusal satisfies never;
  }
}

const no = (
  said: SaidAs,
  message: string,
  fields: Readonly<Record<string, string>> = {},
): ActionResult<never> & { readonly ok: false } => ({ ok: false, said, message, fields });

/**
 * A form's action: reads what came against its shape, finds out who asks, runs the use case. Nothing it is sent makes
 * it throw; what is thrown inside is told apart by its kind.
 */
export async function acting<Schema extends z.ZodType, T>(
  where: string,
  schema: Schema,
  input: unknown,
  run: (
    deps: Deps,
    actor: Actor,
    given: z.output<Schema>,
    stamp: Stamp,
  ) => Promise<Outcome<T, UseCaseRefusal>>,
  stamp: unknown = {},
): Promise<ActionResult<T>> {
  try {
    const given = schema.parse(input);
    const stamped = stampSchema.parse(stamp ?? {});
    const deps = { ...requestDeps(), asked: contentHash(where, given) };
    const result = actionResult(await run(deps, await requestActor(), given, stamped));
    if (!result.ok && result.said === 'stale') revalidatePath('/', 'layout');
    return result;
  } catch (error) {
    if (error instanceof ZodError)
      return no('refused', error.issues[0]?.message ?? 'This cannot be read.', fieldsOf(error));
    if (error instanceof NobodySaid)
      return no('who', 'Type your initials first: they are written into the log with this.');
    const failure = failed(error, where, requestNumber(await headers()));
    if (failure.status === 503) return no('away', failure.message);
    return no(failure.kind === 'bug' ? 'failed' : 'refused', failure.message);
  }
}

/** The same for what every open page may show: each looks again once it is done. */
export const actingForAll: typeof acting = async (where, schema, input, run, stamp) => {
  const done = await acting(where, schema, input, run, stamp);
  if (done.ok) revalidatePath('/', 'layout');
  return done;
};

function fieldsOf(error: ZodError): Record<string, string> {
  const fields: Record<string, string> = {};
  for (const issue of error.issues)
    if (issue.path.length > 0) fields[issue.path.map(String).join('.')] ??= issue.message;
  return fields;
}
