import fc from 'fast-check';

import { radialProbability } from '../statistics';

import { bleedCurve, bleedFor, bleedNeeded, misregistrationAt, shareHidden, shiftScatter, worstR95 } from '.';

const CORNER = { x: 200, y: 300 };
const AREA = { x0: 0, y0: 0, x1: 200, y1: 300 };
const rig = (exMm: number, turn: number, loadMm: number) => ({
  bias: { origin: { x: 100, y: 150 }, b11: 0, b12: -turn, b21: turn, b22: 0, exMm, eyMm: 0.05 },
  covariance: Array.from({ length: 6 }, (_, i) =>
    Array.from({ length: 6 }, (__, j) => (i === j ? (i < 4 ? 1e-8 : 4e-4) : 0)),
  ),
  load: shiftScatter(loadMm),
});

test.each([
  // Round and centred: radius² = −2σ² ln(1 − share) (Rayleigh, closed form), two loads' scatter each way.
  [0.05, 0.95],
  [0.05, 0.999],
  [0.2, 0.3],
])('a centred round scatter of %d mm at a share of %d', (loadMm, share) => {
  const still = rig(0, 0, loadMm);
  const none = {
    ...still,
    bias: { ...still.bias, eyMm: 0 },
    covariance: still.covariance.map((r) => r.map(() => 0)),
  };
  const mm = Math.sqrt(-2 * 2 * loadMm ** 2 * Math.log(1 - share));
  const curve = bleedCurve(none, CORNER);
  expect(bleedFor(curve, share)! / mm).toBeCloseTo(1, 2);
  expect(shareHidden(curve, mm)).toBeCloseTo(share, 3);
});

test('both ways are one curve, and the table of 95, 99 and 99.9 lies on it', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -0.3, max: 0.3, noNaN: true }),
      fc.double({ min: -1e-3, max: 1e-3, noNaN: true }),
      fc.double({ min: 0.01, max: 0.2, noNaN: true }),
      fc.double({ min: 0.5, max: 0.999, noNaN: true }),
      (ex, turn, load, share) => {
        const prediction = rig(ex, turn, load);
        const worst = worstR95(prediction, AREA);
        const curve = bleedCurve(prediction, worst.at);
        const mm = bleedFor(curve, share)!;
        expect(shareHidden(curve, mm)).toBeCloseTo(share, 9);
        expect(radialProbability(misregistrationAt(prediction, worst.at), mm)).toBeCloseTo(share, 2);
        const table = bleedNeeded(prediction, AREA);
        expect(bleedFor(curve, 0.95)! / table.of95Mm).toBeCloseTo(1, 2);
        expect(bleedFor(curve, 0.99)! / table.of99Mm).toBeCloseTo(1, 1.5);
      },
    ),
    { numRuns: 40 },
  );
});

test('beyond the curve nothing is claimed', () => {
  const curve = bleedCurve(rig(0, 0, 0.05), CORNER);
  expect(shareHidden(curve, 9)).toBeNull();
  expect(bleedFor(curve, 0.9999999)).toBeNull();
  expect(shareHidden(curve, 0)).toBe(0);
});
