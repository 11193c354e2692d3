import fc from 'fast-check';

import { atPageEnd, isPageRange, middleOfPage, placeOnPage, type PagePick } from './ownPage';

const pick = (picked: string, from: string, to: string, middle = ''): PagePick => ({
  ...{ pick: picked, from, to, middle },
});

test.each([
  ['numbers', '-5', '5', '-2', 3],
  ['a true minus and a decimal comma', '−5', '5', '−1,5', 3.5],
  ['letters', 'A', 'K', 'f', 5],
  ['letters that do not begin at A', 'D', 'K', 'E', 1],
  ['a letter and a number', 'A1', 'C9', 'B3', 11],
  ['the same with a dash', 'A-1', 'C-9', 'B-3', 11],
  ['a number on a page of letters', 'A', 'K', '3', null],
  ['a letter alone on a page of both', 'A1', 'C9', 'B', null],
  ['a number that no letter has', 'A1', 'C9', 'B12', null],
  ['words', '1', '9', 'three', null],
  ['nothing', '1', '9', ' ', null],
  ['ends of two kinds', '1', 'K', '3', null],
])('%s: on %s to %s, %s is line %s', (_, from, to, text, place) => {
  expect(placeOnPage({ from, to }, text)).toBe(place);
});

test.each([
  ['halfway when nobody says', pick('1', '1', '21'), 10],
  ['where it is said', pick('1', '1', '21', '9'), 8],
  ['of letters', pick('A', 'A', 'K'), 5],
])('the middle: %s', (_, range, middle) => expect(middleOfPage(range)).toBe(middle));

test.each([
  ['neither', pick('3', '1', '9'), pick('C', 'A', 'K'), []],
  ['the first', pick('1', '1', '9'), pick('C', 'A', 'K'), ['across']],
  ['each by its own range', pick('5', '-5', '5'), pick('K', 'A', 'K'), ['across', 'along']],
  ['nine is no end of twenty', pick('9', '1', '20'), pick('9', '1', '9'), ['along']],
])('at the end of the page: %s', (_, across, along, ends) => {
  expect(atPageEnd({ across, along })).toEqual(ends);
});

test('labels of a page lie one after the other, whatever it begins with', () => {
  const letters = fc.integer({ min: 0, max: 12 }).map((i) => String.fromCharCode(65 + i));
  fc.assert(
    fc.property(
      letters,
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 1, max: 9 }),
      (first, by, most) => {
        const last = String.fromCharCode(first.charCodeAt(0) + by);
        const range = { from: `${first}1`, to: `${last}${most}` };
        const labels = Array.from({ length: by + 1 }, (_, i) =>
          Array.from({ length: most }, (_, n) => `${String.fromCharCode(first.charCodeAt(0) + i)}${n + 1}`),
        ).flat();
        expect(labels.map((label) => placeOnPage(range, label))).toEqual(labels.map((_, i) => i));
        expect(isPageRange(range)).toBe(true);
        expect(isPageRange({ from: range.to, to: range.from })).toBe(false);
      },
    ),
  );
});
