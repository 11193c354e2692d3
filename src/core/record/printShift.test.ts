import fc from 'fast-check';

import { normalDeviate, seededRandom } from '../random/random';

import { repeatedShift, type PrintShift } from './printShift';

const at = (dxMm: number, dyMm = 0): PrintShift => ({ dxMm, dyMm });

test.each<[string, readonly PrintShift[], ReturnType<typeof repeatedShift>]>([
  ['two say nothing', [at(2), at(2)], null],
  ['three alike', [at(2.1), at(1.9), at(2)], { dxMm: 2, dyMm: 0, times: 3 }],
  ['both ways', [at(-1.2, 3), at(-1.3, 2.9), at(-1.1, 3.1)], { dxMm: -1.2, dyMm: 3, times: 3 }],
  ['less than anybody would move', [at(0.4), at(0.4), at(0.4), at(0.4)], null],
  ['now here, now there', [at(3), at(-2), at(1), at(4)], null],
])('%s', (_, shifts, found) => {
  expect(repeatedShift(shifts)).toEqual(found);
});

test('a tray without a shift of its own is offered one in fewer than 5 of 100 sets of prints', () => {
  const random = seededRandom(7);
  const offered = Array.from({ length: 4000 }, (_, i) =>
    repeatedShift(Array.from({ length: 3 + (i % 4) }, () => at(0.5 * normalDeviate(random), 0))),
  ).filter(Boolean).length;
  expect(offered / 4000).toBeLessThan(0.05);
});

test('property: moved against what was found, no more than a rule’s doubt is left of a steady shift', () => {
  const far = fc.integer({ min: -60, max: 60 }).map((v) => v / 10);
  fc.assert(
    fc.property(far, far, fc.integer({ min: 3, max: 8 }), (dxMm, dyMm, times) => {
      const found = repeatedShift(Array.from({ length: times }, () => at(dxMm, dyMm)));
      const left = [dxMm - (found?.dxMm ?? 0), dyMm - (found?.dyMm ?? 0)];
      expect(Math.max(...left.map(Math.abs))).toBeLessThanOrEqual(0.5 + 1e-9);
    }),
  );
});
