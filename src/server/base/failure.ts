import { CLOSED_WORDS, ShopClosed } from '@/db/closed';
import { OutcomeUnknown, sqlState } from '@/db/transaction';

import { diskFullWords } from './disk';
import { log } from './log';

/*
 * One place that tells errors apart. What a rule refuses is a value (`UseCaseRefusal`); what is thrown comes here:
 * the database away, a clash of two at once, something that cannot be stored, or our own bug.
 */

export type FailureKind = 'away' | 'unknown' | 'conflict' | 'unstorable' | 'refused' | 'too-large' | 'bug';

export interface Failure {
  readonly kind: FailureKind;
  readonly status: number;
  /** When to come again, s; of what is away only. */
  readonly afterS?: number;
  /** For the person in front of it: what is so, and what to do. */
  readonly message: string;
}

/** What is away is asked again after so long, s, where nobody knows better. */
export const SOON_S = 3;

/** Thrown where a limit is passed deep inside; its words are for the person who asked. */
export class TooLarge extends Error {
  constructor(readonly words: string) {
    super(words);
    this.name = 'TooLarge';
  }
}

/** More waits already than can be done in reasonable time. */
export class TooBusy extends Error {
  constructor(
    readonly words = 'The server is busy with other large requests. Try again in a moment.',
    /** When it is worth while to come again, s. */
    readonly afterS = SOON_S,
  ) {
    super(words);
    this.name = 'TooBusy';
  }
}

const AWAY: Failure = {
  kind: 'away',
  status: 503,
  message: 'Nothing was saved: the database does not answer. Try again in a moment.',
};

const UNKNOWN: Failure = {
  kind: 'unknown',
  status: 503,
  message:
    'The database went away while this was being saved: it is not known whether it was. Try again; it is not kept twice.',
};

const CLOSED: Failure = {
  kind: 'away',
  status: 503,
  message: `Nothing was saved: ${CLOSED_WORDS}`,
};

const DISK_FULL: Failure = {
  kind: 'away',
  status: 503,
  message:
    'Nothing was saved: the disk of the database is full. Nothing that was saved before is lost. Make room on it, then try again.',
};

/** The database away or out of room, by what the disk says where we know it. */
function awayFor(failure: Failure): Failure {
  const full = diskFullWords();
  return full === null ? failure : { ...failure, message: `Nothing was saved: ${full}` };
}

/** What PostgreSQL says and what it means here. Source: PostgreSQL documentation, appendix A (error codes). */
const BY_STATE: readonly [RegExp, Failure][] = [
  [/^53100/, DISK_FULL],
  // 08 connection, 57P shutdown, 53 no room for another, 25P03 idle for too long, 55000 lets nobody in, 28 and 3D000
  // not the database that was meant
  [/^(?:08|57P|53|25P03|55000|28|3D000)/, AWAY],
  [
    /^57014$/,
    { kind: 'away', status: 503, message: 'The database took too long over this. Try again in a moment.' },
  ],
  [
    /^(40|23505|55P03)/,
    {
      kind: 'conflict',
      status: 409,
      message: 'Somebody else did the same at the same moment. Reload the page to see what is so now.',
    },
  ],
  [
    /^RP001$/,
    {
      kind: 'refused',
      status: 409,
      message: 'This sheet has been printed and is frozen. Start a new sheet to change it.',
    },
  ],
  [
    /^(22021|22P05)$/,
    {
      kind: 'unstorable',
      status: 400,
      message: 'There is a character in this that cannot be kept (NUL). Type it anew.',
    },
  ],
  [
    /^(22|23514|23502)/,
    { kind: 'unstorable', status: 400, message: 'A figure in this is outside what can be kept. Check it.' },
  ],
  [
    /^23503/,
    {
      kind: 'conflict',
      status: 409,
      message: 'What this belongs to is not in the records any more. Reload.',
    },
  ],
];

const AWAY_CODES = /^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|ENOTFOUND|EHOSTUNREACH|EAI_AGAIN)$/;
/** What the driver says without a code when a connection is lost, or when none was to be had in time. */
const AWAY_WORDS =
  /^(Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error|Cannot use a pool after calling end)/;

function isAway(error: unknown): boolean {
  for (let e: unknown = error; e instanceof Error; e = e.cause) {
    const { code } = e as { code?: unknown };
    if (AWAY_WORDS.test(e.message) || (typeof code === 'string' && AWAY_CODES.test(code))) return true;
    if (e instanceof AggregateError && e.errors.some(isAway)) return true;
  }
  return false;
}

/** What a thrown error is. `request` is the number its log line is found by. */
export function failureOf(error: unknown, request: string): Failure {
  if (error instanceof OutcomeUnknown) return UNKNOWN;
  if (error instanceof TooLarge) return { kind: 'too-large', status: 413, message: error.words };
  if (error instanceof TooBusy)
    return { kind: 'away', status: 503, message: error.words, afterS: error.afterS };
  if (error instanceof ShopClosed) return CLOSED;
  const state = sqlState(error);
  const known = state && BY_STATE.find(([pattern]) => pattern.test(state));
  if (known) return known[1] === AWAY || known[1] === DISK_FULL ? awayFor(known[1]) : known[1];
  if (isAway(error)) return awayFor(AWAY);
  return {
    kind: 'bug',
    status: 500,
    message: `This did not work, and it is our fault, not yours. Nothing was saved. Tell us this number: ${request}.`,
  };
}

/** The same, with its line in the log. */
export function failed(error: unknown, where: string, request: string): Failure {
  const failure = failureOf(error, request);
  const level = failure.kind === 'bug' ? 'error' : 'warn';
  log[level]({ request, where, kind: failure.kind, state: sqlState(error), err: error }, failure.kind);
  return failure;
}
