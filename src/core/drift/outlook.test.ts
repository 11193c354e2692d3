import fc from 'fast-check';

import { applyAffine, invertAffine } from '../geometry';
import { seededRandom } from '../random/random';

import { medianSquareU } from './steps';
import { sectionOutlook, type FollowedAxis, type SectionAhead } from './outlook';
import type { DriftNode, DriftReading } from './types';
import { filmNode } from '@test/rolls';

const reading = (yM: number, offsetMm: number, uMm = 0.035): DriftReading => ({
  id: `${yM}`,
  yM,
  offsetMm,
  uMm,
});

const axis = (readings: readonly DriftReading[], node: Partial<DriftNode> = {}): FollowedAxis => ({
  run: { id: 'now', registeredAtM: [0], readings },
  nodes: [filmNode(node)],
  unitVarMm2: 0.035 ** 2,
  startSdMm: 0.3,
});

const AHEAD: SectionAhead = { startM: 1.5, endM: 2.25, registers: 'no' };
const STILL = { creepMmPerM: 0 };

test('what the file undoes is what is expected at both ends, whatever was read', () => {
  const offset = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(offset, offset, offset, offset, (a, b, c, d) => {
      const outlook = sectionOutlook(
        axis([reading(0.75, a), reading(1.5, b)]),
        axis([reading(0.75, c), reading(1.5, d)], STILL),
        AHEAD,
        seededRandom(1),
      );
      const undo = invertAffine(outlook.map);
      for (const [yMm, end] of [
        [0, 'atStart'],
        [750, 'atEnd'],
      ] as const) {
        // Commanded where the file says, the cut is carried off by the expected offset and lands where it should.
        const commanded = applyAffine(undo, { x: 400, y: yMm });
        const expected = {
          x: outlook.across[end].offsetMm,
          y: outlook.along[end].offsetMm,
        };
        expect(commanded.x + expected.x).toBeCloseTo(400, 2);
        expect(commanded.y + expected.y).toBeCloseTo(yMm, 2);
      }
    }),
    { numRuns: 40 },
  );
});

test('corrected it misses by less; a check that is missing costs, one more helps', () => {
  const at = (readings: readonly DriftReading[]) =>
    sectionOutlook(
      axis(readings),
      axis(
        readings.map((r) => ({ ...r, offsetMm: 0 })),
        STILL,
      ),
      AHEAD,
      seededRandom(1),
    );
  const both = at([reading(0.75, 0.2), reading(1.5, 0.45)]);
  const missing = at([reading(0.75, 0.2)]);
  expect(both.r95Mm).toBeLessThan(both.r95AsDrawnMm);
  expect(both.r95Mm).toBeLessThan(missing.r95Mm);
  expect(missing.r95Mm).toBeLessThan(at([]).r95Mm);
});

test('registered at its start, a section forgets the wander before it; at both ends, the creep too', () => {
  const readings = [reading(0.75, 0.2), reading(1.5, 0.45)];
  const along = (registers: SectionAhead['registers']) =>
    sectionOutlook(axis(readings), axis([], STILL), { ...AHEAD, registers }, seededRandom(1)).along;
  expect(along('start').atStart.offsetMm).toBeLessThan(along('no').atStart.offsetMm);
  expect(along('start').atEnd.offsetMm - along('start').atStart.offsetMm).toBeCloseTo(0.75 * 0.3, 1);
  expect(along('throughout').atEnd.offsetMm).toBeCloseTo(along('throughout').atStart.offsetMm, 9);
});

test('a laminate shows in what the cut would miss by as drawn, not in what the file undoes', () => {
  const outlook = (stretch: number) =>
    sectionOutlook(axis([reading(0.75, 0)], STILL), axis([], STILL), { ...AHEAD, stretch }, seededRandom(1));
  expect(outlook(1.002).map).toEqual(outlook(1).map);
  expect(outlook(1.002).r95Mm).toBe(outlook(1).r95Mm);
  // 2 mm per m over 0.75 m.
  expect(outlook(1.002).r95AsDrawnMm).toBeGreaterThan(1.5);
  expect(outlook(0.998).r95AsDrawnMm).toBeGreaterThan(1.5);
});

test('a cut that lies further makes up for a laminate that lengthens the print, and adds to one that shortens it', () => {
  const ahead = (offsetMm: number, stretch: number) =>
    sectionOutlook(
      axis([reading(0.75, offsetMm), reading(1.5, offsetMm)], STILL),
      axis([], STILL),
      { ...AHEAD, stretch },
      seededRandom(1),
    ).r95AsDrawnMm;
  // 1.5 mm behind at the far end by the laminate, 1 mm further by the rig: half a millimetre is left there.
  expect(ahead(1, 1.002)).toBeLessThan(ahead(-1, 1.002) - 1);
  expect(ahead(-1, 0.998)).toBeLessThan(ahead(1, 0.998) - 1);
});

test('a step beyond what wander does is a slip; a creep is none', () => {
  const steps = (offsets: readonly number[]) =>
    sectionOutlook(
      axis(offsets.map((mm, i) => reading(0.4 * (i + 1), mm))),
      axis([], STILL),
      { startM: 2.4, endM: 3, registers: 'no' },
      seededRandom(1),
    ).along.slip;
  expect(steps([0.12, 0.24, 0.36, 0.48, 0.6])).toBeNull();
  expect(steps([0.12, 0.24, 0.96, 1.08, 1.2])).toMatchObject({
    beforeReading: 2,
    fromM: 0.8,
    sizeMm: expect.closeTo(0.6, 1) as number,
  });
});

test('a few coarse readings do not move the weight that the others are told by', () => {
  const fine = Array.from({ length: 5 }, (_, i) => reading(i, 0, 0.03));
  const run = { id: 'a', registeredAtM: [0], readings: [...fine, reading(6, 0, 0.5), reading(7, 0, 0.5)] };
  expect(medianSquareU([run])).toBeCloseTo(0.0009, 12);
  expect(medianSquareU([])).toBeGreaterThan(0);
});
