import { held } from '../../../bench/held';
import { A4_AREA, A4_CENTRE, observe, proofSheet, TRUE_TERMS } from '@test/sheets';

import { decompose, fitModel, transformToField } from '../fit';
import { normalDeviate, seededRandom } from '../random/random';
import { termsAbout } from '../rigsim';

import { planCorrection, scatterOfLoads, shiftScatter, type LoadOnRecord } from '.';

const ASSUMED = shiftScatter(0.03);
const load = (x: number, y: number, more: Partial<LoadOnRecord> = {}): LoadOnRecord => ({
  ...{ shiftXMm: x, shiftYMm: y, turnRad: 0, shiftUMm: 0.01, turnURad: 0, afterEvent: false },
  eye: { chi2: 0, dof: 0 },
  ...more,
});
/** Loads of a rig that walks slowly; the scatter is known. */
function loads(count: number, sdMm: number, seed: number, walkMm = 0): LoadOnRecord[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, i) =>
    load(
      walkMm * i + sdMm * normalDeviate(random) + 0.01 * normalDeviate(random),
      1 + sdMm * normalDeviate(random) + 0.01 * normalDeviate(random),
    ),
  );
}

test('without loads on record what is assumed stands, and says so', () => {
  expect(scatterOfLoads([], ASSUMED)).toEqual({
    ...ASSUMED,
    ...{ from: 'assumed', loads: 0, eye: { chi2: 0, dof: 0 } },
  });
  expect(scatterOfLoads([load(0.1, 0)], ASSUMED)).toMatchObject({ shiftMm: 0.03, from: 'assumed', loads: 1 });
});

test('four loads, by hand', () => {
  const few = [load(0, 0), load(0.1, 0), load(0, 0.2)];
  expect(scatterOfLoads(few, ASSUMED)).toMatchObject({ shiftMm: 0.03, from: 'assumed', loads: 3 });
  // Differences (0.1, 0), (−0.1, 0.2), (0, 0): half of their mean square an axis is the scatter's, less what reading adds
  // (2 · 0.01² a pair); 36/8 degrees of freedom join half a one of 0.03².
  const told = scatterOfLoads([...few, load(0, 0.2)], ASSUMED);
  const logVar = (0.01 / 2 + 0.05 / 2 - 3 * 0.0002) / 6;
  const mixed = (0.5 * 0.0009 + 4.5 * logVar) / 5;
  // 5 %: F(2, 5) = 5.786 (tables); a radius of √(2F) deviations where Rayleigh's is 2.4477.
  expect(told.shiftMm / Math.sqrt(mixed)).toBeCloseTo(Math.sqrt(2 * 5.786) / 2.4477, 3);
  // Loads that differ by just what reading adds leave a part of what is assumed; any less argues against most of it.
  const twelve = (apart: number): LoadOnRecord[] =>
    Array.from({ length: 12 }, (_, i) => load(0.3 + (i % 2) * apart, -0.2));
  const asRead = scatterOfLoads(twelve(0.02), ASSUMED).shiftMm;
  expect(asRead).toBeGreaterThan(0.004);
  expect(asRead).toBeLessThan(0.01);
  const alike = scatterOfLoads(twelve(0), ASSUMED).shiftMm;
  expect(alike).toBeGreaterThan(0.001);
  expect(alike).toBeLessThan(asRead / 2);
});

test('many loads tell it, whatever the rig walks between them', () => {
  for (const walk of [0, 0.01])
    for (const sd of [0.02, 0.06, 0.1]) {
      const told = scatterOfLoads(loads(400, sd, 5, walk), ASSUMED);
      expect(told.from).toBe('log');
      expect(told.shiftMm / sd).toBeGreaterThan(0.93);
      expect(told.shiftMm / sd).toBeLessThan(1.08);
    }
});

test('what was done to the rig is no scatter, said or not', () => {
  const steady = loads(12, 0.02, 3);
  const moved = steady.map((l, i) => (i < 6 ? l : { ...l, shiftXMm: l.shiftXMm + 2 }));
  const plain = scatterOfLoads(steady, ASSUMED).shiftMm;
  expect(scatterOfLoads(moved, ASSUMED).shiftMm).toBeLessThan(1.15 * plain);
  const said = moved.map((l, i) => ({ ...l, afterEvent: i === 6 }));
  expect(scatterOfLoads(said, ASSUMED).shiftMm).toBeLessThan(1.15 * plain);
});

test('the turn of a one-mark rig is taken about zero; other rigs have none', () => {
  const turned = loads(300, 0.03, 9).map((l, i) => ({ ...l, turnRad: i % 2 ? 0.001 : -0.0006 }));
  const told = scatterOfLoads(turned, { ...ASSUMED, turnRad: 0.0005 });
  expect(told.turnRad).toBeCloseTo(Math.sqrt((1e-6 + 0.36e-6) / 2), 5);
  expect(scatterOfLoads(turned, ASSUMED).turnRad).toBe(0);
});

// With 0.03 mm assumed whatever the rig does, 33 to 67 % of the cuts hold at 0.1 mm (bench/held.ts).
test.each([
  [0.03, 0, 9],
  [0.1, 0, 4],
  [0.06, 0.001, 9],
])(
  'with ten loads on record at %s mm and %s rad what is said of the next ones holds',
  (scatterMm, turnRad, stations) => {
    const shares = Object.values(held({ scatterMm, turnRad, stations, eyeOfStep: 0.2, loads: 10 }, 60));
    for (const share of shares) {
      expect(share).toBeGreaterThan(0.88);
      expect(share).toBeLessThanOrEqual(1);
    }
  },
);

test('a turn that comes new with every load is not corrected, whatever else is', () => {
  const found = transformToField(
    termsAbout({ ...TRUE_TERMS, shiftXMm: 0.4, turnRad: 0.002, scaleAlong: 1.002 }, A4_CENTRE),
    A4_CENTRE,
  );
  const fit = fitModel(
    'affine',
    observe(proofSheet({ secondSet: false }), 1, found, seededRandom(4), 0),
    A4_CENTRE,
  );
  if (fit.status !== 'ok') throw new Error(fit.message);
  const terms = (turnRad: number) =>
    decompose(
      planCorrection(fit, [], A4_AREA, { shiftMm: 0.03, turnRad, pivot: { x: 20, y: 20 } }, 0.03)
        .wholeTransform,
    );
  expect(Math.abs(terms(0).turnRad - 0.002)).toBeLessThan(0.0002);
  expect(Math.abs(terms(0.0005).turnRad)).toBeLessThan(1e-5);
  expect(Math.abs(terms(0.0005).scaleAlong - 1.002)).toBeLessThan(0.0002);
});
