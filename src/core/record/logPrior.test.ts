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
const RIGS = 90;

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
  [0.1, 0.03],
  [0.3, 0.06],
  [0.5, 0.06],
])(
  'a jump of %d mm that nobody logged costs little, loads %d; half a millimetre is told',
  (jumpMm, loadMm) => {
    const gain = gainFromLog({ rigs: 140, sessions: 10, loadMm, walkMm: 0.005, jumpMm });
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
