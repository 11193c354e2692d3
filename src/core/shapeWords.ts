import { z } from 'zod';

/*
 * What is wrong with something that was sent, in our words: where a schema says nothing better, this is what people read.
 * Whoever lets a schema judge imports this first.
 */

type Issue = Parameters<NonNullable<ReturnType<typeof z.config>['localeError']>>[0];

const WANTED: Readonly<Record<string, string>> = {
  string: 'Write a text here.',
  number: 'Write a number here.',
  int: 'Write a whole number here.',
  nan: 'Write a number here.',
  boolean: 'Say true or false here.',
  array: 'Give a list here.',
  object: 'Give an object with named fields here.',
  record: 'Give an object with named fields here.',
  date: 'Give a date here, for example 2026-03-29.',
  null: 'Leave this empty.',
  undefined: 'Leave this out.',
};

const FORMS: Readonly<Record<string, string>> = {
  uuid: 'This is no number of ours: it looks like 3f2b8c1e-5d4a-4c6b-9a7e-0d1f2e3c4b5a.',
  datetime: 'Write date and hour like 2026-03-29T10:00:00Z.',
  date: 'Write the date like 2026-03-29.',
  base64: 'This is not base64.',
};

const count = (n: unknown, one: string, more: string): string =>
  `${String(n)} ${Number(n) === 1 ? one : more}`;

/** How much at least or at most, by what is counted. */
function bound(
  origin: string,
  figure: unknown,
  inclusive: boolean | undefined,
  side: 'least' | 'most',
): string {
  if (origin === 'string')
    return side === 'least' && Number(figure) <= 1
      ? 'This is empty.'
      : `At ${side} ${count(figure, 'character', 'characters')}.`;
  if (origin === 'array' || origin === 'set')
    return side === 'least' && Number(figure) <= 1
      ? 'Give at least one.'
      : `At ${side} ${count(figure, 'entry', 'entries')}.`;
  if (inclusive === false)
    return side === 'least' ? `More than ${String(figure)}.` : `Less than ${String(figure)}.`;
  return `At ${side} ${String(figure)}.`;
}

/** The words for an issue that its schema has none for. */
export function issueWords(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined && issue.expected !== 'undefined'
        ? 'This is missing.'
        : (WANTED[issue.expected] ?? 'This is of another kind than is wanted here.');
    case 'too_small':
      return bound(issue.origin, issue.minimum, issue.inclusive, 'least');
    case 'too_big':
      return bound(issue.origin, issue.maximum, issue.inclusive, 'most');
    case 'not_multiple_of':
      return `In steps of ${String(issue.divisor)}.`;
    case 'invalid_format':
      return FORMS[issue.format] ?? 'This is not written as it should be.';
    case 'invalid_value':
      return issue.values.length === 1
        ? `Only ${String(issue.values[0])} is possible here.`
        : `One of ${issue.values.map(String).join(', ')}.`;
    case 'unrecognized_keys':
      return `Nobody knows a field ${issue.keys.map((key) => `“${key}”`).join(', ')} here: leave it out.`;
    case 'invalid_union':
      return 'This has none of the forms that it may have here.';
    case 'invalid_key':
    case 'invalid_element':
      return 'Something in this is not as it should be.';
    default:
      return 'This is not as it should be.';
  }
}

z.config({ localeError: issueWords });
