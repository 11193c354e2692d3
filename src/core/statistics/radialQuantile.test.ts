import fc from 'fast-check';

import { coverageFactor } from './distributions';
import { radialProbability, radialQuantile } from './radialQuantile';

const centred = { meanX: 0, meanY: 0, varX: 1, varY: 1, covXY: 0 };

test.each([
  ['r95 = σ·√(−2 ln 0.05)', 0.95, 2.447746830680816],
  ['r50 = σ·√(2 ln 2)', 0.5, 1.1774100225154747],
])('Rayleigh, closed form: %s', (_, share, wanted) => {
  expect(radialQuantile(centred, share)).toBeCloseTo(wanted, 7);
});

test('no scatter at all: the radius is the bias', () => {
  expect(radialQuantile({ meanX: 0.3, meanY: 0.4, varX: 0, varY: 0, covXY: 0 }, 0.95)).toBeCloseTo(0.5, 6);
});

test('one axis only: the folded normal', () => {
  expect(radialQuantile({ ...centred, varY: 0 }, 0.95)).toBeCloseTo(coverageFactor(0.95, Infinity), 6);
});

test('agrees with a plain sum over a fine grid, whatever the bias and the correlation', () => {
  const small = fc.double({ min: -0.3, max: 0.3, noNaN: true });
  const spread = fc.double({ min: 0.02, max: 0.2, noNaN: true });
  const tilt = fc.double({ min: -0.9, max: 0.9, noNaN: true });
  fc.assert(
    fc.property(small, small, spread, spread, tilt, spread, (meanX, meanY, sx, sy, rho, radius) => {
      const m = { meanX, meanY, varX: sx * sx, varY: sy * sy, covXY: rho * sx * sy };
      expect(radialProbability(m, radius)).toBeCloseTo(gridProbability(m, radius), 2);
    }),
    { numRuns: 40 },
  );
});

/** Midpoint sum of the density over the disc: slow and plain on purpose. */
function gridProbability(m: typeof centred, radius: number): number {
  const det = m.varX * m.varY - m.covXY ** 2;
  const cells = 400;
  const h = (2 * radius) / cells;
  let sum = 0;
  for (let i = 0; i < cells; i += 1)
    for (let j = 0; j < cells; j += 1) {
      const x = -radius + (i + 0.5) * h;
      const y = -radius + (j + 0.5) * h;
      if (x * x + y * y > radius * radius) continue;
      const u = x - m.meanX;
      const v = y - m.meanY;
      const q = (m.varY * u * u - 2 * m.covXY * u * v + m.varX * v * v) / det;
      sum += (Math.exp(-q / 2) / (2 * Math.PI * Math.sqrt(det))) * h * h;
    }
  return sum;
}

test("Student's factor for 12 degrees of freedom, as any t table prints it", () => {
  expect(coverageFactor(0.95, 12)).toBeCloseTo(2.1788, 4);
  expect(coverageFactor(0.95, Infinity)).toBeCloseTo(1.959964, 6);
});

test('for a picture the radius is within a few percent of the exact one, whatever the bias and the axes', () => {
  const mm = (least: number, most: number) => fc.double({ min: least, max: most, noNaN: true });
  fc.assert(
    fc.property(mm(-3, 3), mm(-3, 3), mm(0.05, 1), mm(0.05, 1), (meanX, meanY, sdX, sdY) => {
      const m = { meanX, meanY, varX: sdX ** 2, varY: sdY ** 2, covXY: 0 };
      const ratio = radialQuantile(m, 0.95, 'picture') / radialQuantile(m, 0.95);
      expect(Math.abs(ratio - 1)).toBeLessThan(0.04);
    }),
  );
});
