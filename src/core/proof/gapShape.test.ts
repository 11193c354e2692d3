import { seenOn } from '@test/drawn';
import { normalDeviate, seededRandom } from '../random/random';
import { proofSheet } from '@test/sheets';
import { readGaps } from '@/core/readings/gaps';

import { COMB_STEPS, cutLayer, STATION } from '.';
import { gapShapeCuts, gapShapePrint } from './gapShape';

const SHEET = proofSheet({ readBy: 'gaps', secondSet: true });
const shapes = SHEET.stations.map((s) => ({ ...s, shape: s.gapShape! }));
const RULER = 0.5;

test('every station has a shape where it is read by gaps, and none where it is not', () => {
  expect(SHEET.stations.every((s) => s.gapShape)).toBe(true);
  expect(proofSheet({}).stations.some((s) => s.gapShape)).toBe(false);
  expect(proofSheet({ readBy: 'table' }).stations.some((s) => s.gapShape)).toBe(false);
  // Combs of the widest step reach into its corner.
  expect(
    proofSheet({ readBy: 'gaps', stepMm: COMB_STEPS.mm.at(-1)!, columns: 2, rows: 1 }).stations[0]!.gapShape,
  ).toBeUndefined();
});

test('no two opposite sides round alike, and stations differ', () => {
  for (const {
    shape: { borders: b },
  } of shapes)
    for (const [low, high] of [
      [b.left, b.right],
      [b.near, b.far],
    ] as const) {
      const steps = Math.abs(high - low) / RULER;
      expect(Math.abs(steps - Math.round(steps))).toBeGreaterThan(0.1);
    }
  expect(new Set(shapes.map((s) => JSON.stringify(s.shape.borders))).size).toBeGreaterThan(3);
});

test('it stands clear of its station’s combs, cross and disc, and of every other station', () => {
  for (const { centre, scaleCentre, shape } of shapes) {
    const cut = seenOn(gapShapeCuts(shape))[0]!;
    if (cut.kind !== 'polygon') throw new Error(cut.kind);
    const xs = cut.points.map((p) => p.x);
    const ys = cut.points.map((p) => p.y);
    expect(Math.min(...ys)).toBeGreaterThan(scaleCentre.y + STATION.crossCutMm);
    expect(Math.max(...ys)).toBeLessThan(centre.y + STATION.cutToMm + 0.7);
    expect(Math.max(...xs)).toBeLessThan(centre.x - 11.7);
    expect(Math.min(...xs)).toBeGreaterThan(centre.x - 26);
  }
  const points = seenOn(cutLayer(SHEET, '1', 1)).filter((m) => m.kind === 'polygon');
  expect(points).toHaveLength(SHEET.stations.filter((s) => s.set === 1).length);
});

test('cut where it was meant, each gap is its border', () => {
  const [{ shape }] = shapes as [(typeof shapes)[number]];
  const box = (marks: ReturnType<typeof gapShapeCuts>) => {
    const [m] = seenOn(marks);
    if (m?.kind !== 'polygon') throw new Error('no polygon');
    const [xs, ys] = [m.points.map((p) => p.x), m.points.map((p) => p.y)];
    return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
  };
  const [print, cut] = [box(gapShapePrint(shape)), box(gapShapeCuts(shape))];
  expect(print.x0 - cut.x0).toBeCloseTo(shape.borders.left, 9);
  expect(cut.x1 - print.x1).toBeCloseTo(shape.borders.right, 9);
  expect(print.y0 - cut.y0).toBeCloseTo(shape.borders.near, 9);
  expect(cut.y1 - print.y1).toBeCloseTo(shape.borders.far, 9);
});

test('read with a rule of half millimetres, staggered borders tell the offset better than equal ones, and cover it', () => {
  const random = seededRandom(3);
  const rounded = (mm: number): number => RULER * Math.round(mm / RULER);
  const errors = { staggered: 0, equal: 0 };
  let held = 0;
  let count = 0;
  for (let trial = 0; trial < 300; trial += 1) {
    const off = 0.2 * normalDeviate(random);
    const read = (borders: { left: number; right: number; near: number; far: number }) =>
      readGaps([
        {
          ...{ id: 'A', x: 0, y: 0, resolutionMm: RULER, nominal: borders },
          gaps: {
            ...{ left: rounded(borders.left - off), right: rounded(borders.right + off) },
            ...{ near: null, far: null },
          },
        },
      ]).stations[0]!;
    for (const { shape } of shapes) {
      const own = read(shape.borders);
      const equal = read({ left: 3, right: 3, near: 3, far: 3 });
      errors.staggered += (own.dx! - off) ** 2;
      errors.equal += (equal.dx! - off) ** 2;
      held += Number(Math.abs(own.dx! - off) <= 1.96 * own.ux!);
      count += 1;
    }
  }
  expect(errors.staggered).toBeLessThan(0.75 * errors.equal);
  // Two roundings that differ make a triangle, of which 1.96 u holds a little more than of a normal.
  expect(held / count).toBeGreaterThan(0.93);
});
