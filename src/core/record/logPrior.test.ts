import fc from 'fast-check';

import { gainFromLog } from '../../../bench/fromLog';
import { A4_AREA, A4_CENTRE } from '@test/sheets';

import { shiftScatter } from '../correction';
import type { AffineField } from '../fit';

import { expectedByLog, LOADS_TO_TELL, logPrior, withLog, type LoadTold } from '.';

const at = (exMm: number, eyMm = 0): AffineField => ({
  ...{ origin: A4_CENTRE, b11: 0, b12: 0, b21: 0, b22: 0, exMm, eyMm },
});
const READ = [...[1e-9, 1e-9, 1e-9, 1e-9], 1e-4, 1e-4].map((v, i, all) =>
  all.map((_, j) => (i === j ? v : 0)),
);
const load = (atDays: number, own: AffineField, more: Partial<LoadTold> = {}): LoadTold => ({
  ...{ atDays, own, covariance: READ, afterEvent: false, typedCovariance: null },
  ...more,
});
const SCATTER = shiftScatter(0.03);
const NOW = { atDays: 70, afterEvent: false, typedCovariance: null };
const steady = (count: number, mm = 0.4): LoadTold[] =>
  Array.from({ length: count }, (_, i) => load(7 * i, at(mm + (i % 2 ? 0.02 : -0.02))));

/* Promises of maths.md over simulated rigs, whose walk, scatter and jumps are hidden; the whole table: bench -- log. */
const RIGS = 48;

test.each([0.03, 0.06])(
  'ten sessions on record take a fifth off what 95 of 100 next loads stay within, loads %d',
  (loadMm) => {
    const gain = gainFromLog({ rigs: RIGS, sessions: 10, loadMm, walkMm: 0.005 });
    expect(gain.withLogMm).toBeLessThan(0.8 * gain.withoutMm);
    // What is promised then is kept: 95 %, less three standard errors of so many rigs.
    expect(gain.heldShare).toBeGreaterThan(0.95 - 3 * Math.sqrt((0.95 * 0.05) / RIGS));
    // A rig that did not jump is hardly ever said to have moved.
    expect(gain.toldShare).toBeLessThan(0.05);
  },
);

test('four stations read with the log are worth at least nine without it', () => {
  const stations = { withLog: 4, without: 9 };
  const gain = gainFromLog({ rigs: RIGS, sessions: 10, loadMm: 0.06, walkMm: 0.01, stations });
  expect(gain.withLogMm).toBeLessThan(1.05 * gain.withoutMm);
});

test.each([
  [0.1, 0.03, 48],
  [0.3, 0.06, 48],
  [0.5, 0.06, 80],
])(
  'a jump of %d mm that nobody logged costs little, loads %d; half a millimetre is told',
  (jumpMm, loadMm, rigs) => {
    const gain = gainFromLog({ rigs, sessions: 10, loadMm, walkMm: 0.005, jumpMm });
    expect(gain.withLogMm).toBeLessThan(1.2 * gain.withoutMm);
    if (jumpMm >= 0.5) expect(gain.toldShare).toBeGreaterThanOrEqual(0.95);
  },
);

test('too few loads since something was done to the rig tell nothing', () => {
  expect(logPrior(steady(LOADS_TO_TELL - 1), A4_AREA, SCATTER, NOW)).toBeNull();
  expect(logPrior(steady(LOADS_TO_TELL), A4_AREA, SCATTER, NOW)).toMatchObject({ loads: 3, sinceEvent: 3 });
  expect(logPrior(steady(9), A4_AREA, SCATTER, { ...NOW, afterEvent: true })).toBeNull();
  const moved = steady(9).map((l, i) => (i < 5 ? l : { ...l, own: at(-1), afterEvent: i === 5 }));
  const prior = logPrior(moved, A4_AREA, SCATTER, NOW)!;
  expect(prior.sinceEvent).toBe(4);
  // What stood before the event is forgotten.
  expect(expectedByLog(prior).own.exMm).toBeCloseTo(-1, 1);
});

test('what a load tells is weighed against the log: one like it is averaged in, one far off is believed', () => {
  const prior = logPrior(steady(10), A4_AREA, SCATTER, NOW)!;
  expect(expectedByLog(prior).own.exMm).toBeCloseTo(0.4, 2);
  const near = withLog(prior, { own: at(0.44), covariance: READ });
  expect(near.own.exMm).toBeGreaterThan(0.4);
  expect(near.own.exMm).toBeLessThan(0.42);
  expect(near.moved).toBeLessThan(0.4);
  const far = withLog(prior, { own: at(0.9), covariance: READ });
  expect(far.own.exMm).toBeGreaterThan(0.88);
  expect(far.moved).toBeGreaterThan(0.99);
});

test('wherever a rig stands with nothing typed, what its loads say is where it is expected: a typed length is a large number', () => {
  // A figure of 500 mm that stretches by its share of 500 mm: taken out, the rig’s own is a stretch by minus one.
  const far = { ...at(-37.2, 12.5), b22: -1, b11: 0.4 };
  const log = Array.from({ length: 4 }, (_, i) => load(7 * i, far));
  const { own } = expectedByLog(logPrior(log, A4_AREA, SCATTER, { ...NOW, atDays: 28 })!);
  for (const name of ['b11', 'b12', 'b21', 'b22', 'exMm', 'eyMm'] as const)
    expect(own[name]).toBeCloseTo(far[name], 9);
});

test('it is surer the more loads, and less sure the longer ago', () => {
  const doubt = (count: number, days: number): number =>
    expectedByLog(logPrior(steady(count), A4_AREA, SCATTER, { ...NOW, atDays: 7 * count + days })!)
      .covariance[4]![4]!;
  expect(doubt(12, 0)).toBeLessThan(doubt(4, 0));
  expect(doubt(12, 60)).toBeGreaterThan(1.2 * doubt(12, 0));
});

test('property: the doubt stays a covariance and never grows by looking', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: -60, max: 60 }), fc.integer({ min: -60, max: 60 })), {
        ...{ minLength: 3, maxLength: 12 },
      }),
      (offsets) => {
        const log = offsets.map(([x, y], i) => load(3 * i, at(x / 100, y / 100)));
        const now = { ...NOW, atDays: 3 * log.length };
        const prior = logPrior(log, A4_AREA, SCATTER, now)!;
        const before = expectedByLog(prior);
        // Just what was expected is seen: nothing speaks for a jump.
        const after = withLog(prior, { own: before.own, covariance: READ });
        for (let i = 0; i < 6; i += 1) {
          expect(after.covariance[i]![i]!).toBeGreaterThan(0);
          expect(after.covariance[i]![i]!).toBeLessThanOrEqual(before.covariance[i]![i]! * (1 + 1e-6));
          for (let j = 0; j < 6; j += 1)
            expect(after.covariance[i]![j]!).toBeCloseTo(after.covariance[j]![i]!, 12);
        }
      },
    ),
    { numRuns: 25 },
  );
});

/* A check at one place: two offsets there instead of six terms. */

const SPOT = { x: A4_AREA.x1, y: A4_AREA.y1 };
const spot = (atDays: number, xMm: number, yMm = 0): LoadTold => load(atDays, at(xMm, yMm), { spot: SPOT });

test('by itself a check at one place tells nothing, and it counts as no load', () => {
  expect(
    logPrior(
      Array.from({ length: 9 }, (_, i) => spot(i, 0.4)),
      A4_AREA,
      SCATTER,
      NOW,
    ),
  ).toBeNull();
  const two = [...steady(2), ...Array.from({ length: 5 }, (_, i) => spot(20 + i, 0.4))];
  expect(logPrior(two, A4_AREA, SCATTER, NOW)).toBeNull();
  const first = [spot(-7, 0.9), ...steady(4)];
  expect(expectedByLog(logPrior(first, A4_AREA, SCATTER, NOW)!)).toEqual(
    expectedByLog(logPrior(steady(4), A4_AREA, SCATTER, NOW)!),
  );
});

test('after full loads it makes the expectation surer, and follows a rig that has moved', () => {
  const now = { ...NOW, atDays: 90 };
  const expected = (list: readonly LoadTold[]) => expectedByLog(logPrior(list, A4_AREA, SCATTER, now)!);
  const [without, same] = [expected(steady(8)), expected([...steady(8), spot(88, 0.4), spot(89, 0.4)])];
  expect(same.covariance[4]![4]!).toBeLessThan(0.8 * without.covariance[4]![4]!);
  expect(same.own.exMm).toBeCloseTo(0.4, 1);
  const moved = expected([...steady(8), spot(87, 0.9), spot(88, 0.9), spot(89, 0.9)]);
  expect(moved.own.exMm).toBeGreaterThan(0.7);
});

test('property: read as full or as two rows of full, the update is one and the same', () => {
  fc.assert(
    fc.property(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 }), (x, y) => {
      // Where linear terms are told to nothing, a place in the middle of the area tells what a full load tells of the shift.
      const wide = READ.map((row, i) => row.map((v, j) => (i === j && i < 4 ? 1e6 : v)));
      const full = load(60, at(x / 100, y / 100), { covariance: wide });
      const one = { ...full, covariance: READ, spot: A4_CENTRE };
      const [a, b] = [full, one].map((l) =>
        expectedByLog(logPrior([...steady(6), l], A4_AREA, SCATTER, NOW)!),
      );
      expect(b!.own.exMm).toBeCloseTo(a!.own.exMm, 3);
      expect(b!.covariance[5]![5]!).toBeCloseTo(a!.covariance[5]![5]!, 4);
    }),
    { numRuns: 20 },
  );
});
