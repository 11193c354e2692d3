import { passReading, type PassReading } from '@/core/readings';

import { seenOn } from '@test/drawn';
import { buildProofSheet, cutLayer, type ProofSheet, type ProofSpec } from '../proof';
import { seededRandom } from '../random/random';
import { coarseOffset, nearestLengths } from '../comb';
import { fieldFrom, loadField, lookAtComb, type SimulatedRig } from '../rigsim';
import { scatterOfLoads, shiftScatter } from '../correction';

import { assessPass, backlashOf } from '.';

/* Backlash told from shift: every other station cut from the other side. */

const AREA = { x0: 10, y0: 15, x1: 310, y1: 435 };
const SPEC: ProofSpec = {
  ...{ sheetWidthMm: 320, sheetHeightMm: 450, workArea: AREA, marks: null, columns: 3, rows: 3 },
  ...{ secondSet: false, unit: 'mm', stepMm: 0.1, seed: 3 },
};
const sheetOf = (more: Partial<ProofSpec>): ProofSheet => {
  const built = buildProofSheet({ ...SPEC, ...more });
  if (!built.ok) throw new Error(built.refusal.code);
  return built.value;
};
const rig = (seed: number, backlashMm: { x: number; y: number }): SimulatedRig => ({
  seed,
  truth: {
    shiftXMm: 0.4,
    shiftYMm: -0.2,
    turnRad: 4e-4,
    scaleAcross: 1.0006,
    scaleAlong: 0.9995,
    leanRad: 2e-4,
  },
  centre: { x: 160, y: 225 },
  ...{ settingsAtTruth: {}, effects: {}, loadScatterMm: 0, backlashMm },
});

/** A sheet read on a simulated rig. */
function read(sheet: ProofSheet, simulated: SimulatedRig): PassReading[] {
  const random = seededRandom(simulated.seed + 1000);
  const load = loadField(simulated, {}, 1);
  return sheet.stations.flatMap((station) => {
    const field = fieldFrom(simulated, load, station);
    return (['across', 'along'] as const).map((axis) => {
      const sight = lookAtComb(station[axis], station.scaleCentre, field, random);
      const { line, between } = sight.pick;
      const lengths = nearestLengths(station[axis], line, between, coarseOffset(sight.coarseMm));
      return passReading(station, axis, { line, between, lengths }, sight.coarseMm);
    });
  });
}

test('95 % intervals of a backlash hold it in at least 93 of 100 rigs, and hardly one without is accused', () => {
  const sheets = [1, 2, 3, 4, 5].map((seed) => sheetOf({ bothWays: true, seed }));
  let [held, asked, accused, still] = [0, 0, 0, 0];
  for (let trial = 0; trial < 1000; trial += 1) {
    const b = trial % 4 === 0 ? { x: 0, y: 0 } : { x: 0.03 * (trial % 7), y: -0.02 * (trial % 5) };
    const told = backlashOf(read(sheets[trial % 5]!, rig(trial, b)));
    for (const [axis, mm] of [
      ['across', b.x],
      ['along', b.y],
    ] as const) {
      const found = told[axis]!;
      asked += 1;
      if (Math.abs(found.mm - mm) < found.half95Mm) held += 1;
      if (mm === 0) {
        still += 1;
        if (found.real) accused += 1;
      }
    }
  }
  expect(held / asked).toBeGreaterThan(0.93);
  expect(held / asked).toBeLessThan(0.98);
  expect(accused / still).toBeLessThan(0.05);
});

test('a sheet cut one way shows backlash as shift; cut both ways the shift is what it is', () => {
  const backlash = { x: 0.3, y: 0 };
  const load = scatterOfLoads([], shiftScatter(0));
  const of = (more: Partial<ProofSpec>) =>
    assessPass(read(sheetOf(more), rig(7, backlash)), [], AREA, 0.5, { load })!;
  const [one, both] = [of({}), of({ bothWays: true })];
  expect(one.backlash).toEqual({ across: null, along: null });
  // All from the left: half of it to the left.
  expect(one.fit.terms.shiftXMm).toBeCloseTo(0.4 - 0.15, 1);
  expect(both.backlash.across).toMatchObject({ real: true });
  expect(Math.abs(both.backlash.across!.mm - 0.3)).toBeLessThan(3 * both.backlash.across!.se);
  expect(both.backlash.along!.real).toBe(false);
  expect(Math.abs(both.fit.terms.shiftXMm - 0.4)).toBeLessThan(0.04);
  // Taken out, it widens nothing.
  expect(both.fit.noise.factor).toBe(1);
});

test('cut both ways the same lines are cut, in the other order at every other station', () => {
  const lines = (sheet: ProofSheet) =>
    seenOn(cutLayer(sheet, '0001', 1)).flatMap((m) => (m.kind === 'line' ? [m] : []));
  const [one, both] = [lines(sheetOf({})), lines(sheetOf({ bothWays: true }))];
  const key = (m: (typeof one)[number]): string =>
    [m.from, m.to]
      .map((p) => `${p.x.toFixed(6)} ${p.y.toFixed(6)}`)
      .sort()
      .join(' ');
  expect(both.map(key).sort()).toEqual(one.map(key).sort());
  const per = one.length / 9;
  const same = Array.from({ length: 9 }, (_, s) => key(one[s * per]!) === key(both[s * per]!));
  expect(same).toEqual([true, false, true, false, true, false, true, false, true]);
});

test('too few places, or one side only, tell nothing', () => {
  const all = read(sheetOf({ bothWays: true }), rig(1, { x: 0.2, y: 0.2 }));
  expect(backlashOf(all.slice(0, 8))).toEqual({ across: null, along: null });
  expect(backlashOf(all.filter((r) => r.from === 1))).toEqual({ across: null, along: null });
});
