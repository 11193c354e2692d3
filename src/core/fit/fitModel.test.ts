import fc from 'fast-check';

import { applyAffine, rectLattice, type Affine, type Point } from '../geometry';
import { A4_AREA, A4_CENTRE } from '@test/sheets';

import { composeTerms, decompose } from './decompose';
import { fitLadder } from './fitLadder';
import { fitModel } from './fitModel';
import { noiseWithRecord } from './noise';
import { shrinkForCorrection } from './shrink';
import { termTable } from './termTable';
import { MODELS, type ModelFit, type ModelName, type Observation } from './types';

const GRID = rectLattice(A4_AREA, 3, 3);

function readings(t: Affine, places: readonly Point[], uMm = 0.03): Observation[] {
  return places.flatMap((p, i) => {
    const landed = applyAffine(t, p);
    const at = { stationId: `S${i}`, xMm: p.x, yMm: p.y, uMm };
    return [
      { ...at, axis: 'across' as const, offsetMm: landed.x - p.x },
      { ...at, axis: 'along' as const, offsetMm: landed.y - p.y },
    ];
  });
}

function fitted(model: ModelName, observations: readonly Observation[], centre: Point = A4_CENTRE): ModelFit {
  const found = fitModel(model, observations, centre);
  if (found.status !== 'ok') throw new Error(found.message);
  return found;
}

const terms = fc.record({
  turnRad: fc.double({ min: -0.05, max: 0.05, noNaN: true }),
  scaleAcross: fc.double({ min: 0.95, max: 1.05, noNaN: true }),
  scaleAlong: fc.double({ min: 0.95, max: 1.05, noNaN: true }),
  leanRad: fc.double({ min: -0.05, max: 0.05, noNaN: true }),
});
const shifts = fc.record({
  tx: fc.double({ min: -6, max: 6, noNaN: true }),
  ty: fc.double({ min: -6, max: 6, noNaN: true }),
});

test('terms and linear part are inverses of each other', () => {
  fc.assert(
    fc.property(terms, (t) => {
      const back = decompose(composeTerms(t));
      for (const name of ['turnRad', 'scaleAcross', 'scaleAlong', 'leanRad'] as const)
        expect(back[name]).toBeCloseTo(t[name], 12);
    }),
  );
});

test('signs: a positive lean carries the far edge right, a positive turn carries the right edge far', () => {
  const flat = { turnRad: 0, scaleAcross: 1, scaleAlong: 1, leanRad: 0 };
  expect(applyAffine(composeTerms({ ...flat, leanRad: 0.01 }), { x: 0, y: 100 }).x).toBeCloseTo(1.00003, 4);
  expect(applyAffine(composeTerms({ ...flat, turnRad: 0.01 }), { x: 100, y: 0 }).y).toBeCloseTo(0.99998, 4);
});

test('a noise-free affine map is recovered to 1e-9, far from the origin too', () => {
  fc.assert(
    fc.property(terms, shifts, fc.constantFrom(0, 3000), (linear, shift, awayMm) => {
      const truth = { ...composeTerms(linear), ...shift };
      const places = GRID.map((p) => ({ x: p.x + awayMm, y: p.y + awayMm }));
      const params = fitted('affine', readings(truth, places)).params;
      for (const name of ['a11', 'a12', 'a21', 'a22', 'tx', 'ty'] as const)
        expect(Math.abs(params[name]! - truth[name])).toBeLessThan(1e-9);
    }),
  );
});

test('translating the stations moves only t; the order of readings changes nothing', () => {
  const truth = {
    ...composeTerms({ turnRad: 0.002, scaleAcross: 1.001, scaleAlong: 0.999, leanRad: 0.001 }),
    tx: 0.4,
    ty: -0.2,
  };
  const noisy = readings(truth, GRID).map((o, i) => ({
    ...o,
    offsetMm: o.offsetMm + 0.02 * Math.sin(7 * i),
  }));
  const there = fitted('affine', noisy);
  const moved = fitted(
    'affine',
    noisy.map((o) => ({ ...o, xMm: o.xMm + 500, yMm: o.yMm - 300 })),
    { x: A4_CENTRE.x + 500, y: A4_CENTRE.y - 300 },
  );
  for (const name of ['a11', 'a12', 'a21', 'a22'] as const)
    expect(moved.params[name]).toBeCloseTo(there.params[name]!, 12);
  expect(moved.terms.shiftXMm).toBeCloseTo(there.terms.shiftXMm, 10);
  expect(moved.chi2).toBeCloseTo(there.chi2, 8);
  const reversed = fitted('affine', [...noisy].reverse());
  expect(reversed.params.tx).toBeCloseTo(there.params.tx!, 11);
  // Standard error of the shift at the middle of nine equal readings: u/√9.
  expect(there.termSe.shiftXMm / there.noise.factor).toBeCloseTo(0.01, 6);
});

const at = (...points: [number, number][]): Point[] => points.map(([x, y]) => ({ x, y }));
const LAYOUTS = {
  'one station': at([50, 50]),
  'two stations': at([20, 20], [180, 260]),
  'one row': at([20, 50], [60, 50], [100, 50], [180, 50]),
  'one column': at([20, 20], [20, 90], [20, 150], [20, 260]),
  'one diagonal': at([20, 20], [60, 80], [100, 140], [180, 260]),
  'three stations': at([20, 20], [180, 20], [100, 260]),
  'four, three of them in line': at([20, 20], [100, 20], [180, 20], [100, 260]),
  'one place three times': at([50, 50], [50, 50], [50, 50], [50, 50]),
} as const;

test.each<[keyof typeof LAYOUTS, string[]]>([
  ['one station', ['ok', 'too-few-readings', 'too-few-readings', 'too-few-readings', 'too-few-readings']],
  ['two stations', ['ok', 'ok', 'ok', 'too-few-readings', 'too-few-readings']],
  ['three stations', ['ok', 'ok', 'ok', 'ok', 'too-few-readings']],
  ['one row', ['ok', 'ok', 'ok', 'single-row', 'single-row']],
  ['one column', ['ok', 'ok', 'ok', 'single-column', 'single-column']],
  ['one diagonal', ['ok', 'ok', 'ok', 'collinear-stations', 'collinear-stations']],
  ['four, three of them in line', ['ok', 'ok', 'ok', 'ok', 'not-determined']],
  [
    'one place three times',
    ['ok', 'coincident-stations', 'coincident-stations', 'coincident-stations', 'coincident-stations'],
  ],
])('%s: each model is fitted or refused with its reason', (layout, wanted) => {
  const ladder = fitLadder(
    readings({ a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.3, ty: 0.1 }, LAYOUTS[layout]),
    A4_CENTRE,
  );
  for (const [i, model] of MODELS.entries()) {
    const outcome = ladder.models[model];
    expect([model, outcome.status === 'ok' ? 'ok' : outcome.reason]).toEqual([model, wanted[i]]);
    if (outcome.status === 'refused') expect(outcome.message).toMatch(/Read/);
  }
});

test.each([
  ['no-uncertainty', { uMm: 0 }],
  ['no-uncertainty', { uMm: Number.NaN }],
  ['not-finite', { offsetMm: Number.POSITIVE_INFINITY }],
])('rejects %s, naming the station', (reason, wrong) => {
  const observations = readings({ a11: 1, a12: 0, a21: 0, a22: 1, tx: 0, ty: 0 }, GRID);
  observations[5] = { ...observations[5]!, ...wrong };
  const outcome = fitModel('affine', observations, A4_CENTRE);
  expect(outcome).toMatchObject({ status: 'refused', reason });
  if (outcome.status === 'refused') expect(outcome.message).toContain('S2');
});

test('rejects readings that fold the sheet over', () => {
  const mirrored = { a11: -1, a12: 0, a21: 0, a22: 1, tx: 200, ty: 0 };
  expect(fitModel('affine', readings(mirrored, GRID), A4_CENTRE)).toMatchObject({ reason: 'folded' });
});

test('the ladder explains a pure shift as a shift and a lean as an affine map', () => {
  const flat = { turnRad: 0, scaleAcross: 1, scaleAlong: 1, leanRad: 0 };
  const shift = { ...composeTerms(flat), tx: 0.5, ty: 0.2 };
  const lean = { ...composeTerms({ ...flat, leanRad: 0.003 }), tx: 0.5, ty: 0.2 };
  const tilted = GRID.flatMap((p, i): Observation[] => {
    const w = 1 + 2e-6 * p.x - 4e-6 * p.y;
    const at = { stationId: `S${i}`, xMm: p.x, yMm: p.y, uMm: 0.03 };
    return [
      { ...at, axis: 'across', offsetMm: p.x / w - p.x },
      { ...at, axis: 'along', offsetMm: p.y / w - p.y },
    ];
  });
  // A perspective of a tenth of a millimetre is explained as one, and still corrected by the affine map.
  expect(fitLadder(tilted, A4_CENTRE)).toMatchObject({ recommended: 'projective', widest: 'affine' });
  expect(fitLadder(readings(shift, GRID), A4_CENTRE).recommended).toBe('shift');
  const leaning = fitLadder(readings(lean, GRID), A4_CENTRE);
  expect(leaning.recommended).toBe('affine');
  const rows = termTable(fitted('affine', readings(lean, GRID)), A4_AREA, 0.03);
  expect(rows.filter((r) => r.real).map((r) => r.term)).toEqual(['shiftXMm', 'shiftYMm', 'leanRad']);
  expect(rows.find((r) => r.term === 'leanRad')!.atWorstMm).toBeCloseTo(0.003 * 135, 3);
});

test('shrinkage keeps large linear terms and drops those that are within their doubt', () => {
  const big = { ...composeTerms({ turnRad: 0.01, scaleAcross: 1, scaleAlong: 1, leanRad: 0 }), tx: 0, ty: 0 };
  expect(shrinkForCorrection(fitted('affine', readings(big, GRID))).kept).toBeGreaterThan(0.999);
  const noise = readings({ a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.4, ty: 0 }, GRID).map((o, i) => ({
    ...o,
    offsetMm: o.offsetMm + (i % 4 < 2 ? 0.006 : -0.006),
  }));
  const small = shrinkForCorrection(fitted('affine', noise));
  expect(small.kept).toBe(0);
  expect(small.field.exMm).toBeCloseTo(0.4, 2);
});

test('a gross misreading is flagged by name, and an honest set is not', () => {
  const honest = readings({ a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.3, ty: 0.1 }, GRID).map((o, i) => ({
    ...o,
    offsetMm: o.offsetMm + 0.02 * Math.sin(5 * i + 1),
  }));
  expect(fitLadder(honest, A4_CENTRE).suspects).toEqual([]);
  const wrong = honest.map((o, i) => (i === 9 ? { ...o, offsetMm: o.offsetMm + 0.5 } : o));
  expect(fitLadder(wrong, A4_CENTRE).suspects).toEqual([
    expect.objectContaining({ stationId: 'S4', axis: 'along' }),
  ]);
});

test('intervals rest on the given u, or on the residual scatter when that is larger', () => {
  const wiggle = (sizeMm: number): ModelFit =>
    fitted(
      'shift',
      readings({ a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.3, ty: 0 }, GRID).map((o, i) => ({
        ...o,
        offsetMm: o.offsetMm + (i % 4 < 2 ? sizeMm : -sizeMm),
      })),
    );
  expect(wiggle(0.01).noise).toEqual({ kind: 'given-u', factor: 1 });
  const rough = wiggle(0.09);
  expect(rough.noise.kind).toBe('residual-scatter');
  // χ²/dof = 18·(0.09/0.03)²/16, less what the mean takes.
  expect(rough.noise.factor).toBeCloseTo(Math.sqrt(rough.chi2 / 16), 12);
  expect(rough.termSe.shiftXMm).toBeCloseTo((rough.noise.factor * 0.03) / 3, 9);
});

test('who reads is told by the sheets before too, unless this one is far worse than they were', () => {
  const of = (chi2: number, dof: number): ModelFit => {
    const one = fitted('shift', readings({ a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.3, ty: 0 }, GRID));
    return {
      ...one,
      chi2,
      dof,
      noise: chi2 > dof ? { kind: 'residual-scatter', factor: Math.sqrt(chi2 / dof) } : one.noise,
    };
  };
  const record = { chi2: 40, dof: 20 };
  // (1 + 40)/(2 + 20): a sheet of four stations that happens to look calm is not believed.
  expect(noiseWithRecord(of(1, 2), record).factor).toBeCloseTo(Math.sqrt(41 / 22), 12);
  expect(noiseWithRecord(of(0, 0), record).factor).toBeCloseTo(Math.SQRT2, 12);
  // F(2, 20) at 1 %: 5.85 (tables); beside the record’s 2 a sheet of 11.6 is pooled, one of 11.8 stands alone.
  expect(noiseWithRecord(of(2 * 11.6, 2), record).factor).toBeCloseTo(Math.sqrt((23.2 + 40) / 22), 12);
  expect(noiseWithRecord(of(2 * 11.8, 2), record).factor).toBeCloseTo(Math.sqrt(11.8), 12);
  // Calm sheets never promise better than the given u, and a short record is not asked.
  expect(noiseWithRecord(of(1, 2), { chi2: 4, dof: 20 })).toEqual({ kind: 'given-u', factor: 1 });
  expect(noiseWithRecord(of(1, 2), { chi2: 40, dof: 5 })).toEqual({ kind: 'given-u', factor: 1 });
});
