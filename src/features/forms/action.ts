import { revalidatePath } from 'next/cache';
import { headers } from 'next/headers';
import { redirect } from 'next/navigation';

import type { Outcome } from '@/core/outcome';
import { requestNumber } from '@/server/base/apiError';
import { NobodySaid, requestActor, requestDeps } from '@/server/base/context';
import type { UseCaseRefusal } from '@/server/base/deps';
import { failed } from '@/server/base/failure';
import { stampSchema, type Given, type UseCase } from '@/server/base/useCase';

import type { ActionResult, BrowserStamp, SaidAs } from './keeping';

type Action<I, T> = (given: Given<I>, stamp: BrowserStamp) => Promise<ActionResult<T>>;

/**
 * A server action: finds out who asks, has it done, then does what follows: which pages look again, where to go, what the
 * browser is told. Nothing it is sent makes it throw; what is thrown inside is told apart by its kind.
 */
export function action<I, T>(asked: UseCase<I, T>): Action<I, T>;
export function action<I, T, R>(asked: UseCase<I, T>, after: (value: T, given: Given<I>) => R): Action<I, R>;
export function action<I, T>(
  asked: UseCase<I, T>,
  after?: (value: T, given: Given<I>) => unknown,
): Action<I, unknown> {
  return async (given, stamp) => {
    const done = await carriedOut(asked, given, stamp);
    // A redirect is thrown: outside of what catches.
    return done.ok && after ? { ok: true, value: after(done.value, given) } : done;
  };
}

async function carriedOut<I, T>(
  asked: UseCase<I, T>,
  given: Given<I>,
  stamp: unknown,
): Promise<ActionResult<T>> {
  try {
    const stamped = stampSchema.safeParse(stamp ?? {});
    if (!stamped.success) return no('refused', stamped.error.issues[0]!.message);
    const result = actionResult(await asked(requestDeps(), await requestActor(), given, stamped.data));
    if (!result.ok && result.said === 'stale') everyPage();
    return result;
  } catch (error) {
    if (error instanceof NobodySaid)
      return no('who', 'Type your initials first: they are written into the log with this.');
    const failure = failed(error, asked.act, requestNumber(await headers()));
    if (failure.status === 503) return no('away', failure.message);
    return no(failure.kind === 'bug' ? 'failed' : 'refused', failure.message);
  }
}

/** Every open page may show it: each looks again. */
export function everyPage(): null {
  revalidatePath('/', 'layout');
  return null;
}

/** Every page looks again, and this one comes next. */
export function goTo(path: string): never {
  everyPage();
  redirect(path);
}

/** The sentence for a refusal, and the messages for its fields. */
function actionResult<T>(outcome: Outcome<T, UseCaseRefusal>): ActionResult<T> {
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
