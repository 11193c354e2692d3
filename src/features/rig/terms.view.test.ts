import type { Terms } from '@/core/fit';
import type { FoundTerms } from '@/server/watch/foundTerms';

import { atCorner, termBands } from './terms.view';

const TRUE: Terms = { shiftXMm: 0, shiftYMm: 0, turnRad: 0, scaleAcross: 1, scaleAlong: 1, leanRad: 0 };
/** 300 by 400: the corner is 250 from the middle. */
const AREA = { x0: 10, y0: 20, x1: 310, y1: 420 };

test.each<[keyof Terms, number, number]>([
  ['shiftXMm', -0.3, -0.3],
  ['shiftYMm', 0.2, 0.2],
  ['turnRad', 0.001, 0.25],
  ['scaleAcross', 1.002, 0.3],
  ['scaleAlong', 0.999, -0.2],
  ['leanRad', -0.0005, -0.1],
])('%s of %d moves the corner by %d mm', (term, value, mm) => {
  expect(atCorner(term, { ...TRUE, [term]: value }, AREA)).toBeCloseTo(mm, 9);
});

const found = (day: number, more: Partial<FoundTerms> & { terms: Terms }): FoundTerms => ({
  setupId: 'vinyl',
  position: 1,
  at: new Date(Date.UTC(2026, 5, day)),
  shiftOnly: false,
  typedBefore: false,
  shown: {},
  fileMm: { x: 0, y: 0 },
  workArea: AREA,
  ...more,
});

test('lines break where something was typed; a check of one place tells the shift alone; the last is in words', () => {
  const list = [
    found(1, { terms: { ...TRUE, shiftXMm: 0.1 } }),
    found(2, { terms: { ...TRUE, shiftXMm: 0.2 }, shiftOnly: true }),
    found(3, { terms: { ...TRUE, shiftXMm: -0.25, scaleAlong: 1.0014 }, typedBefore: true }),
    found(4, { terms: TRUE, setupId: 'foil' }),
  ];
  const bands = termBands(list, 'vinyl', 'mm');
  const of = (term: string) => bands.find((b) => b.term === term)!;
  const line = (term: string) => of(term).lines.find((l) => l.setupId === 'vinyl')!;
  expect(line('shiftXMm').pieces.map((p) => p.map((q) => q.mm))).toEqual([[0.1, 0.2], [-0.25]]);
  expect(line('scaleAlong').pieces.flat()).toHaveLength(2);
  expect(of('shiftXMm').last).toEqual({ figure: '−0.25', words: '0.25 mm left' });
  expect(of('scaleAlong').last).toEqual({ figure: '+0.28', words: '0.14 % long' });
  expect(of('turnRad').lines.map((l) => l.setupId)).toEqual(['vinyl', 'foil']);
  expect(termBands(list, 'nothing', 'mm')[0]!.last).toBeNull();
});
