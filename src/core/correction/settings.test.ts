import fc from 'fast-check';

import { addFields, fieldAt, transformToField } from '../fit';
import { rectLattice, type Point } from '../geometry';
import { termsAbout } from '../rigsim';
import { A4_AREA, A4_CENTRE, TRUE_TERMS } from '@test/sheets';

import {
  areaVector,
  declaredEffect,
  DECLARED_EFFECT_U,
  meanSquareMm2,
  solveSettings,
  type DeclaredEffect,
  type MachineSetting,
} from '.';

const ORIGIN = { x: 0, y: 0 };
const declare = (d: Partial<DeclaredEffect>): DeclaredEffect => ({
  kind: 'offset',
  unit: 'mm',
  direction: 'right',
  anchor: ORIGIN,
  nominalMm: null,
  ...d,
});

test.each<[string, Partial<DeclaredEffect>, { x: number; y: number }]>([
  ['an inch to the left', { unit: 'in', direction: 'left' }, { x: -25.4, y: 0 }],
  ['1 % longer about the near edge', { kind: 'scale', unit: 'percent', direction: 'longer' }, { x: 0, y: 2 }],
  [
    '1 ‰ narrower about its middle',
    { kind: 'scale', unit: 'permille', direction: 'narrower', anchor: { x: 50, y: 0 } },
    { x: -0.05, y: 0 },
  ],
  ['1 mm a metre wider', { kind: 'scale', unit: 'mm-per-m', direction: 'wider' }, { x: 0.1, y: 0 }],
  [
    'a length of 400 mm typed 1 mm longer, cut shorter',
    { kind: 'length', direction: 'shorter', nominalMm: 400 },
    { x: 0, y: -0.5 },
  ],
  [
    '1° anticlockwise',
    { kind: 'turn', unit: 'degree', direction: 'anticlockwise' },
    { x: -200 * (Math.PI / 180), y: 100 * (Math.PI / 180) },
  ],
  [
    '1 mm a metre clockwise about the place itself',
    { kind: 'turn', unit: 'mm-per-m', direction: 'clockwise', anchor: { x: 100, y: 200 } },
    { x: 0, y: 0 },
  ],
])('+1 on a setting, %s, moves (100, 200) as it should', (_, declared, wanted) => {
  const moved = fieldAt(declaredEffect(declare(declared)), { x: 100, y: 200 });
  expect(moved.x).toBeCloseTo(wanted.x, 12);
  expect(moved.y).toBeCloseTo(wanted.y, 12);
});

const setting = (
  id: string,
  step: number,
  declared: Partial<DeclaredEffect>,
  more: Partial<MachineSetting> = {},
): MachineSetting => ({
  id,
  name: id,
  step,
  value: 0,
  min: null,
  max: null,
  effect: declaredEffect(declare(declared)),
  ...more,
});

const FIVE: readonly MachineSetting[] = [
  setting('X', 0.1, { direction: 'left' }),
  setting('Y', 0.1, { direction: 'further' }),
  setting('SX', 0.05, { kind: 'scale', unit: 'percent', direction: 'wider' }),
  setting('SY', 0.5, { kind: 'length', direction: 'longer', nominalMm: 500 }),
  setting('turn', 0.02, { kind: 'turn', unit: 'degree', direction: 'clockwise' }),
];

const field = (terms: Partial<typeof TRUE_TERMS>) =>
  transformToField(termsAbout({ ...TRUE_TERMS, ...terms }, A4_CENTRE), A4_CENTRE);

const small = fc.double({ min: -0.003, max: 0.003, noNaN: true });
const shift = fc.double({ min: -2, max: 2, noNaN: true });

test('coarse steps about far anchors: no combination of steps within two of the answer is better', () => {
  fc.assert(
    fc.property(shift, shift, small, small, small, (shiftXMm, shiftYMm, a, b, turnRad) => {
      const found = field({ shiftXMm, shiftYMm, scaleAcross: 1 + a, scaleAlong: 1 + b, turnRad });
      const solved = solveSettings(found, FIVE, A4_AREA);
      const score = (steps: readonly number[]): number =>
        solveSettings(
          FIVE.reduce((f, s, i) => addFields(f, s.effect, solved.changes[i]!.to + steps[i]! * s.step), found),
          [],
          A4_AREA,
        ).meanSquareAfter;
      expect(score([0, 0, 0, 0, 0])).toBeCloseTo(solved.meanSquareAfter, 9);
      for (let i = 0; i < 5; i += 1)
        for (let j = 0; j < 5; j += 1)
          for (const [p, q] of [
            [1, 0],
            [-1, 0],
            [1, 1],
            [1, -1],
            [2, 1],
            [-2, 1],
          ] as const) {
            const steps = [0, 0, 0, 0, 0];
            steps[i]! += p;
            steps[j]! += q;
            // A figure that is left alone is typed only for more than the doubt of what it does would cost.
            const slack = FIVE.reduce((sum, s, k) => {
              const typedAnew = steps[k] !== 0 && solved.changes[k]!.to === 0;
              const doubt =
                DECLARED_EFFECT_U * steps[k]! * s.step * Math.hypot(...areaVector(s.effect, A4_AREA));
              return sum + (typedAnew ? doubt ** 2 : 0);
            }, 0);
            expect(score(steps)).toBeGreaterThanOrEqual(solved.meanSquareAfter - slack - 1e-7);
          }
    }),
    {
      numRuns: 60,
      // The scale across would gain a ten-millionth, which is not worth typing it.
      examples: [[1.050404239883761, 0, 0, 0, -0.0029999999999436775]],
    },
  );
});

test('rounding neighbours one by one would be worse: the offset follows what rounding did to the scale', () => {
  const settings = [
    setting('Y', 0.05, { direction: 'further' }),
    setting('SY', 0.1, { kind: 'scale', unit: 'percent', direction: 'longer' }),
  ];
  // 0.05 % long about the near edge: half a step of the scale. At the centre that is 0.075 mm, a step and a half of Y.
  const solved = solveSettings(field({ scaleAlong: 1.0005, shiftYMm: 0.075 }), settings, A4_AREA);
  expect(Math.sqrt(solved.meanSquareAfter)).toBeLessThan((0.0005 * 270) / Math.sqrt(12) + 0.03);
});

/** A machine with some settings, and an error of it. */
const machines = fc.record({
  settings: fc.array(
    fc.record({
      kind: fc.constantFrom('offset', 'scale', 'length', 'turn'),
      way: fc.nat(3),
      fine: fc.boolean(),
      anchor: fc.record({ x: fc.constantFrom(0, 105, 210), y: fc.constantFrom(0, 150, 297) }),
      range: fc.option(fc.integer({ min: 1, max: 30 })),
    }),
    { minLength: 1, maxLength: 7 },
  ),
  field: fc.tuple(shift, shift, small, small, small, small),
});
const STEPS = {
  offset: [0.01, 0.1],
  scale: [0.005, 0.05],
  length: [0.02, 0.2],
  turn: [0.002, 0.02],
} as const;
const KINDS = {
  offset: { unit: 'mm', ways: ['right', 'left', 'further', 'back'] },
  scale: { unit: 'percent', ways: ['wider', 'narrower', 'longer', 'shorter'] },
  length: { unit: 'mm', ways: ['wider', 'narrower', 'longer', 'shorter'] },
  turn: { unit: 'degree', ways: ['anticlockwise', 'clockwise', 'anticlockwise', 'clockwise'] },
} as const;

/** What a machine does when such a figure is changed, exactly; shares nothing with the solver. */
function done(d: DeclaredEffect, by: number, p: Point): Point {
  const sign = ['left', 'back', 'narrower', 'shorter', 'clockwise'].includes(d.direction) ? -1 : 1;
  const across = ['left', 'right', 'wider', 'narrower'].includes(d.direction);
  const [x, y] = [p.x - d.anchor.x, p.y - d.anchor.y];
  if (d.kind === 'offset') return { x: p.x + (across ? sign * by : 0), y: p.y + (across ? 0 : sign * by) };
  if (d.kind === 'turn') {
    const angle = (sign * by * Math.PI) / 180;
    return {
      x: d.anchor.x + x * Math.cos(angle) - y * Math.sin(angle),
      y: d.anchor.y + x * Math.sin(angle) + y * Math.cos(angle),
    };
  }
  const share = 1 + (sign * by) / (d.kind === 'scale' ? 100 : d.nominalMm!);
  return { x: d.anchor.x + x * (across ? share : 1), y: d.anchor.y + y * (across ? 1 : share) };
}

test('600 random machines, many with settings that nearly do the same: never worse than now, and what is said is left over is what the machine then shows', () => {
  let further = 0;
  fc.assert(
    fc.property(machines, ({ settings, field: [x, y, a, b, turnRad, leanRad] }) => {
      const made = settings.map((s): { declared: DeclaredEffect; step: number; range: number | null } => ({
        declared: declare({
          kind: s.kind,
          unit: KINDS[s.kind].unit,
          direction: KINDS[s.kind].ways[s.way]!,
          anchor: s.anchor,
          nominalMm: s.kind === 'length' ? 200 : null,
        }),
        step: STEPS[s.kind][s.fine ? 0 : 1],
        range: s.range,
      }));
      const list = made.map(({ declared, step, range }, i) =>
        setting(`S${i}`, step, declared, range === null ? {} : { min: -range * step, max: range * step }),
      );
      const found = field({
        ...{ shiftXMm: x, shiftYMm: y, scaleAcross: 1 + a, scaleAlong: 1 + b, turnRad, leanRad },
      });
      const solved = solveSettings(found, list, A4_AREA, 0.004);
      const squares = rectLattice(A4_AREA, 3, 3).map((p, i) => {
        const off = fieldAt(found, p);
        const landed = made.reduce((at, m, j) => done(m.declared, solved.changes[j]!.to, at), {
          x: p.x + off.x,
          y: p.y + off.y,
        });
        // Simpson's rule is exact for the mean square of a map that is nearly straight.
        const weight = [1, 4, 1][i % 3]! * [1, 4, 1][Math.floor(i / 3)]!;
        return (weight * ((landed.x - p.x) ** 2 + (landed.y - p.y) ** 2)) / 36;
      });
      const after = Math.sqrt(squares.reduce((sum, v) => sum + v, 0));
      const before = Math.sqrt(solved.meanSquareBefore);
      expect(after).toBeLessThanOrEqual(before + 1e-9);
      const gap = Math.abs(after - Math.sqrt(solved.meanSquareAfter));
      // Stretches about far corners that undo millimetres act on what the others moved: second order, a hundredth of it.
      expect(gap).toBeLessThan(0.01 + 0.01 * before);
      if (gap > 0.01) further += 1;
    }),
    { numRuns: 600, seed: 9 },
  );
  expect(further / 600).toBeLessThan(0.04);
});

test('two turns are not driven against each other to make a shift', () => {
  const turns = [
    setting('T1', 0.1, { kind: 'turn', unit: 'mm-per-m', direction: 'anticlockwise' }),
    setting('T2', 0.01, { kind: 'turn', unit: 'degree', direction: 'clockwise', anchor: { x: 210, y: 297 } }),
  ];
  const solved = solveSettings(field({ shiftXMm: 2.1, shiftYMm: -1.9 }), turns, A4_AREA, 0.004);
  expect(Math.abs(solved.changes[0]!.to)).toBeLessThan(20);
  expect(Math.abs(solved.changes[1]!.to)).toBeLessThan(1.2);
});

test('scale and feed length do the same: one of them is held', () => {
  const both = [
    setting('SY', 0.01, { kind: 'scale', unit: 'percent', direction: 'longer', anchor: A4_CENTRE }),
    setting('L', 0.1, { kind: 'length', direction: 'longer', nominalMm: 400, anchor: A4_CENTRE }),
  ];
  const { changes } = solveSettings(field({ scaleAlong: 1.0004 }), both, A4_AREA, 0.004);
  expect(changes.filter((c) => c.to !== 0)).toHaveLength(1);
});

test('ranges hold, what does not fit is left over, and two settings that do the same are both usable', () => {
  const twice = [setting('A', 0.1, {}, { min: -0.3, max: 0.3 }), setting('B', 0.5, { direction: 'left' })];
  const solved = solveSettings(field({ shiftXMm: 1.13 }), twice, A4_AREA);
  expect(Math.abs(1.13 + solved.changes[0]!.to - solved.changes[1]!.to)).toBeLessThan(0.051);
  expect(Math.abs(solved.changes[0]!.to)).toBeLessThanOrEqual(0.3);
  const stuck = solveSettings(
    field({ scaleAlong: 1.004 }),
    [
      setting(
        'SY',
        0.01,
        { kind: 'scale', unit: 'percent', direction: 'longer', anchor: A4_CENTRE },
        { min: -0.1, max: 0.1 },
      ),
    ],
    A4_AREA,
  );
  expect(stuck.changes[0]).toMatchObject({ to: -0.1, clamped: true });
  expect(meanSquareMm2(stuck.leftOver, A4_AREA)).toBeGreaterThan(0);
});
