import type { KeptLength } from '@/core/readings';

import { readTyped } from '@/features/forms/kit/typed';

import { lengthDoubts, lengthReaders, lengthsView, noLength, sameEnds } from './lengths.view';

const STATIONS = [
  { id: 'A1', x: 50, y: 50 },
  { id: 'A2', x: 550, y: 50 },
  { id: 'A3', x: 50, y: 750 },
  { id: 'A4', x: 550, y: 750 },
];
const texts = { from: 'A1', to: 'A4', printMm: '', cutMm: '860.5', resolutionMm: '0.5' };

test.each([
  [texts, 'mm', { from: 'A1', to: 'A4', printMm: null, cutMm: 860.5, resolutionMm: 0.5 }],
  [
    { ...texts, printMm: '33 7/8', cutMm: '33.9', resolutionMm: '1/64' },
    'in',
    { printMm: 860.425, cutMm: 861.06 },
  ],
] as const)('%j in %s is read', (typed, unit, value) => {
  const read = readTyped(typed, lengthReaders, unit);
  if (!read.ok) throw new Error(JSON.stringify(read.refusal));
  for (const [name, wanted] of Object.entries(value)) {
    const got = read.value[name as keyof typeof read.value];
    if (typeof wanted === 'number') expect(got).toBeCloseTo(wanted, 6);
    else expect(got).toBe(wanted);
  }
});

test.each([
  [{ ...texts, cutMm: 'long' }, ['cutMm']],
  [{ ...texts, cutMm: '' }, ['cutMm']],
  [{ ...texts, from: '' }, ['from']],
  [{ ...texts, to: 'A1' }, ['to']],
  [{ ...texts, printMm: 'x', resolutionMm: 'fine' }, ['printMm', 'resolutionMm']],
])('%j is said by its fields', (typed, fields) => {
  const read = readTyped(typed, lengthReaders, 'mm');
  expect(Object.keys(read.ok ? sameEnds(read.value) : read.refusal).sort()).toEqual(fields);
});

test('a length that the sheet cannot have is asked about, with what may have been meant', () => {
  const asked = (cutMm: number, typed: string) =>
    lengthDoubts(STATIONS, { from: 'A1', to: 'A2', printMm: null, cutMm }, { ...texts, cutMm: typed }, 'mm');
  expect(asked(501.2, '501.2')).toEqual([]);
  expect(asked(50.1, '50.1')).toMatchObject([
    { field: 'cutMm', typed: '50.1', proposed: ['501'], why: '50.10 mm where 500.00 mm should be.' },
  ]);
  expect(asked(19.69, '19.69')).toMatchObject([{ proposed: ['500.126'] }]);
  expect(asked(300, '300')).toMatchObject([{ proposed: [] }]);
});

const kept = (from: string, to: string, by: number, printed = true): KeptLength => {
  const [a, b] = [from, to].map((id) => STATIONS.find((s) => s.id === id)!);
  const mm = Math.hypot(b!.x - a!.x, b!.y - a!.y);
  return { from, to, printMm: printed ? mm : null, cutMm: mm * by, resolutionMm: 0.1 };
};

test('nothing measured yet: a side is proposed, and the form starts with it', () => {
  const view = lengthsView(STATIONS, [], 'mm');
  expect([view.says, view.trusts, view.rows]).toEqual(['', '', []]);
  expect(view.next).not.toBeNull();
  expect(noLength(view.next, 'in')).toMatchObject({ from: view.next!.from, resolutionMm: '1/64', cutMm: '' });
  expect(noLength(null, 'mm')).toMatchObject({ from: '', to: '', resolutionMm: '0.5' });
});

test('what is missing is said, then what the lengths say, with its sign in words', () => {
  const sides = [kept('A1', 'A2', 1.002), kept('A1', 'A3', 0.999)];
  expect(lengthsView(STATIONS, sides, 'mm').says).toContain('cannot tell the lean: measure both diagonals');
  const { says, trusts, next } = lengthsView(
    STATIONS,
    [...sides, kept('A1', 'A4', 1), kept('A2', 'A3', 1, false)],
    'mm',
  );
  expect(says).toMatch(
    /^By the lengths alone the cut is 0\.\d\d % ± 0\.\d\d too wide, 0\.\d\d % ± 0\.\d\d too short;/,
  );
  expect(says).toContain('Shift and turn they cannot tell.');
  expect(trusts).toContain('taken to be true to size');
  expect(next === null || typeof next.from === 'string').toBe(true);
});

test('a cut that is true within the ruler says so', () => {
  const all = [kept('A1', 'A2', 1), kept('A1', 'A3', 1), kept('A1', 'A4', 1), kept('A2', 'A3', 1)];
  expect(lengthsView(STATIONS, all, 'mm').says).toMatch(
    /its width true within 0\.0\d %, its length true within/,
  );
});
