import { simulateRun, SECTION_M, trueNode, type RollTruth } from '@test/rolls';

import { normalDeviate, seededRandom } from '../random/random';

import { expectAhead, possibleSlip } from './follow';

/* Slips too small to be called: the next section's band has to hold all the same, and one more reading is asked for. */

const TRUTH: RollTruth = {
  wander: 0.004,
  creepSd: 0.05,
  reading: 0.035,
  registration: 0.03,
  creep: 0.3,
  bow: 0,
};
const NODES = [trueNode(TRUTH)];
const UNIT = TRUTH.reading ** 2;
const RUNS = 1500;

/** Share of runs whose next section lies within the band that is said after the reading that the slip came before. */
function held(sizeMm: number | null, asked: boolean) {
  const random = seededRandom(Math.round(1000 * (sizeMm ?? 0)) + 3);
  let [within, plainWithin, unsure, width] = [0, 0, 0, 0];
  for (let i = 0; i < RUNS; i += 1) {
    const before = 3 + Math.floor(6 * random());
    const slip = sizeMm === null ? undefined : { before, sizeMm: random() < 0.5 ? sizeMm : -sizeMm };
    const { run, levelMm } = simulateRun(TRUTH, random, { id: 'now', ...(slip ? { slip } : {}) });
    const readings = run.readings.slice(0, before + 1);
    const last = readings[before]!;
    // The same row read again, when it was asked for.
    const more = { ...last, id: 'again', offsetMm: levelMm[before]! + TRUTH.reading * normalDeviate(random) };
    const first = possibleSlip({ ...run, readings }, NODES, UNIT, 0.2);
    unsure += Number(first !== null) / RUNS;
    const now = { ...run, readings: asked && first ? [...readings, more] : readings };
    const ahead = { yM: (before + 2) * SECTION_M, registeredAtM: null };
    const truth = levelMm[before + 1]!;
    const lies = (e: { offsetMm: number; varianceMm2: number }): number =>
      Number(Math.abs(truth - e.offsetMm) < 1.96 * Math.sqrt(e.varianceMm2)) / RUNS;
    const said = expectAhead(now, ahead, NODES, UNIT, 0.2, possibleSlip(now, NODES, UNIT, 0.2));
    const plain = expectAhead(now, ahead, NODES, UNIT, 0.2);
    within += lies(said);
    plainWithin += lies(plain);
    width += Math.sqrt(said.varianceMm2 / plain.varianceMm2) / RUNS;
  }
  return { within, plainWithin, unsure, width };
}
test.each([null, 0.15, 0.2, 0.25, 0.3, 0.6])(
  'after a slip of %s mm the band of the next section holds 95 in 100',
  (sizeMm) => {
    const { within, width } = held(sizeMm, false);
    expect(within).toBeGreaterThan(0.93);
    expect(within).toBeLessThan(0.98);
    // What it costs the others.
    expect(width).toBeLessThan(1.02);
  },
);

test('without the slip’s part one of 0.6 mm is followed too late; with one more reading both are right', () => {
  expect(held(0.6, false).plainWithin).toBeLessThan(0.9);
  expect(held(0.6, true).within).toBeGreaterThan(0.94);
});

test('a step of a slip’s size is nearly surely one, a step of wander’s size nearly surely none', () => {
  const at = (offsets: readonly number[]) =>
    possibleSlip(
      {
        id: 'now',
        registeredAtM: [0],
        readings: offsets.map((offsetMm, k) => ({
          id: `${k}`,
          yM: (k + 1) * SECTION_M,
          uMm: 0.035,
          offsetMm,
        })),
      },
      NODES,
      UNIT,
      0.2,
    );
  expect(at([0.23])).toBeNull();
  expect(at([0.23, 0.45, 0.67])).toBeNull();
  expect(at([0.23, 0.45, 0.67, 1.7])).toMatchObject({ beforeReading: 3, chance: expect.closeTo(1, 3) });
  const unsure = at([0.23, 0.45, 0.67, 1.12])!;
  expect(unsure.beforeReading).toBe(3);
  expect(unsure.chance).toBeGreaterThan(0.02);
  expect(unsure.chance).toBeLessThan(0.5);
});
