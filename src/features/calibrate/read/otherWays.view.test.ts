import { gapsWay } from '@/core/readings/gaps';

import { noGaps, otherRows, readGapTexts, type GapField, type GapTexts } from './otherWays.view';

/** What the way of gaps says of one shape. */
function told(given: Parameters<typeof gapsWay.kept.tell>[0]) {
  const read = gapsWay.kept.tell(given, { stations: [], station: null, taken: new Set() });
  if (!read.ok) throw new Error(read.refusal.code);
  return read.value;
}

const typed = (change: Partial<GapTexts>, unit: 'mm' | 'in' = 'mm'): GapTexts => ({
  ...noGaps(unit),
  ...{ x: '100', y: '150', left: '1.5', right: '2.5', near: '2', far: '2', nominal: '2' },
  ...change,
});

test('gaps as a ruler says them: half the difference, to where the cut lies', () => {
  const read = readGapTexts(typed({}), 'mm');
  if (!read.ok) throw new Error(JSON.stringify(read.errors));
  const { read: readings, doubts } = told(read.value);
  expect(doubts).toEqual([]);
  expect(otherRows(readings, 'mm')).toEqual([
    {
      ...{ id: 'G1', how: 'gaps round a shape', axes: ['across', 'along'] },
      where: '100 mm from the left, 150 mm from the near edge',
      // Half a millimetre more on the right than on the left; equal borders round alike: 0.5/√12.
      ...{ says: '0.50 mm right, on the print along', sure: '± 0.14 mm' },
    },
  ]);
});

test('fractions of an inch, minus for a cut inside the print, one axis alone', () => {
  const inches = { x: '4', y: '6', left: '-1/32', right: '1/32', near: '', far: '', nominal: '0' };
  const read = readGapTexts(typed(inches, 'in'), 'in');
  if (!read.ok) throw new Error(JSON.stringify(read.errors));
  expect(read.value).toMatchObject({ x: 101.6, gaps: { near: null, far: null } });
  const [row] = otherRows(told(read.value).read, 'in');
  expect(row).toMatchObject({
    says: '0.031 in right',
    axes: ['across'],
    where: '4 in from the left, 6 in from the near edge',
  });
});

test.each<[string, Partial<GapTexts>, GapField, RegExp]>([
  ['no place', { x: '' }, 'x', /./],
  ['no number', { left: 'half' }, 'left', /./],
  ['half an axis of an unknown border', { right: '', nominal: '' }, 'nominal', /one side of two.*0 counts/],
  ['nothing measured', { left: '', right: '', near: '', far: '' }, 'left', /at least one side/],
  ['a thousand or a decimal', { y: '1,250' }, 'y', /decimal or a thousand/],
])('%s: said at its field', (_, change, field, words) => {
  const read = readGapTexts(typed(change), 'mm');
  expect(read.ok).toBe(false);
  if (!read.ok) expect(read.errors[field]).toMatch(words);
});

test('one side is enough where the border is known', () => {
  const read = readGapTexts(typed({ right: '', near: '', far: '' }), 'mm');
  if (!read.ok) throw new Error(JSON.stringify(read.errors));
  // The border as designed is 2 mm, the gap at the left 1.5 mm: half a millimetre to the right.
  expect(otherRows(told(read.value).read, 'mm')).toMatchObject([{ says: '0.50 mm right', axes: ['across'] }]);
});

test('gaps that no cut of the shape can have are questioned', () => {
  const read = readGapTexts(typed({ left: '5', right: '5' }), 'mm');
  if (!read.ok) throw new Error(JSON.stringify(read.errors));
  expect(told(read.value).doubts).toMatchObject([{ code: 'impossible-size' }]);
});

test.each([
  ['mm', 'better than 0.01 mm'],
  ['in', 'better than 0.001 in'],
] as const)(
  'a figure of a table that is finer than what is shown is not sure to nothing (%s)',
  (unit, words) => {
    const pick = { school: 'table' as const };
    const at = { stationId: 'T-1', axis: 'across' as const, xMm: 40, yMm: 60, offsetMm: 0.15, pick };
    expect(otherRows([{ ...at, uMm: 0.0029 }], unit)[0]!.sure).toBe(words);
    expect(otherRows([{ ...at, uMm: 0.05 }], unit)[0]!.sure).toMatch(/^± 0\.0/);
  },
);
