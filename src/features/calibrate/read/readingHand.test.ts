import { predictOffset } from '@/core/fit';
import { pickFromSteps } from '@/core/comb';
import { proofSheet } from '@test/sheets';

import {
  combOf,
  lengthsOf,
  nextOpen,
  pickWithin,
  readOffset,
  roughFor,
  wrap,
  type Task,
} from './readingHand';
import type { KeptReading } from './useReadings';

const sheet = proofSheet({ secondSet: false });
const tasks = sheet.stations.flatMap((station): Task[] => [
  { station, axis: 'across' },
  { station, axis: 'along' },
]);
const hand = (steps: number, coarseRead: number | null) => ({
  task: 0,
  mode: 'fine' as const,
  coarseMm: 0,
  coarseRead,
  steps,
});
const keep = (index: number, offsetSteps: number): KeptReading => {
  const { station, axis } = tasks[index]!;
  return {
    stationId: station.id,
    axis,
    pick: pickFromSteps(combOf({ station, axis }), offsetSteps),
    coarseMm: null,
  };
};

test.each([
  [5.5, 5.5],
  [6, -5],
  [-5, -5],
  [-5.5, 5.5],
])('%d steps come round to %d', (steps, wanted) => expect(wrap({ halfLines: 5 }, steps)).toBe(wanted));

test.each([
  [3, { line: 3, between: false }],
  [-0.5, { line: -1, between: true }],
  [5.5, { line: 5, between: true }],
])('%d steps are the pick %j', (steps, pick) => expect(pickWithin(steps)).toEqual(pick));

test.each([
  [0, 0, 0],
  [0, 3.5, 3], // 3 × 1.1 mm is the nearest to 3.5
  [5, 3, 2],
  [-4, -6, -5],
])('line %d with the coarse cross at %d mm is %d comb lengths off', (steps, coarse, wanted) => {
  expect(lengthsOf(tasks[0]!, hand(steps, coarse), null)).toBe(wanted);
});

test('without a coarse reading the other combs tell; without those it is taken as near zero', () => {
  expect(lengthsOf(tasks[0]!, hand(0, null), null)).toBe(0);
  expect(lengthsOf(tasks[0]!, hand(0, null), { offsetMm: -2.3, uMm: 0.05 })).toBe(-2);
});

test('a comb far from the only one read is less sure than one beside it, and its own reading does not count', () => {
  const readings = [keep(0, 4)];
  expect(roughFor(tasks[0]!, tasks, readings, predictOffset)).toBeNull();
  expect(roughFor(tasks[1]!, tasks, readings, predictOffset)).toBeNull();
  const beside = roughFor(tasks[2]!, tasks, readings, predictOffset)!;
  const far = roughFor(tasks[16]!, tasks, readings, predictOffset)!;
  expect(beside.offsetMm).toBeCloseTo(readOffset(sheet, readings, 'A1', 'across')!, 9);
  expect(far.uMm).toBeGreaterThan(beside.uMm);
});

test('the next open comb goes round and ends', () => {
  const done = new Set([1, 2, 17]);
  const isKept = (t: Task): boolean => done.has(tasks.indexOf(t));
  expect(nextOpen(tasks, 0, isKept)).toBe(3);
  expect(nextOpen(tasks, 16, isKept)).toBe(0);
  expect(nextOpen(tasks, 5, () => true)).toBeNull();
});
