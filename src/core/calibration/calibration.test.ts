import { transformToField } from '../fit';
import { pickNearest } from '../comb';
import { termsAbout } from '../rigsim';
import { A4_AREA, A4_CENTRE, proofSheet, TRUE_TERMS } from '@test/sheets';
import { passReading } from '@/core/readings';
import { fieldAt } from '../fit';

import { assessPass, readingOrder } from '.';

const sheet = proofSheet({ secondSet: false });

function readings(stations: number, shiftXMm: number, scaleAlong = 1) {
  const field = transformToField(termsAbout({ ...TRUE_TERMS, shiftXMm, scaleAlong }, A4_CENTRE), A4_CENTRE);
  return sheet.stations.slice(0, stations).flatMap((station) => {
    const d = fieldAt(field, station.centre);
    return [
      passReading(station, 'across', pickNearest(station.across, d.x)),
      passReading(station, 'along', pickNearest(station.along, d.y)),
    ];
  });
}

test('the order starts at the near left and takes the farthest next: the corners come first', () => {
  const order = readingOrder(sheet.stations).map((s) => s.id);
  expect(order.slice(0, 4).sort()).toEqual(['A1', 'A3', 'A7', 'A9']);
  expect(order[0]).toBe('A1');
  expect(new Set(order).size).toBe(9);
});

test.each([
  [1, 'one-place'],
  [2, 'whole-area'],
  [9, 'whole-area'],
])('%d stations speak for %s', (stations, scope) => {
  expect(assessPass(readings(stations, 0.1), [], A4_AREA, 0.4)!.scope).toBe(scope);
});

test('nothing is said before anything has been read', () => {
  expect(assessPass([], [], A4_AREA, 0.4)).toBeNull();
});

test('the state follows the worst place against what is allowed', () => {
  expect(assessPass(readings(9, 0), [], A4_AREA, 0.4)!.state).toBe('plumb');
  expect(assessPass(readings(9, 0.27), [], A4_AREA, 0.4)!.state).toBe('leaning');
  expect(assessPass(readings(9, 0, 1.004), [], A4_AREA, 0.4)!).toMatchObject({
    state: 'out-of-plumb',
    worstName: expect.stringMatching(/corner/),
  });
});

test('of readings of unequal doubt the largest is the noise that a term has to rise above', () => {
  const list = readings(9, 0.1);
  const coarse = list.map((r, i) => (i === 7 ? { ...r, observation: { ...r.observation, uMm: 0.21 } } : r));
  expect(assessPass(coarse, [], A4_AREA, 0.4)!.readingNoiseMm).toBe(0.21);
  const fine = list.map((r, i) => (i === 7 ? { ...r, observation: { ...r.observation, uMm: 0.001 } } : r));
  expect(assessPass(fine, [], A4_AREA, 0.4)!.readingNoiseMm).toBe(list[0]!.observation.uMm);
});

test('one place: the radius rests on the picks’ own intervals and the load scatter', () => {
  const a = assessPass(readings(1, 0.2), [], A4_AREA, 0.4)!;
  // √(0.035² + 2 · 0.03²) an axis about a bias of 0.2 ± half a step: this load's scatter and the next one's.
  expect(a.r95Mm).toBeGreaterThan(0.2);
  expect(a.r95Mm).toBeLessThan(0.36);
});
