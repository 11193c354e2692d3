import { seededRandom } from '../random/random';
import { makeFault } from '@test/faults';

import { diagnose, FAULT_KINDS, type FaultKind } from '.';
import { PRIORS } from './kinds';
import { Marginal } from '../statistics';

/* `bench -- faults` is the trial in full; this is a tenth of it. */

const TRIALS = 40;

function trial(repeats: boolean, marksOf: (kind: FaultKind, i: number) => number | null) {
  const random = seededRandom(17);
  const counts = { right: 0, all: 0, misreads: 0, sentToCalibration: 0 };
  const sure: [said: number, right: boolean][] = [];
  for (const kind of FAULT_KINDS)
    for (let i = 0; i < TRIALS; i += 1) {
      const marks = marksOf(kind, i);
      if (marks === null) continue;
      const { rig, sheets } = makeFault(kind, marks, repeats, random);
      const kinds = diagnose(rig, sheets);
      expect(kinds.reduce((sum, k) => sum + k.probability, 0)).toBeCloseTo(1, 9);
      const [first] = kinds;
      sure.push([first!.probability, first!.kind === kind]);
      counts.all += 1;
      counts.right += Number(first!.kind === kind);
      counts.misreads += Number(kind === 'misread');
      counts.sentToCalibration += Number(kind === 'misread' && first!.kind === 'calibration');
    }
  return { ...counts, sure };
}

test('with check bars, two more loads and a fresh pair: at least 85 of 100 right, no misread ends in a calibration', () => {
  const told = trial(true, (kind, i) => (kind === 'skewed-load' ? 1 : 1 + (i % 4)));
  expect(told.right / told.all).toBeGreaterThan(0.85);
  expect(told.sentToCalibration / told.misreads).toBeLessThanOrEqual(0.05);
  const certain = told.sure.filter(([p]) => p > 0.9);
  expect(certain.filter(([, right]) => right).length / certain.length).toBeGreaterThan(0.9);
});

test('from one sheet of a rig with two marks or more: at least 70 of 100 right', () => {
  const told = trial(false, (kind, i) => (kind === 'skewed-load' ? null : 2 + (i % 3)));
  expect(told.right / told.all).toBeGreaterThan(0.7);
  expect(told.sentToCalibration / told.misreads).toBeLessThanOrEqual(0.05);
});

test('what is called so sure is so about as often, of every kind that is named', () => {
  const random = seededRandom(23);
  const bins = [0.1, 0.3, 0.5, 0.7].map((from) => ({ from, said: 0, right: 0, weight: 0, count: 0 }));
  for (const kind of FAULT_KINDS.filter((k) => k !== 'skewed-load'))
    for (let i = 0; i < 8 * TRIALS; i += 1) {
      const { rig, sheets } = makeFault(kind, 2 + (i % 3), false, random);
      // Each kind as often as it happens.
      const weight = PRIORS[kind];
      for (const told of diagnose(rig, sheets)) {
        const bin = bins.findLast((b) => told.probability >= b.from);
        if (!bin || told.probability > 0.9) continue;
        bin.count += 1;
        bin.weight += weight;
        bin.said += weight * told.probability;
        if (told.kind === kind) bin.right += weight;
      }
    }
  // A share told by a handful of sheets is no share.
  const told = bins.filter((b) => b.count >= 60);
  expect(told.length).toBeGreaterThan(2);
  for (const { said, right, weight } of told) expect(Math.abs(said - right) / weight).toBeLessThan(0.1);
});

test.each([
  [0, 'misread', /reads no marks/],
  [2, 'skewed-load', /turns with the sheet/],
] as const)('a rig of %d marks cannot have %s', (marks, kind, words) => {
  const { rig, sheets } = makeFault('none', 2, false, seededRandom(1));
  const told = diagnose({ ...rig, marks }, sheets).find((k) => k.kind === kind)!;
  expect(told.probability).toBe(0);
  expect(told.evidence).toMatch(words);
});

test('a pair that was made anew for every sheet cannot have been moved', () => {
  const { rig, sheets } = makeFault('calibration', 2, false, seededRandom(1));
  const anew = sheets.map((s) => ({ ...s, fresh: true }));
  expect(diagnose(rig, anew).find((k) => k.kind === 'art-moved')!.probability).toBe(0);
});

test('bars that are off by what cannot be misread make it the print', () => {
  const { rig, sheets } = makeFault('calibration', 2, false, seededRandom(2));
  const barred = sheets.map((s) => ({ ...s, bars: { across: 0.02, along: 0.02, u: 0.001 } }));
  expect(diagnose(rig, barred)[0]!.kind).toBe('print-scaled');
});

test('one axis alone, one reading alone: it answers, and is not sure', () => {
  const one = { x: 10, y: 10, dx: 0.4, dy: null, ux: 0.03, uy: null };
  const [first] = diagnose({ marks: 1, registrationSdMm: 0.03 }, [
    { load: 'a', job: 'j', fresh: false, bars: null, stations: [one] },
  ]);
  expect(first!.probability).toBeLessThan(0.7);
});

test('the marginal density by hand: two readings that share one effect', () => {
  // C = [[1 + 4, 4], [4, 1 + 4]], d = (3, 1): determinant 9, d′C⁻¹d = (5·9 + 5·1 − 8·3)/9 = 26/9.
  const { log, explained } = new Marginal([3, 1], [1, 1], []).with([[2, 2]]);
  expect(log).toBeCloseTo(-0.5 * (26 / 9 + Math.log(9)), 12);
  expect(explained).toBeCloseTo((10 - 26 / 9) / 10, 12);
  expect(new Marginal([3, 1], [1, 1], [[2, 2]]).with([]).log).toBeCloseTo(log, 12);
});
