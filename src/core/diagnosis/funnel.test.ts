import { seededRandom } from '../random/random';

import { funnel } from '.';

test.each([
  // Deming’s rule 2: the variance of what is compensated fully is twice that of what is left; a reading adds its own.
  [0.05, 0, Math.SQRT2],
  [0.05, 0.05, Math.sqrt(3)],
  [0.05, 0.02, Math.sqrt(2 + 0.16)],
])('loads of %d mm, read to %d mm: chased, they spread %d times as far', (load, reading, times) => {
  const { left, chased } = funnel(load, reading, 40_000, seededRandom(3));
  expect(left.rmsMm / load).toBeCloseTo(1, 1);
  expect(chased.rmsMm / left.rmsMm).toBeCloseTo(times, 1);
});

test('the first load is the same either way; a rig without scatter has nothing to chase', () => {
  const { left, chased } = funnel(0.05, 0.02, 30, seededRandom(9));
  expect(chased.landedMm[0]).toBe(left.landedMm[0]);
  expect(left.landedMm).toHaveLength(30);
  expect(funnel(0, 0, 5, seededRandom(1)).chased.rmsMm).toBe(0);
});
