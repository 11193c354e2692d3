import type { NestedSheets } from '@/core/layout/nest';

import { nestingWords } from './nesting.view';

const sheets = (...counts: number[]): NestedSheets =>
  counts.map((n) => Array.from({ length: n }, () => ({ item: 'A', turnDeg: 0, x: 0, y: 0 })));

test.each([
  [
    [12],
    sheets(15),
    true,
    'Nested, one sheet would hold 15 pieces instead of 12: 25 % more from the same media.',
  ],
  [[12, 12, 6], sheets(15, 15), true, 'Nested, it takes 2 sheets instead of 3 sheets.'],
  [[12], sheets(12), false, 'Nested, it takes as much media as it does now: nothing is saved so far.'],
  [[12], sheets(11), false, 'Nested, it takes as much media as it does now: nothing is saved so far.'],
  [[12, 1], sheets(12), false, 'Nested, it takes as much media as it does now: nothing is saved so far.'],
])('%j against a nesting', (now, nested, saves, said) => {
  expect(nestingWords(now, nested)).toEqual({ saves, said });
});
