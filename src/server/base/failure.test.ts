import { OutcomeUnknown } from '@/db/transaction';

import { StoredMismatch } from '@/db/stored/codec';

import { failureOf, TooBusy, TooLarge } from './failure';

/** As the database driver throws it, and as the query builder wraps it. */
const pg = (code: string): Error => Object.assign(new Error('from the database'), { code });
const wrapped = (error: Error): Error => new Error('Failed query: insert into …', { cause: error });

test.each<[string, unknown, string, number, RegExp]>([
  ['no server listens', pg('ECONNREFUSED'), 'away', 503, /does not answer/],
  ['both addresses of a host refuse', new AggregateError([pg('ECONNREFUSED')], ''), 'away', 503, /does not/],
  ['it lets nobody in', pg('55000'), 'away', 503, /does not answer/],
  ['it shuts down', pg('57P01'), 'away', 503, /does not answer/],
  ['it starts up', pg('57P03'), 'away', 503, /does not answer/],
  ['no connection is free', pg('53300'), 'away', 503, /does not answer/],
  ['the line is cut', new Error('Connection terminated unexpectedly'), 'away', 503, /does not answer/],
  ['it takes too long', pg('57014'), 'away', 503, /too long/],
  [
    'the answer to a commit is lost',
    new OutcomeUnknown(pg('ECONNRESET')),
    'unknown',
    503,
    /not known whether/,
  ],
  ['two make the same', pg('23505'), 'conflict', 409, /same moment/],
  ['two wait for each other', pg('40P01'), 'conflict', 409, /same moment/],
  ['what it belongs to is gone', pg('23503'), 'conflict', 409, /not in the records/],
  ['a printed sheet is changed', pg('RP001'), 'refused', 409, /printed and is frozen/],
  ['NUL in a text', pg('22021'), 'unstorable', 400, /NUL/],
  ['NUL in JSON', pg('22P05'), 'unstorable', 400, /NUL/],
  ['a figure is beyond its column', pg('22003'), 'unstorable', 400, /outside what can be kept/],
  ['a check of the table refuses', pg('23514'), 'unstorable', 400, /outside what can be kept/],
  ['it is too large', new TooLarge('Split it.'), 'too-large', 413, /^Split it\.$/],
  ['too many wait', new TooBusy(), 'away', 503, /busy/],
  ['what is stored does not fit', new StoredMismatch('rigs.marks', null), 'bug', 500, /our fault.*no-7/],
  ['a singular matrix', new Error('invertAffine: singular'), 'bug', 500, /our fault.*no-7/],
  ['something that is no error', 'text', 'bug', 500, /our fault/],
])('%s', (_, error, kind, status, words) => {
  for (const thrown of error instanceof Error && 'code' in error ? [error, wrapped(error)] : [error]) {
    const failure = failureOf(thrown, 'no-7');
    expect(failure).toMatchObject({ kind, status });
    expect(failure.message).toMatch(words);
  }
});

test('a commit whose answer is lost is never called “nothing was saved”', () => {
  const { message } = failureOf(new OutcomeUnknown(new Error('Connection terminated')), 'x');
  expect(message).not.toMatch(/nothing was saved/i);
  expect(message).toMatch(/not kept twice/);
});
