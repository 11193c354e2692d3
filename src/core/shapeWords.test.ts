import { z } from 'zod';

import { issueWords } from './shapeWords';

/* What people read where a schema says nothing of its own: our words, never those of the library. */

const said = (schema: z.ZodType, input: unknown): string => schema.safeParse(input).error!.issues[0]!.message;

test.each<[string, z.ZodType, unknown, string]>([
  ['nothing', z.object({ a: z.string() }), {}, 'This is missing.'],
  ['a word for a number', z.number(), 'x', 'Write a number here.'],
  ['not a number', z.number(), NaN, 'Write a number here.'],
  ['half of one', z.int(), 0.5, 'Write a whole number here.'],
  ['a number for a word', z.string(), 7, 'Write a text here.'],
  ['one for a list', z.array(z.number()), 7, 'Give a list here.'],
  ['a list for an object', z.object({}), [], 'Give an object with named fields here.'],
  ['too few', z.number().min(3), 2, 'At least 3.'],
  ['not more', z.number().positive(), 0, 'More than 0.'],
  ['too many', z.number().max(3), 4, 'At most 3.'],
  ['no text', z.string().min(1), '', 'This is empty.'],
  ['a long text', z.string().max(2), 'abc', 'At most 2 characters.'],
  ['an empty list', z.array(z.number()).min(1), [], 'Give at least one.'],
  ['a long list', z.array(z.number()).max(1), [1, 2], 'At most 1 entry.'],
  ['a longer list', z.array(z.number()).max(2), [1, 2, 3], 'At most 2 entries.'],
  ['none of the words', z.enum(['mm', 'in']), 'cm', 'One of mm, in.'],
  ['not the word', z.literal('mm'), 'cm', 'Only mm is possible here.'],
  [
    'no number of ours',
    z.uuid(),
    'x',
    'This is no number of ours: it looks like 3f2b8c1e-5d4a-4c6b-9a7e-0d1f2e3c4b5a.',
  ],
  ['a pattern', z.string().regex(/a/), 'b', 'This is not written as it should be.'],
  ['a field too many', z.strictObject({}), { a: 1 }, 'Nobody knows a field “a” here: leave it out.'],
  [
    'no form of several',
    z.union([z.string(), z.number()]),
    null,
    'This has none of the forms that it may have here.',
  ],
  ['a step', z.number().multipleOf(5), 3, 'In steps of 5.'],
  ['a rule without words', z.string().refine(() => false), 'x', 'This is not as it should be.'],
])('%s', (_, schema, input, words) => {
  expect(said(schema, input)).toBe(words);
});

test('what a schema says itself comes first', () => {
  expect(said(z.number('Type the distance.'), 'x')).toBe('Type the distance.');
  expect(issueWords({ code: 'custom', input: 1, path: [] } as never)).not.toMatch(/invalid/i);
});
