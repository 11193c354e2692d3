import fc from 'fast-check';

import { dayText, readDay } from './dayText';

test.each([
  ['9 Aug 2026', '2026-08-09'],
  [' 9  august 2026 ', '2026-08-09'],
  ['09.08.2026', '2026-08-09'],
  ['2026-08-09', '2026-08-09'],
  ['29 Feb 2024', '2024-02-29'],
  ['29 Feb 2026', null],
  ['5/6/2026', null],
  ['9 Aug 26', null],
  ['yesterday', null],
  ['', null],
])('“%s” is %s', (typed, day) => expect(readDay(typed)).toBe(day));

test('property: a day as it is shown is read back as itself', () => {
  const days = fc.date({ min: new Date(1990, 0, 1), max: new Date(2090, 0, 1), noInvalidDate: true });
  fc.assert(
    fc.property(days, (date) => {
      const day = `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;
      expect(readDay(dayText(day))).toBe(day);
    }),
  );
  expect(dayText('')).toBe('');
});
