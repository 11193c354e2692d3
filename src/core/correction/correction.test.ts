import fc from 'fast-check';

import { rectLattice } from '../geometry';
import { fitLadder, fitModel, transformToField, widestFit, zeroField, type AffineField } from '../fit';
import { normalDeviate, seededRandom } from '../random/random';
import { loadField, termsAbout, type SimulatedRig } from '../rigsim';
import { plumbState } from '../verdict';
import { A4_AREA, A4_CENTRE, TRUE_TERMS, observe, proofSheet } from '@test/sheets';

import {
  declaredEffect,
  meanSquareMm2,
  misregistrationAt,
  planCorrection,
  shiftScatter,
  solveSettings,
  uncertaintyBudget,
  worstR95,
} from '.';
import { DIRECTIONS_OF_KIND, type EffectDirection, type MachineSetting, type SettingUnit } from '.';

const setting = (
  id: string,
  direction: EffectDirection,
  { unit = 'mm', ...more }: Partial<MachineSetting> & { unit?: SettingUnit } = {},
): MachineSetting => {
  const kind = DIRECTIONS_OF_KIND.offset.includes(direction) ? 'offset' : 'scale';
  const effect = declaredEffect({ kind, unit, direction, anchor: { x: 0, y: 0 }, nominalMm: null });
  return { id, name: id, step: 0.05, value: 0, min: null, max: null, effect, ...more };
};

const field = (shiftXMm: number, shiftYMm: number): AffineField =>
  transformToField(termsAbout({ ...TRUE_TERMS, shiftXMm, shiftYMm }, A4_CENTRE), A4_CENTRE);

test('mean square of a field over the work area is what a fine lattice averages', () => {
  const f = transformToField(
    termsAbout(
      {
        shiftXMm: 0.2,
        shiftYMm: -0.1,
        turnRad: 0.002,
        scaleAcross: 1.001,
        scaleAlong: 0.998,
        leanRad: 0.001,
      },
      A4_CENTRE,
    ),
    A4_CENTRE,
  );
  const places = rectLattice({ x0: 10.95, y0: 16.35, x1: 199.05, y1: 283.65 }, 100, 100);
  const mean = places.reduce((sum, p) => {
    const x = f.b11 * (p.x - 105) + f.b12 * (p.y - 150) + f.exMm;
    const y = f.b21 * (p.x - 105) + f.b22 * (p.y - 150) + f.eyMm;
    return sum + (x * x + y * y) / places.length;
  }, 0);
  expect(meanSquareMm2(f, A4_AREA) / mean).toBeCloseTo(1, 3);
});

test.each([
  [
    'from 1.15 to 0.85 when +1 moves right and the cut is 0.31 right',
    setting('X', 'right', { value: 1.15 }),
    0.31,
    0.85,
  ],
  ['the other way when +1 moves left', setting('X', 'left', { value: 1.15 }), 0.31, 1.45],
  ['across zero', setting('X', 'right', { value: 0.15 }), 0.31, -0.15],
  [
    'in inches, to a step of 0.005',
    setting('X', 'right', { unit: 'in', step: 0.005, value: 0.05 }),
    0.31,
    0.04,
  ],
  ['on the steps of an odd value', setting('X', 'right', { value: 1.27, step: 0.1 }), 0.31, 0.97],
  ['clamped to the range', setting('X', 'right', { min: -0.2, max: 5 }), 0.9, -0.2],
])('a setting goes %s', (_, given, shiftXMm, wanted) => {
  const { changes } = solveSettings(field(shiftXMm, 0), [given], A4_AREA);
  expect(changes[0]!.to).toBeCloseTo(wanted, 9);
  // Whatever the sign convention, the change itself moves the cut left, back onto the print.
  expect(changes[0]!.movesXMm).toBeLessThan(0);
  expect(shiftXMm + changes[0]!.movesXMm).toBeLessThan(shiftXMm);
  expect(changes[0]!.clamped).toBe(given.min !== null);
});

test('rounding finds the best steps: no neighbour does better', () => {
  const value = fc.double({ min: -3, max: 3, noNaN: true });
  fc.assert(
    fc.property(value, value, fc.constantFrom(0.01, 0.05, 0.1), (x, y, step) => {
      const settings = [
        setting('X', 'left', { step, value: 1.1 }),
        setting('Y', 'further', { step, value: -0.4 }),
      ];
      const solved = solveSettings(field(x, y), settings, A4_AREA);
      for (const dx of [-step, 0, step])
        for (const dy of [-step, 0, step]) {
          const tried = field(x - (solved.changes[0]!.to + dx - 1.1), y + (solved.changes[1]!.to + dy + 0.4));
          expect(meanSquareMm2(tried, A4_AREA)).toBeGreaterThanOrEqual(solved.meanSquareAfter - 1e-7);
        }
    }),
  );
});

const WAYS: [EffectDirection, EffectDirection][] = [
  ['right', 'further'],
  ['left', 'back'],
  ['right', 'back'],
  ['further', 'left'],
  ['back', 'right'],
];

test.each(WAYS)(
  'the loop closes with +X moving %s and +Y moving %s: 3 mm out is brought in and proved on one sheet',
  (xWay, yWay) => {
    const settings = [
      setting('X', xWay, { value: 1.15 }),
      setting('Y', yWay, { value: -0.1, unit: 'in', step: 0.002 }),
    ];
    const rig: SimulatedRig = {
      seed: 31,
      truth: {
        shiftXMm: 3.08,
        shiftYMm: -2.91,
        turnRad: 0.0004,
        scaleAcross: 1.0003,
        scaleAlong: 0.9997,
        leanRad: -0.0003,
      },
      centre: A4_CENTRE,
      settingsAtTruth: { X: 1.15, Y: -0.1 },
      effects: Object.fromEntries(settings.map((s) => [s.id, s.effect])),
      loadScatterMm: 0.02,
    };
    const random = seededRandom(77);
    const sheet = proofSheet();
    const first = fitModel(
      'affine',
      observe(sheet, 1, loadField(rig, { X: 1.15, Y: -0.1 }, 0), random),
      A4_CENTRE,
    );
    if (first.status !== 'ok') throw new Error(first.message);
    const plan = planCorrection(first, settings, A4_AREA, shiftScatter(0.03), 0.035);
    expect(plan.decision).toBe('correct');
    expect(plan.before.r95Mm).toBeGreaterThan(4);

    const typed = Object.fromEntries(plan.settings.changes.map((c) => [c.settingId, c.to]));
    const second = fitModel('affine', observe(sheet, 2, loadField(rig, typed, 0), random), A4_CENTRE);
    if (second.status !== 'ok') throw new Error(second.message);
    // What is left: rounding to the steps (0.05 mm, 0.002 in), the linear terms left to the file, and reading noise.
    expect(Math.abs(second.terms.shiftXMm)).toBeLessThan(0.08);
    expect(Math.abs(second.terms.shiftYMm)).toBeLessThan(0.08);
    const proof = planCorrection(second, settings, A4_AREA, shiftScatter(0.03), 0.035);
    expect(plumbState(proof.before.r95Mm, 0.4)).not.toBe('out-of-plumb');
  },
);

test('leave it alone: adjusting a rig that is plumb but for noise would double its variance (funnel, rule 2)', () => {
  const random = seededRandom(4);
  const runs = 400;
  // A decision takes longer than a fit; fewer of them tell enough.
  const decided = 120;
  let left = 0;
  let meddled = 0;
  let alone = 0;
  for (let i = 0; i < runs; i += 1) {
    const load = (): AffineField => field(0.03 * normalDeviate(random), 0.03 * normalDeviate(random));
    const now = load();
    const fit = fitModel(
      'affine',
      observe(proofSheet({ seed: i, secondSet: false }), 1, now, random),
      A4_CENTRE,
    );
    if (fit.status !== 'ok') throw new Error(fit.message);
    if (i < decided) {
      const plan = planCorrection(fit, [], A4_AREA, shiftScatter(0.03), 0.035);
      if (plan.decision === 'leave') left += 1;
    }
    const next = load();
    alone += (next.exMm ** 2 + next.eyMm ** 2) / runs;
    meddled += ((next.exMm - fit.field.exMm) ** 2 + (next.eyMm - fit.field.eyMm) ** 2) / runs;
  }
  expect(left / decided).toBeGreaterThan(0.85);
  expect(meddled / alone).toBeGreaterThan(1.8);
});

test('r95 at the worst place: load scatter alone is 2.4477 σ√2: the load that told it and the next; a lean makes a far corner the worst', () => {
  const none = Array.from({ length: 6 }, () => Array.from({ length: 6 }, () => 0));
  const steady = { bias: zeroField(A4_CENTRE), covariance: none, load: shiftScatter(0.05) };
  expect(worstR95(steady, A4_AREA).r95Mm).toBeCloseTo(2.4477 * Math.SQRT2 * 0.05, 5);
  const leaning = transformToField(
    termsAbout({ ...TRUE_TERMS, shiftXMm: 0.1, leanRad: 0.002 }, A4_CENTRE),
    A4_CENTRE,
  );
  expect(worstR95({ ...steady, bias: leaning }, A4_AREA).name).toMatch(/far/);
});

test.each([
  [0.1, 'plumb'],
  [0.31, 'leaning'],
  [0.41, 'out-of-plumb'],
])('r95 %d mm against 0.4 mm is %s', (r95, state) => expect(plumbState(r95, 0.4)).toBe(state));

test('the budget’s parts make up the variance that the prediction has at the place', () => {
  const fit = widestFit(fitLadder(observe(proofSheet(), 1, field(0.6, -0.4), seededRandom(3)), A4_CENTRE))!;
  const load = { shiftMm: 0.04, turnRad: 0.0005, pivot: { x: 10, y: 15 } };
  const plan = planCorrection(fit, [setting('X', 'right'), setting('Y', 'further')], A4_AREA, load, 0.035);
  const { at } = plan.before;
  const budget = uncertaintyBudget(plan, at, 0.1, 0.02);
  const m = misregistrationAt({ bias: plan.field, covariance: plan.covarianceTyped, load }, at);
  expect(budget.combinedMm).toBeCloseTo(Math.sqrt((m.varX + m.varY) / 2), 12);
  expect(budget.lines.map((l) => l.source)).toEqual([
    ...['resolution', 'acuity', 'load read', 'next load', 'turn of loads', 'settings'],
  ]);
  // δ²/12 against (0.2 δ)²: the steps count for twice what the eye does.
  const [resolution, acuity] = budget.lines;
  expect((resolution!.uMm / acuity!.uMm) ** 2).toBeCloseTo(100 / 48, 6);
});
