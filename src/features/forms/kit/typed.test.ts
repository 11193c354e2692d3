import {
  chosenFrom,
  figure,
  figureOrNone,
  length,
  lengthOrNone,
  plainWords,
  readTyped,
  whole,
  wholeOrNone,
  wordsOrNone,
  type Reader,
} from './typed';

const NUMBER = 'Type a number.';

test.each<[string, Reader<unknown>, string, 'mm' | 'in', unknown]>([
  ['a decimal comma', length, '12,5', 'mm', 12.5],
  ['a fraction of an inch', length, '1/16', 'in', 1.5875],
  ['its own unit', length, '1 in', 'mm', 25.4],
  ['no length where none is needed', lengthOrNone, '  ', 'mm', null],
  ['a figure with a minus as it is printed', figure(NUMBER), '\u22123,5', 'mm', -3.5],
  ['no figure where none is needed', figureOrNone(NUMBER), '', 'in', null],
  ['a whole number at its limit', whole(0, 12, NUMBER), '12', 'mm', 12],
  ['none where none is needed', wholeOrNone(1, 9, NUMBER), '', 'mm', null],
  ['words as they are', plainWords, ' as is ', 'mm', ' as is '],
  ['no words', wordsOrNone, '', 'mm', null],
  ['a choice', chosenFrom('Choose.'), 'A1', 'mm', 'A1'],
])('%s', (_, reader, typed, unit, value) => {
  const read = reader(typed, unit);
  expect(read.ok).toBe(true);
  if (!read.ok) return;
  if (typeof value === 'number') expect(read.value).toBeCloseTo(value, 9);
  else expect(read.value).toBe(value);
});

test.each<[string, Reader<unknown>, string, RegExp]>([
  ['no length', length, '', /./],
  ['words for a length', length, 'about 3', /“about 3” is not a length/],
  ['an empty figure', figure(NUMBER), ' ', /Type a number/],
  ['endless', figure(NUMBER), '1e999', /Type a number/],
  ['a part of a whole', whole(0, 12, NUMBER), '1.5', /Type a number/],
  ['beyond a limit', whole(0, 12, NUMBER), '13', /Type a number/],
  ['nothing chosen', chosenFrom('Choose a station.'), '', /Choose a station/],
])('%s is refused in words', (_, reader, typed, words) => {
  const read = reader(typed, 'mm');
  expect(read.ok ? '' : read.refusal).toMatch(words);
});

test('all that is wrong is said at once, each by its field', () => {
  const readers = { width: length, height: length, note: plainWords };
  expect(readTyped({ width: 'x', height: '', note: '' }, readers, 'mm')).toMatchObject({
    ok: false,
    refusal: { width: expect.any(String), height: expect.any(String) },
  });
  expect(readTyped({ width: '1', height: '2', note: 'n' }, readers, 'mm')).toEqual({
    ok: true,
    value: { width: 1, height: 2, note: 'n' },
  });
});
