import fc from 'fast-check';

import { radialProbability } from '../statistics';

import { mixtureMoments, mixtureQuantile, outsideBand, outsideDisc, type NormalPart } from './mixture';

const part = fc.record({
  weight: fc.double({ min: 0.05, max: 1, noNaN: true }),
  mean: fc.double({ min: -0.4, max: 0.4, noNaN: true }),
  variance: fc.double({ min: 0.03, max: 0.3, noNaN: true }).map((sd) => sd * sd),
});
const mixture = fc.array(part, { minLength: 1, maxLength: 6 }).map((parts): NormalPart[] => {
  const all = parts.reduce((sum, p) => sum + p.weight, 0);
  return parts.map((p) => ({ ...p, weight: p.weight / all }));
});
const limit = fc.double({ min: 0.2, max: 1.5, noNaN: true });
const one = (mean: number, sd: number): NormalPart[] => [{ weight: 1, mean, variance: sd * sd }];

test.each([0.5, 2, 4, 5.5])('beyond %d σ of a round scatter lies exp(−r²/2), however little it is', (r) => {
  const sigma = 0.13;
  const outside = outsideDisc(one(0, sigma), one(0, sigma), r * sigma);
  // Rayleigh's tail, closed form.
  expect(outside / Math.exp(-(r * r) / 2)).toBeCloseTo(1, 6);
});

test('a disc: as one normal after another gives it, parts of the wider axis each for themselves', () => {
  fc.assert(
    fc.property(mixture, mixture, limit, (x, y, radius) => {
      const [mx, my] = [mixtureMoments(x), mixtureMoments(y)];
      const [wide, narrow] = mx.variance > my.variance ? [x, my] : [y, mx];
      const inside = wide.reduce(
        (sum, p) =>
          sum +
          p.weight *
            radialProbability(
              { meanX: p.mean, meanY: narrow.mean, varX: p.variance, varY: narrow.variance, covXY: 0 },
              radius,
            ),
        0,
      );
      expect(outsideDisc(x, y, radius)).toBeCloseTo(1 - inside, 4);
    }),
  );
});

test('a disc lies between the square inside it and the square around it', () => {
  fc.assert(
    fc.property(part, part, limit, (a, b, radius) => {
      const [x, y] = [one(a.mean, Math.sqrt(a.variance)), one(b.mean, Math.sqrt(b.variance))];
      const square = (half: number): number => 1 - (1 - outsideBand(x, half)) * (1 - outsideBand(y, half));
      const disc = outsideDisc(x, y, radius);
      expect(disc).toBeGreaterThanOrEqual(square(radius) - 1e-4);
      expect(disc).toBeLessThanOrEqual(square(radius / Math.SQRT2) + 1e-4);
    }),
  );
});

test('a quantile has its share below it', () => {
  fc.assert(
    fc.property(mixture, fc.double({ min: 0.01, max: 0.99, noNaN: true }), (parts, share) => {
      const at = mixtureQuantile(parts, share);
      const moved = parts.map((p) => ({ ...p, mean: p.mean - at }));
      // Beyond the place and below it, with the far side so far away that nothing is left there.
      const above = outsideBand(
        moved.map((p) => ({ ...p, mean: p.mean - 50 })),
        50,
      );
      expect(above).toBeCloseTo(share, 6);
    }),
  );
});
