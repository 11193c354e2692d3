import { normalDeviate, seededRandom } from '../random/random';

import { MEDIA_TO_TELL, newMedium, type MediumStands } from '.';

test('three media by hand', () => {
  const stand = (xMm: number, yMm: number): MediumStands => ({ xMm, yMm, varMm2: 0.0004 });
  const told = newMedium([stand(0.1, 0), stand(0.3, 0.1), stand(0.2, -0.1)], 0.03)!;
  expect(told.xMm).toBeCloseTo(0.2, 12);
  expect(told.yMm).toBeCloseTo(0, 12);
  // Squares 0.02 and 0.02 over 2 · 2 degrees: 0.01 an axis; a third more for the mean.
  // 5 %: F(2, 4) = 6.944 (tables); Rayleigh’s 2.4477 for the load (closed form).
  expect(told.r95Mm).toBeCloseTo(Math.hypot(Math.sqrt(2 * 6.944 * 0.01 * (4 / 3)), 2.4477 * 0.03), 3);
  expect(newMedium([stand(0, 0)], 0.03)).toBeNull();
});

test.each([2, 3, 6])(
  'of %d media on record: 95 of 100 new ones land within what is said, alike or not',
  (count) => {
    const random = seededRandom(count);
    const trials = 4000;
    for (const between of [0.02, 0.1, 0.3]) {
      let held = 0;
      for (let i = 0; i < trials; i += 1) {
        const step = (sd: number): number => sd * normalDeviate(random);
        const others = Array.from({ length: count }, () => ({
          ...{ xMm: step(between) + step(0.01), yMm: step(between) + step(0.01), varMm2: 0.01 ** 2 },
        }));
        const told = newMedium(others, 0.03)!;
        const [x, y] = [step(between) + step(0.03), step(between) + step(0.03)];
        if (Math.hypot(x - told.xMm, y - told.yMm) <= told.r95Mm) held += 1;
      }
      // Where media differ less than one load from the next it promises too little rather than too much.
      expect(held / trials).toBeGreaterThan(0.94);
      if (between >= 0.1) expect(held / trials).toBeLessThan(0.97);
    }
    expect(count).toBeGreaterThanOrEqual(MEDIA_TO_TELL);
  },
);
