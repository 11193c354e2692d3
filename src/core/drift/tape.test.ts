import fc from 'fast-check';

import { correctedFeed, creepFromTapes, isReal, lengthError } from './tape';

const tape = (nominalMm: number, measuredMm: number, uMm = 0.3) => ({ nominalMm, measuredMm, uMm });

test.each([
  ['2 m that measure 2.003 m at 100 %', [tape(2000, 2003)], 100, 99.85],
  ['too short, on top of an earlier compensation', [tape(3000, 2997)], 99.5, 99.6],
  ['one that is right', [tape(5000, 5000)], 100.12, 100.12],
])('the feed to type: %s', (_, tapes, now, typed) => {
  expect(correctedFeed(now, lengthError(tapes)!)).toBeCloseTo(typed, 9);
});

test('a print made with the corrected feed measures what it should, whatever it was', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0.98, max: 1.02, noNaN: true }),
      fc.double({ min: 90, max: 110, noNaN: true }),
      (stretch, now) => {
        const next = correctedFeed(now, lengthError([tape(4000, 4000 * stretch)])!);
        // Length is in proportion to the feed; 0.005 % is half a step.
        expect(Math.abs((stretch * next) / now - 1)).toBeLessThan(0.0051 / now + 1e-12);
      },
    ),
  );
});

test('several tapes weigh by what they can tell: a long one more than a short one', () => {
  const both = lengthError([tape(1000, 1001), tape(10_000, 10_000)])!;
  // Weights 1 and 100 for the same uncertainty: 1/101 of 1 mm per m.
  expect(both.perM).toBeCloseTo(1 / 101, 9);
  expect(both.uPerM).toBeCloseTo(0.3 / Math.sqrt(101), 9);
  expect(lengthError([])).toBeNull();
});

test.each([
  [1001, true],
  [1000.5, false],
  [999.3, true],
])('1 m measured as %s mm with ± 0.6 mm is more than reading noise: %s', (measured, real) => {
  expect(isReal(lengthError([tape(1000, measured)])!)).toBe(real);
});

test('the cut against the print: both tapes’ uncertainty, signs as everywhere', () => {
  const creep = creepFromTapes({ perM: 0.4, uPerM: 0.03 }, { perM: 0.1, uPerM: 0.04 });
  expect(creep.perM).toBeCloseTo(0.3, 12);
  expect(creep.uPerM).toBeCloseTo(0.05, 12);
});
