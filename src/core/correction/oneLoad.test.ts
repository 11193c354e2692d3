import fc from 'fast-check';

import { A4_CENTRE, observe, proofSheet } from '@test/sheets';

import {
  addFields,
  fieldToTransform,
  fitModel,
  transformToField,
  type AffineField,
  type ModelFit,
} from '../fit';
import { compose, IDENTITY, invertAffine } from '../geometry';
import { normalDeviate, seededRandom } from '../random/random';

import {
  declaredEffect,
  effectUOf,
  expectedAfter,
  poolFits,
  provedEffects,
  type ChangeOnRecord,
  type MachineSetting,
} from '.';

/* What two sets of one load tell together: of the machine, and of what was typed between them. */

const field = (exMm: number, eyMm: number, b11 = 0, b22 = 0): AffineField => ({
  ...{ origin: A4_CENTRE, b11, b12: 0.0002, b21: -0.0001, b22, exMm, eyMm },
});
const setting = (
  id: string,
  direction: 'right' | 'further',
  kind: 'offset' | 'scale' = 'offset',
): MachineSetting => ({
  ...{ id, name: id, step: 0.05, value: 0, min: null, max: null },
  effect: declaredEffect({
    ...{ kind, direction: kind === 'scale' ? 'longer' : direction, anchor: A4_CENTRE, nominalMm: null },
    unit: kind === 'scale' ? 'percent' : 'mm',
  }),
});
const sheet = proofSheet({ secondSet: true });
const read = (truth: AffineField, set: 1 | 2, seed: number): ModelFit => {
  const fit = fitModel('affine', observe(sheet, set, truth, seededRandom(seed), 0.2), A4_CENTRE);
  if (fit.status !== 'ok') throw new Error(fit.message);
  return fit;
};
const covarianceOf = (fit: ModelFit) =>
  fit.covarianceKnownU.map((row) => row.map((v) => v * fit.noise.factor ** 2));

/** A change of settings that do `shares` of what they say, read before and after. */
function changeOf(
  settings: readonly MachineSetting[],
  by: readonly number[],
  shares: readonly number[],
  seed: number,
) {
  const before = field(0.4, -0.3, 0.001);
  const after = settings.reduce((f, s, i) => addFields(f, s.effect, by[i]! * shares[i]!), before);
  const [a, b] = [read(before, 1, seed), read(after, 2, seed + 1)];
  return {
    by: Object.fromEntries(settings.map((s, i) => [s.id, by[i]!])),
    moved: addFields(b.field, a.field, -1),
    covariance: covarianceOf(a).map((row, i) => row.map((v, j) => v + covarianceOf(b)[i]![j]!)),
  } satisfies ChangeOnRecord;
}

test('a setting that was typed 3 mm and read again is known to about one in a hundred, whatever it really does', () => {
  const settings = [setting('X', 'right'), setting('Y', 'further')];
  for (const share of [0.9, 1, 1.04]) {
    const [x, y, ...none] = provedEffects(settings, [changeOf(settings, [-3, 2], [share, 1], 7)]);
    expect(none).toEqual([]);
    expect(Math.abs(x!.share - share)).toBeLessThan(3 * x!.shareU);
    expect(Math.abs(y!.share - 1)).toBeLessThan(3 * y!.shareU);
    expect(x!.shareU).toBeLessThan(0.015);
    // What it is off by goes on counting as doubt of what is declared.
    expect(effectUOf(x!)).toBeCloseTo(Math.hypot(x!.shareU, x!.share - 1), 12);
  }
});

test('a change lost in the reading leaves five in a hundred; one that was not typed is not there', () => {
  const settings = [setting('X', 'right'), setting('Y', 'further'), setting('S', 'further', 'scale')];
  const seen = provedEffects(settings, [changeOf(settings.slice(0, 2), [0.05, 0], [1, 1], 3)]);
  expect(seen.map((s) => s.settingId)).toEqual(['X']);
  expect(seen[0]!.shareU).toBeGreaterThan(0.045);
  expect(provedEffects(settings, [])).toEqual([]);
});

test('of 300 machines whose settings do 1 ± 5 %, 95 in 100 lie within 1.96 of the doubt said of them', () => {
  const random = seededRandom(11);
  const settings = [setting('X', 'right'), setting('Y', 'further'), setting('S', 'further', 'scale')];
  let within = 0;
  for (let i = 0; i < 300; i += 1) {
    const shares = settings.map(() => 1 + 0.05 * normalDeviate(random));
    const by = [normalDeviate(random), 2 * normalDeviate(random), 0.3 * normalDeviate(random)];
    const seen = provedEffects(settings, [
      changeOf(settings, by, shares, 2 * i),
      changeOf(settings, by, shares, 5000 + 2 * i),
    ]);
    seen.forEach((s, j) => (within += Number(Math.abs(s.share - shares[j]!) < 1.96 * s.shareU)));
  }
  expect(within / 900).toBeGreaterThan(0.93);
  expect(within / 900).toBeLessThan(0.98);
});

test('what a set leads to expect is where the machine then cuts, whatever was typed and whatever the files undo', () => {
  const small = fc.double({ min: -0.002, max: 0.002, noNaN: true });
  const shift = fc.double({ min: -3, max: 3, noNaN: true });
  const map = fc
    .record({ a11: small, a12: small, a21: small, a22: small, tx: shift, ty: shift })
    .map((t) => ({
      ...t,
      ...{ a11: 1 + t.a11, a22: 1 + t.a22 },
    }));
  const settings = [setting('X', 'right'), setting('S', 'further', 'scale')];
  fc.assert(
    fc.property(map, map, map, shift, small, (machine, before, after, x, s) => {
      const typed = [x, 100 * s];
      // Where a file that undoes F lands on a machine that does T: T after the inverse of F.
      const found = transformToField(compose(machine, invertAffine(before)), A4_CENTRE);
      const moved = settings.reduce(
        (f, one, i) => addFields(f, one.effect, typed[i]!),
        transformToField(machine, A4_CENTRE),
      );
      const wanted = compose(fieldToTransform(moved), invertAffine(after));
      const expected = expectedAfter(
        { ...read(found, 1, 1), field: found },
        settings.map((one, i) => ({ effect: one.effect, by: typed[i]!, effectU: 0 })),
        { before, after },
      )!;
      const told = fieldToTransform(expected.field);
      for (const key of ['a11', 'a12', 'a21', 'a22'] as const) expect(told[key]).toBeCloseTo(wanted[key], 10);
      for (const key of ['tx', 'ty'] as const) expect(told[key]).toBeCloseTo(wanted[key], 7);
    }),
    { numRuns: 50 },
  );
});

test('two sets of a load that agree are joined: the doubt is that of both, and holds', () => {
  const random = seededRandom(17);
  let [joined, within, error, alone] = [0, 0, 0, 0];
  for (let i = 0; i < 300; i += 1) {
    // Another place each time: one alone would meet the combs’ steps always alike.
    const truth = field(0.3 * normalDeviate(random), 0.3 * normalDeviate(random), 0.0004, -0.0003);
    const [first, second] = [read(truth, 1, 2 * i), read(truth, 2, 2 * i + 1)];
    const expected = expectedAfter(first, [], { before: IDENTITY, after: IDENTITY });
    const { fit, pooling } = poolFits(second, expected);
    if (pooling !== 'joined') continue;
    joined += 1;
    within += Number(Math.abs(fit.field.exMm - truth.exMm) < 1.96 * Math.sqrt(fit.covarianceKnownU[4]![4]!));
    error += (fit.field.exMm - truth.exMm) ** 2;
    alone += (second.field.exMm - truth.exMm) ** 2;
  }
  expect(joined).toBeGreaterThan(285);
  expect(within / joined).toBeGreaterThan(0.92);
  expect(error / alone).toBeLessThan(0.65);
});

test('sets that cannot both be so are not joined; few stations or another model tell nothing beforehand', () => {
  const settings = [setting('X', 'right')];
  const before = read(field(0.4, 0), 1, 5);
  const typed = [{ effect: settings[0]!.effect, by: -0.4, effectU: 0.05 }];
  const expected = expectedAfter(before, typed, { before: IDENTITY, after: IDENTITY });
  expect(poolFits(read(field(0, 0), 2, 6), expected).pooling).toBe('joined');
  // Typed the wrong way round.
  const wrong = read(field(0.8, 0), 2, 6);
  expect(poolFits(wrong, expected)).toEqual({ fit: wrong, pooling: 'disagrees' });
  expect(poolFits(wrong, null)).toEqual({ fit: wrong, pooling: 'alone' });
  const few = fitModel('rigid', observe(sheet, 1, field(0, 0), seededRandom(1), 0.2), A4_CENTRE);
  if (few.status !== 'ok') throw new Error(few.message);
  expect(expectedAfter(few, [], { before: IDENTITY, after: IDENTITY })).toBeNull();
  let alarms = 0;
  for (let i = 0; i < 300; i += 1)
    alarms += Number(
      poolFits(
        read(field(0, 0), 2, 900 + 2 * i),
        expectedAfter(read(field(0, 0), 1, 901 + 2 * i), [], { before: IDENTITY, after: IDENTITY }),
      ).pooling === 'disagrees',
    );
  expect(alarms).toBeLessThan(12);
});

test('a set that is off along what was typed is not joined, though all six coefficients together would pass', () => {
  const truth = field(0.2, -0.1);
  const fit = read(truth, 2, 31);
  const x = setting('X', 'right');
  const sd = Math.sqrt(2 * covarianceOf(fit)[4]![4]!);
  const expected = (by: number, off: number) => ({
    ...expectedAfter(fit, [{ effect: x.effect, by, effectU: 0 }], { before: IDENTITY, after: IDENTITY })!,
    field: { ...fit.field, exMm: fit.field.exMm + off * sd },
  });
  // 3.5 deviations in one direction: χ² of 12.3 of 16.8 with six degrees.
  expect(poolFits(fit, expected(0.3, 3.5)).pooling).toBe('disagrees');
  expect(poolFits(fit, expected(0, 3.5)).pooling).toBe('joined');
  expect(poolFits(fit, expected(0.3, 2)).pooling).toBe('joined');
});
