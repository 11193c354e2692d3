import { normalDeviate, seededRandom, type Random } from '../random/random';
import { chiSquareQuantile } from '../statistics';

import { registrationScatter, type RegisteredTwice } from '.';

const READ_MM = 0.012;
const pair = (random: Random, sdMm: number): RegisteredTwice => {
  const off = (): number => Math.SQRT2 * (sdMm * normalDeviate(random) + READ_MM * normalDeviate(random));
  return { xMm: off(), yMm: off(), varMm2: 2 * READ_MM ** 2 };
};

test('χ² below which a share lies, as tabled (Pearson & Hartley; from memory)', () => {
  expect(chiSquareQuantile(0.975, 10)).toBeCloseTo(20.483, 3);
  expect(chiSquareQuantile(0.025, 10)).toBeCloseTo(3.247, 3);
});

test('by hand: differences of 0.1 mm, read exactly, are registrations that scatter by 0.1/√2', () => {
  const told = registrationScatter([
    { xMm: 0.1, yMm: 0.1, varMm2: 0 },
    { xMm: -0.1, yMm: 0.1, varMm2: 0 },
  ])!;
  expect(told.sdMm).toBeCloseTo(0.1 / Math.SQRT2, 12);
  expect(told).toMatchObject({ pairs: 2 });
});

test('one pair says nothing; pairs that differ less than reading does say nought, with how much it may be', () => {
  const small = { xMm: 0.001, yMm: 0.001, varMm2: 0.02 ** 2 };
  expect(registrationScatter([small])).toBeNull();
  expect(registrationScatter([small, small, small])).toMatchObject({ sdMm: 0, lowMm: 0 });
});

test.each([
  [0.02, 3],
  [0.05, 8],
])('scatter of %d mm over %d sheets: its interval holds it in 95 of 100, within two', (sdMm, pairs) => {
  const random = seededRandom(11);
  let held = 0;
  const trials = 2000;
  for (let i = 0; i < trials; i += 1) {
    const told = registrationScatter(Array.from({ length: pairs }, () => pair(random, sdMm)))!;
    if (told.lowMm <= sdMm && sdMm <= told.highMm) held += 1;
  }
  expect(held / trials).toBeGreaterThan(0.93);
  expect(held / trials).toBeLessThan(0.97);
});
