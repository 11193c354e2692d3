/*
 * What the browser does around everything that is kept: it says who, gives it a number, and sends the same number again
 * when no answer came, so that nothing is kept twice.
 */

/** Why an action was not done: refused by a rule, out of date, no initials, no answer, or a fault of ours. */
export type SaidAs = 'refused' | 'stale' | 'who' | 'away' | 'failed';

/** What a machine has to show before the action can be carried out, by setting. */
export interface ToChangeOver {
  readonly setupId: string;
  readonly wanted: Readonly<Record<string, number>>;
}

/** What a form's action gives back to the browser: plain, serialisable, never a thrown error. */
export type ActionResult<T = null> =
  | { readonly ok: true; readonly value: T }
  | {
      readonly ok: false;
      readonly said: SaidAs;
      readonly message: string;
      readonly fields: Readonly<Record<string, string>>;
      readonly changeOver?: ToChangeOver;
    };

/** Why it was not done, where no field is there to be marked. */
export const whyNotDone = ({
  message,
  fields,
}: Extract<ActionResult<unknown>, { readonly ok: false }>): string =>
  Object.values(fields).join(' ') || message;

export interface BrowserStamp {
  readonly request: string;
  /** The version of what the page showed. */
  readonly version?: number;
  /** Figures that were asked about, and what was answered. */
  readonly sure?: readonly {
    readonly field: string;
    readonly typed: string;
    readonly why: string;
    readonly meant: string;
  }[];
}

type Ask = () => Promise<boolean>;
let ask: Ask | null = null;

/** The frame says how initials are asked for; the answer is whether they are known now. */
export function asksInitials(how: Ask): () => void {
  ask = how;
  return () => {
    if (ask === how) ask = null;
  };
}

const NO_ANSWER =
  'No answer: it is not known whether this was kept. Press again when the connection is back; it is not kept twice.';

/** Numbers of what was sent without getting an answer, by what it was. */
const unanswered = new Map<string, string>();

/** A request number: a UUID, also where the browser makes none by itself (plain http beyond loopback). */
export const newNumber = (): string =>
  typeof crypto.randomUUID === 'function'
    ? crypto.randomUUID()
    : '10000000-1000-4000-8000-100000000000'.replace(/[018]/g, (c) =>
        (Number(c) ^ (crypto.getRandomValues(new Uint8Array(1))[0]! & (15 >> (Number(c) / 4)))).toString(16),
      );

/**
 * Does something that keeps. `what` names it with all it keeps: pressed again after no answer, it goes out under the
 * number it had before.
 */
export async function keeping<T>(
  what: unknown,
  act: (stamp: BrowserStamp) => Promise<ActionResult<T>>,
  version?: number,
): Promise<ActionResult<T>> {
  const key = JSON.stringify(what);
  const request = unanswered.get(key) ?? newNumber();
  unanswered.set(key, request);
  try {
    const done = await keepAs(version === undefined ? { request } : { request, version }, act);
    // An action that leads to another page gives nothing back: it is done.
    if (!(done?.ok === false && done.said === 'away')) unanswered.delete(key);
    return done;
  } catch (error) {
    unanswered.delete(key);
    throw error;
  }
}

/** The same under a number that is known already. */
export async function keepAs<T>(
  stamp: BrowserStamp,
  act: (stamp: BrowserStamp) => Promise<ActionResult<T>>,
): Promise<ActionResult<T>> {
  const once = async (): Promise<ActionResult<T>> => {
    try {
      return await act(stamp);
    } catch (error) {
      if (isNavigation(error)) throw error;
      return { ok: false, said: 'away', message: NO_ANSWER, fields: {} };
    }
  };
  const done = await once();
  return done?.ok === false && done.said === 'who' && ask && (await ask()) ? once() : done;
}

/** A redirect is thrown by the framework on its way to the next page. */
const isNavigation = (error: unknown): boolean =>
  typeof (error as { digest?: unknown } | null)?.digest === 'string' &&
  (error as { digest: string }).digest.startsWith('NEXT_');
