import { assessPass } from '@/core/calibration';
import { fieldAt, transformToField } from '@/core/fit';
import { seededRandom } from '@/core/random/random';
import { cutPitchMm, pickNearest } from '@/core/comb';
import { termsAbout } from '@/core/rigsim';
import { readAtDesk, roughTerms } from '@test/operator';
import { A4_AREA, A4_CENTRE, proofSheet, TRUE_TERMS } from '@test/sheets';
import { passReading, type PassReading } from '@/core/readings';

import { combOf, stepsOfLabel, tasksOf } from './readingHand';

test('combs are never as long as the graduation that tells their lengths', () => {
  for (const stepMm of [0.05, 0.0508, 0.1, 0.1016, 0.2])
    expect(
      cutPitchMm(proofSheet({ stepMm, columns: 2, rows: 2 }).stations[0]!.across),
    ).toBeGreaterThanOrEqual(0.75 - 1e-9);
});

// `npm run bench -- combs` does 1,500 of each.
test('of 60 sheets with 0.05 mm combs and a blurred cross, hardly one ends with a wrong length that is not told', () => {
  const random = seededRandom(5);
  let unsaid = 0;
  for (let i = 0; i < 60; i += 1) {
    const sheet = proofSheet({ stepMm: 0.05, secondSet: false, seed: i + 1 });
    const field = transformToField(termsAbout(roughTerms(random), A4_CENTRE), A4_CENTRE);
    const readings = readAtDesk(sheet, field, random, [0.03, 0.05, 0.08][i % 3]!);
    const wrong = readings.some(({ observation: o, lengthMm }) => {
      const d = fieldAt(field, { x: o.xMm, y: o.yMm });
      return Math.abs(o.offsetMm - (o.axis === 'across' ? d.x : d.y)) > lengthMm / 2;
    });
    const { crosses, lengths, one } = assessPass(readings, [], A4_AREA, 0.4)!.misread;
    if (wrong && crosses.length + lengths.length === 0 && one === null) unsaid += 1;
  }
  expect(unsaid).toBeLessThanOrEqual(1);
});

const sheet = (side: number) => proofSheet({ secondSet: false, columns: side, rows: side });
const truth = transformToField(termsAbout({ ...TRUE_TERMS, shiftXMm: 0.31 }, A4_CENTRE), A4_CENTRE);

/** Every comb of a set as it is, but for what is misread. */
const read = (side: number, misread: (id: string, axis: string) => number): PassReading[] =>
  sheet(side).stations.flatMap((station) => {
    const d = fieldAt(truth, station.centre);
    return (['across', 'along'] as const).map((axis) =>
      passReading(
        station,
        axis,
        pickNearest(station[axis], (axis === 'across' ? d.x : d.y) + misread(station.id, axis)),
      ),
    );
  });
const misreadOf = (readings: readonly PassReading[]) => assessPass(readings, [], A4_AREA, 0.4)!.misread;

test('honest readings are not questioned', () => {
  for (const side of [2, 3])
    expect(misreadOf(read(side, () => 0))).toEqual({ crosses: [], lengths: [], one: null });
});

test.each([2, 3])('on %d × %d stations a comb that is a length off is named, with the way', (side) => {
  const found = misreadOf(read(side, (id, axis) => (id === 'A3' && axis === 'along' ? 1.1 : 0)));
  expect(found.lengths).toEqual([{ stationId: 'A3', axis: 'along', by: -1 }]);
});

test('two miscounted combs are both named', () => {
  const found = misreadOf(
    read(3, (id, axis) => (axis === 'across' ? (id === 'A2' ? 1.1 : id === 'A7' ? -1.1 : 0) : 0)),
  );
  expect(found.lengths).toHaveLength(2);
  expect(found.lengths).toEqual(
    expect.arrayContaining([
      { stationId: 'A2', axis: 'across', by: -1 },
      { stationId: 'A7', axis: 'across', by: 1 },
    ]),
  );
});

test('one misread of 0.7 mm on 2 × 2 is a comb to read again, not a perspective', () => {
  const found = misreadOf(read(2, (id, axis) => (id === 'A3' && axis === 'across' ? 0.7 : 0)));
  expect(found.lengths).toEqual([]);
  expect(found.one).not.toBeNull();
  expect(found.one!.axis).toBe('across');
});

describe('typing the label', () => {
  const comb = combOf(tasksOf(sheet(3), 1)[0]!);
  const label = (steps: number): string => (comb.phaseMm + steps * 0.1).toFixed(2);

  test.each([-5, -2, 0, 3.5, 5])('the label of step %d, with comma, sign or minus of the screen', (steps) => {
    for (const typed of [label(steps), label(steps).replace('.', ','), label(steps).replace('-', '−')])
      expect(stepsOfLabel(comb, typed, 'mm')).toEqual({ steps });
  });

  test('what is no label here is told with the labels there are', () => {
    for (const typed of ['2.5', 'x', ''])
      expect(stepsOfLabel(comb, typed, 'mm')).toEqual({ message: expect.stringContaining('labels go from') });
  });
});
