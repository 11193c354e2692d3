import { ZodError } from 'zod';

import type { Outcome } from '@/core/outcome';
import type { UseCaseRefusal } from '@/server/deps';

/** What a form's action gives back to the browser: plain, serialisable, never a thrown error. */
export type ActionResult<T = null> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly message: string; readonly fields: Readonly<Record<string, string>> };

/** The sentence for a refusal, and the messages for its fields. */
export function actionResult<T>(outcome: Outcome<T, UseCaseRefusal>): ActionResult<T> {
  if (outcome.ok) return outcome;
  const { refusal } = outcome;
  switch (refusal.code) {
    case 'invalid-input':
      return {
        ok: false,
        message: 'Some figures need another look; they are marked.',
        fields: refusal.fields,
      };
    case 'not-found':
      return {
        ok: false,
        message: `This ${refusal.what} is not in the records any more. Reload the page.`,
        fields: {},
      };
    case 'stale':
    case 'refused':
      return { ok: false, message: refusal.message, fields: {} };
    default:
      return refusal satisfies never;
  }
}

/** Runs a use case; a database that is away becomes a message, not an error page. */
export async function attempt<T>(run: () => Promise<Outcome<T, UseCaseRefusal>>): Promise<ActionResult<T>> {
  try {
    return actionResult(await run());
  } catch (error) {
    if (error instanceof ZodError)
      return { ok: false, message: 'This page is out of date. Reload it, then try again.', fields: {} };
    console.error('red plumb  action failed:', error instanceof Error ? error.message : error);
    return {
      ok: false,
      message: 'Nothing was saved: the database does not answer. What you entered is still here.',
      fields: {},
    };
  }
}
