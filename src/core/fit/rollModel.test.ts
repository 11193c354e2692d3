import fc from 'fast-check';

import { normalDeviate, seededRandom } from '../random/random';

import { fieldAt } from './field';
import { fitModel } from './fitModel';
import { ROLL_MODEL, type Observation } from './types';

/** Three stations across at each of these distances along the feed, mm. */
const places = (distances: readonly number[]) =>
  distances.flatMap((y) => [20, 640, 1290].map((x) => ({ x, y })));
const STRIP = places([50, 1500, 3000, 4500, 6000]);
const CENTRE = { x: 655, y: 3000 };

interface Bent {
  readonly slopes: readonly [number, number, number, number];
  readonly shift: readonly [number, number];
  /** mm per mm². */
  readonly bow: readonly [number, number];
}

const offsetAt = ({ slopes, shift, bow }: Bent, x: number, y: number) => ({
  across: slopes[0] * x + slopes[1] * y + shift[0] + bow[0] * y * y,
  along: slopes[2] * x + slopes[3] * y + shift[1] + bow[1] * y * y,
});

const observed = (rig: Bent, at: typeof STRIP, noise = (): number => 0): Observation[] =>
  at.flatMap(({ x, y }, i) =>
    (['across', 'along'] as const).map((axis) => ({
      stationId: `S${i}`,
      axis,
      xMm: x,
      yMm: y,
      uMm: 0.03,
      offsetMm: offsetAt(rig, x, y)[axis] + noise(),
    })),
  );

function fitted(observations: readonly Observation[]) {
  const found = fitModel(ROLL_MODEL, observations, CENTRE);
  if (found.status !== 'ok') throw new Error(found.message);
  return found;
}

const slope = fc.double({ min: -2e-3, max: 2e-3, noNaN: true });
const shift = fc.double({ min: -5, max: 5, noNaN: true });
const bow = fc.double({ min: -3e-8, max: 3e-8, noNaN: true });
const bent: fc.Arbitrary<Bent> = fc.record({
  slopes: fc.tuple(slope, slope, slope, slope),
  shift: fc.tuple(shift, shift),
  bow: fc.tuple(bow, bow),
});

test('slopes, shift and bow of both axes come back exactly, and the field is the tangent at the middle', () => {
  fc.assert(
    fc.property(bent, (rig) => {
      const { params, field, chi2 } = fitted(observed(rig, STRIP));
      const wanted = {
        a11: 1 + rig.slopes[0],
        a12: rig.slopes[1],
        a21: rig.slopes[2],
        a22: 1 + rig.slopes[3],
      };
      for (const [name, value] of Object.entries(wanted)) expect(params[name]).toBeCloseTo(value, 10);
      expect(params.tx).toBeCloseTo(rig.shift[0], 8);
      expect(params.ty).toBeCloseTo(rig.shift[1], 8);
      expect(params.bowX! / 1e-8).toBeCloseTo(rig.bow[0] / 1e-8, 6);
      expect(params.bowY! / 1e-8).toBeCloseTo(rig.bow[1] / 1e-8, 6);
      expect(chi2).toBeLessThan(1e-12);
      // Against a difference quotient of the true field.
      const here = offsetAt(rig, CENTRE.x, CENTRE.y);
      expect(fieldAt(field, CENTRE).x).toBeCloseTo(here.across, 8);
      expect(fieldAt(field, CENTRE).y).toBeCloseTo(here.along, 8);
      const [far, near] = [CENTRE.y + 1, CENTRE.y - 1].map((y) => offsetAt(rig, CENTRE.x, y));
      expect(field.b12).toBeCloseTo((far!.across - near!.across) / 2, 9);
      expect(field.b22).toBeCloseTo((far!.along - near!.along) / 2, 9);
    }),
  );
});

test('standard errors are the scatter of the parameters over 400 noisy strips', () => {
  const random = seededRandom(12);
  const rig: Bent = { slopes: [1e-4, -2e-4, 3e-4, 4e-4], shift: [0.3, -0.2], bow: [4e-9, -6e-9] };
  const fits = Array.from({ length: 400 }, () =>
    fitted(observed(rig, STRIP, () => 0.03 * normalDeviate(random))),
  );
  for (const name of ['a12', 'a22', 'tx', 'ty', 'bowX', 'bowY']) {
    const values = fits.map((f) => f.params[name]!);
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    const sd = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (values.length - 1));
    // 1/√(2·399) = 3.5 %; four times that.
    expect(Math.abs(sd / fits[0]!.seKnownU[name]! - 1)).toBeLessThan(0.14);
  }
});

test('a bow of the feed is told from a straight strip by F, and noise alone is not', () => {
  const random = seededRandom(5);
  const noise = (): number => 0.03 * normalDeviate(random);
  const straight: Bent = { slopes: [0, 2e-4, 0, 3e-4], shift: [0, 0], bow: [0, 0] };
  const gain = (rig: Bent): number => {
    const observations = observed(rig, STRIP, noise);
    const affine = fitModel('affine', observations, CENTRE);
    return affine.status === 'ok' ? affine.chi2 - fitted(observations).chi2 : Number.NaN;
  };
  // Two more parameters take χ² of 2 degrees of freedom: under 13.8 but for one strip in a thousand.
  expect(gain(straight)).toBeLessThan(13.8);
  expect(gain({ ...straight, bow: [0, 5e-8] })).toBeGreaterThan(100);
});

test.each([
  ['two distances only', places([50, 3000]), 'not-determined'],
  [
    'one row across',
    places([50]).concat([
      { x: 300, y: 50 },
      { x: 900, y: 50 },
    ]),
    'single-row',
  ],
  ['one column', [0, 1, 2, 3, 4, 5].map((i) => ({ x: 100, y: 1000 * i })), 'single-column'],
  ['three stations', places([50]), 'too-few-readings'],
])('%s cannot tell a bow: refused with its reason', (_, at, reason) => {
  const straight: Bent = { slopes: [0, 0, 0, 0], shift: [0.1, 0.1], bow: [0, 0] };
  const found = fitModel(ROLL_MODEL, observed(straight, at), CENTRE);
  expect(found).toMatchObject({ status: 'refused', reason });
});
