import '@/core/shapeWords';

import type { Outcome } from '@/core/outcome';
import type { Queryable } from '@/db/client';

/** What a use case needs from outside; tests and the demo give their own clock. */
export interface Deps {
  readonly db: Queryable;
  readonly now: () => Date;
  /** Where this application is reached, for QR codes: `http://127.0.0.1:3000`. */
  readonly origin: string;
  /** `contentHash` of what is asked for: kept with an act, so that its number is answered again only for the same. */
  readonly asked?: string | undefined;
  /** Figures of it that a person was asked about, with the answers: kept with the act. */
  readonly sure?: readonly AskedFigure[] | undefined;
}

/** A figure that was hardly meant, why, and what was meant. */
export interface AskedFigure {
  readonly field: string;
  readonly typed: string;
  readonly why: string;
  readonly meant: string;
}

/** Who is at the machine: initials. */
export type Actor = string;

export type UseCaseRefusal =
  | { readonly code: 'invalid-input'; readonly fields: Readonly<Record<string, string>> }
  | { readonly code: 'not-found'; readonly what: string }
  /** Somebody else has done something in between: what the sender saw is not so any more. */
  | { readonly code: 'stale'; readonly message: string }
  | {
      readonly code: 'refused';
      readonly message: string;
      /** The machine has to show these first: asked on the spot. */
      readonly changeOver?: { readonly setupId: string; readonly wanted: Readonly<Record<string, number>> };
    }
  | { readonly code: 'too-large'; readonly message: string };

/** The field messages of a Zod error, by path. */
export function fieldMessages(error: {
  readonly issues: readonly { readonly path: readonly PropertyKey[]; readonly message: string }[];
}): Record<string, string> {
  const fields: Record<string, string> = {};
  for (const issue of error.issues) fields[issue.path.map(String).join('.')] ??= issue.message;
  return fields;
}

/** What a use case that is refused in words gives back. */
export type Done<T = null> = Promise<Outcome<T, UseCaseRefusal>>;
