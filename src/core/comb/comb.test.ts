import fc from 'fast-check';

import {
  coarseOffset,
  cutPitchMm,
  intervalEstimate,
  nearestLengths,
  pickFromSteps,
  pickNearest,
  pickOffsetMm,
  pickSteps,
  pickUncertaintyMm,
  printPitchMm,
  tellsLengths,
  type LineComb,
} from '../comb';

const comb: LineComb = { axis: 'across', centre: { x: 0, y: 0 }, stepMm: 0.1, halfLines: 5, phaseMm: 0.03 };

test('the pitch leaves no gap and takes no neighbour for the true line', () => {
  expect(printPitchMm(comb)).toBeCloseTo(1.2, 12);
  expect(cutPitchMm(comb)).toBeCloseTo(1.1, 12);
  expect(printPitchMm(comb)).toBeGreaterThan((2 * comb.halfLines + 1) * comb.stepMm);
  expect(cutPitchMm(comb)).toBeLessThanOrEqual((2 * comb.halfLines + 1) * comb.stepMm + 1e-12);
});

test.each([
  [{ line: 3, between: false, lengths: 0 }, 0.33],
  [{ line: -2, between: true, lengths: 0 }, -0.12],
  [{ line: -4, between: false, lengths: 3 }, 2.93],
  [{ line: 5, between: false, lengths: -2 }, -1.67],
])('pick %j says %d mm', (pick, wanted) => {
  expect(pickOffsetMm(comb, pick)).toBeCloseTo(wanted, 12);
});

test('steps and picks are the same thing, and the arrow keys run through whole comb lengths', () => {
  fc.assert(
    fc.property(fc.integer({ min: -120, max: 120 }), fc.boolean(), (whole, half) => {
      const steps = whole + (half ? 0.5 : 0);
      const pick = pickFromSteps(comb, steps);
      expect(Math.abs(pick.line)).toBeLessThanOrEqual(comb.halfLines);
      expect(pickSteps(comb, pick)).toBe(steps);
      expect(pickOffsetMm(comb, pick)).toBeCloseTo(steps * 0.1 + 0.03, 10);
      expect(pickNearest(comb, pickOffsetMm(comb, pick), true)).toEqual(pick);
    }),
  );
});

test('a coarse reading that is right to its half graduation always finds the whole length', () => {
  fc.assert(
    fc.property(fc.double({ min: -6, max: 6, noNaN: true }), (offset) => {
      const rough = coarseOffset(Math.round(offset / 0.5) * 0.5);
      expect(tellsLengths(comb, rough)).toBe(true);
      const pick = pickNearest(comb, offset);
      const found = nearestLengths(comb, pick.line, pick.between, rough);
      expect(Math.abs(pickOffsetMm(comb, { ...pick, lengths: found }) - offset)).toBeLessThan(0.051);
    }),
  );
});

test('uncertainty of a pick: 0.29 δ from resolution alone (GUM F.2.2.1), with acuity in quadrature', () => {
  expect(pickUncertaintyMm(0.1, 0)).toBeCloseTo(0.0288675, 6);
  expect(pickUncertaintyMm(0.1)).toBeCloseTo(Math.hypot(0.0288675, 0.02), 6);
});

describe('interval likelihood', () => {
  const pick = (loMm: number, hiMm: number, acuityMm = 1e-4) => ({ loMm, hiMm, acuityMm });

  test('one sharp pick is a uniform: sd δ/√12, interval 95 % of its width', () => {
    const one = intervalEstimate([pick(0.2, 0.3)])!;
    expect(one.meanMm).toBeCloseTo(0.25, 6);
    expect(one.sdMm).toBeCloseTo(0.1 / Math.sqrt(12), 4);
    expect(one.hi95Mm - one.lo95Mm).toBeCloseTo(0.095, 3);
  });

  test('repeats at one phase do not average rounding away; two phases narrow it to their overlap', () => {
    const again = intervalEstimate([pick(0.2, 0.3), pick(0.2, 0.3), pick(0.2, 0.3)])!;
    expect(again.sdMm).toBeCloseTo(0.1 / Math.sqrt(12), 3);
    const two = intervalEstimate([pick(0.2, 0.3), pick(0.25, 0.35)])!;
    expect(two.meanMm).toBeCloseTo(0.275, 4);
    expect(two.sdMm).toBeCloseTo(0.05 / Math.sqrt(12), 3);
  });

  test('contradicting picks give no estimate rather than a made-up one', () => {
    expect(intervalEstimate([pick(0, 0.1), pick(0.5, 0.6)])).toBeNull();
    expect(intervalEstimate([])).toBeNull();
  });
});
