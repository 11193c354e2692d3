import fc from 'fast-check';

import { coverageFactor, fUpper, normalCdf, radialFactor } from './distributions';
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

test('thin ellipses, whatever their bias: within 1e-9 of a plain sum of 4,000 strips', () => {
  const small = fc.double({ min: -0.3, max: 0.3, noNaN: true });
  const thin = fc.double({ min: -6, max: 0, noNaN: true });
  const turned = fc.double({ min: -Math.PI, max: Math.PI, noNaN: true });
  const radius = fc.double({ min: 0.02, max: 0.6, noNaN: true });
  fc.assert(
    fc.property(small, small, thin, turned, radius, (meanX, meanY, power, angle, r) => {
      const [major, minor] = [0.1, 0.1 * 10 ** power];
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const m = {
        ...{ meanX, meanY, covXY: c * s * (major ** 2 - minor ** 2) },
        ...{ varX: (c * major) ** 2 + (s * minor) ** 2, varY: (s * major) ** 2 + (c * minor) ** 2 },
      };
      const wanted = stripProbability([c * meanX + s * meanY, c * meanY - s * meanX], [major, minor], r);
      expect(Math.abs(radialProbability(m, r) - wanted)).toBeLessThan(1e-9);
    }),
    { numRuns: 60 },
  );
});

/**
 * Strips across the shorter axis, each closed along the longer: no rule of integration is shared. They lie the closer the
 * nearer the disc's edge, where their length goes as a square root; 40,000 strips of one width were up to 1.1e-6 out there.
 */
function stripProbability(
  [meanU, meanV]: readonly [number, number],
  [major, minor]: readonly [number, number],
  radius: number,
): number {
  const strips = 4000;
  const [from, to] = [Math.max(-radius, meanV - 8 * minor), Math.min(radius, meanV + 8 * minor)];
  if (from >= to) return 0;
  let sum = 0;
  for (let i = 0; i < strips; i += 1) {
    const angle = (Math.PI * (i + 0.5)) / strips;
    const v = (from + to - (to - from) * Math.cos(angle)) / 2;
    const width = ((to - from) * Math.sin(angle) * Math.PI) / (2 * strips);
    const chord = Math.sqrt(Math.max(0, radius ** 2 - v ** 2));
    const inside = normalCdf((chord - meanU) / major) - normalCdf((-chord - meanU) / major);
    const z = (v - meanV) / minor;
    sum += (inside * Math.exp((-z * z) / 2) * width) / (minor * Math.sqrt(2 * Math.PI));
  }
  return sum;
}

test('the radius for an estimated deviation is that of F with 2 degrees above', () => {
  for (const dof of [0.5, 3, 5, 12, 200])
    expect(fUpper(radialFactor(0.95, dof) ** 2 / 2, 2, dof)).toBeCloseTo(0.05, 9);
  // Tables of F, 5 %: F(2, 5) = 5.79, F(2, 12) = 3.89 (any handbook; from memory).
  expect(radialFactor(0.95, 5) ** 2 / 2).toBeCloseTo(5.79, 2);
  expect(radialFactor(0.95, 12) ** 2 / 2).toBeCloseTo(3.89, 2);
  expect(radialFactor(0.95, Infinity)).toBeCloseTo(2.447746830680816, 12);
});

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
