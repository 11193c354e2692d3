import fc from 'fast-check';

import type { Point } from '../../geometry';
import { seededRandom } from '../../random/random';
import { planSheet } from '../sheet';
import { NEST_SET as SET, round } from '@test/nestSet';

import {
  nestingHolds,
  nestings,
  takesLess,
  turned,
  type NestedPiece,
  type NestedSheets,
  type NestJob,
} from '.';

const USABLE = { x0: 8, y0: 8, x1: 202, y1: 289 };
const ZONES = [
  { x0: 8, y0: 8, x1: 30, y1: 30 },
  { x0: 180, y0: 267, x1: 202, y1: 289 },
];
const job = (outline: readonly Point[], more: Partial<NestJob> = {}): NestJob => ({
  ...{ usable: USABLE, zones: ZONES, gapMm: 3 },
  shapes: [{ id: 'A', outlines: [outline], copies: null, mayTurn: true }],
  ...more,
});
function nested(of: NestJob, ways = 1, seed = 1): NestedSheets {
  const search = nestings(of, seededRandom(seed));
  let best: NestedSheets = [];
  for (let i = 0; i < ways; i += 1) best = search.next().value;
  return best;
}
function inRectangles({ shapes, ...of }: NestJob): number {
  const items = shapes.map(({ id, outlines, copies, mayTurn }) => {
    const all = outlines.flat();
    const span = (of_: (p: Point) => number): number => Math.max(...all.map(of_)) - Math.min(...all.map(of_));
    return { id, copies, mayTurn, widthMm: span((p) => p.x), heightMm: span((p) => p.y) };
  });
  return planSheet({ ...of, items, centre: false }).sheets[0]!.length;
}

const laid = ({ shapes }: NestJob, p: NestedPiece): Point[] =>
  shapes
    .find((s) => s.id === p.item)!
    .outlines[0]!.map((q) => turned(q, p.turnDeg))
    .map((q) => ({ x: q.x + p.x, y: q.y + p.y }));
/** Nothing of the nesting's own: distances of corners from sides, and corners inside. */
function apart(a: readonly Point[], b: readonly Point[]): number {
  const one = (from: readonly Point[], to: readonly Point[]): number =>
    Math.min(
      ...from.map((p) => {
        let inside = false;
        let least = Infinity;
        to.forEach((q, i) => {
          const r = to[(i + 1) % to.length]!;
          if (q.y > p.y !== r.y > p.y && p.x < q.x + ((r.x - q.x) * (p.y - q.y)) / (r.y - q.y))
            inside = !inside;
          const [dx, dy] = [r.x - q.x, r.y - q.y];
          const t = Math.max(0, Math.min(1, ((p.x - q.x) * dx + (p.y - q.y) * dy) / (dx * dx + dy * dy)));
          least = Math.min(least, Math.hypot(p.x - q.x - t * dx, p.y - q.y - t * dy));
        });
        return inside ? -least : least;
      }),
    );
  return Math.min(one(a, b), one(b, a));
}
/** So much nearer than the gap pieces may come, for outlines are thinned out. */
const THINNED_MM = 0.05;
function expectSound(of: NestJob, sheets: NestedSheets): void {
  const { usable: u, zones, gapMm } = of;
  const off = (p: Point): boolean =>
    p.x < u.x0 - 1e-3 ||
    p.x > u.x1 + 1e-3 ||
    p.y < u.y0 - 1e-3 ||
    p.y > u.y1 + 1e-3 ||
    zones.some((z) => p.x > z.x0 + 0.2 && p.x < z.x1 - 0.2 && p.y > z.y0 + 0.2 && p.y < z.y1 - 0.2);
  for (const sheet of sheets) {
    const shapes = sheet.map((p) => laid(of, p));
    expect(shapes.flat().filter(off)).toEqual([]);
    const near = (a: readonly Point[], b: readonly Point[]): boolean =>
      (['x', 'y'] as const).every(
        (axis) =>
          Math.min(...a.map((p) => p[axis])) < Math.max(...b.map((p) => p[axis])) + gapMm &&
          Math.min(...b.map((p) => p[axis])) < Math.max(...a.map((p) => p[axis])) + gapMm,
      );
    const least = shapes.flatMap((shape, i) =>
      shapes
        .slice(i + 1)
        .filter((other) => near(shape, other))
        .map((other) => apart(shape, other)),
    );
    expect(Math.min(Infinity, ...least)).toBeGreaterThan(gapMm - THINNED_MM);
  }
}

test('a plainly stated set of shapes: nested a sheet holds at least a fifth more than in rectangles', () => {
  const held = Object.entries(SET).map(([name, outline]) => {
    const sheets = nested(job(outline));
    expectSound(job(outline), sheets);
    expect(nestingHolds(job(outline), sheets)).toBe(true);
    return { name, rectangles: inRectangles(job(outline)), nested: sheets[0]!.length };
  });
  const total = (of: 'rectangles' | 'nested'): number => held.reduce((sum, h) => sum + h[of], 0);
  for (const h of held) expect([h.name, h.nested >= h.rectangles]).toEqual([h.name, true]);
  // One way: 92 in rectangles, 124 nested when this was written (`npm run bench -- nest` prints them).
  expect(total('nested') / total('rectangles')).toBeGreaterThan(1.2);
});

test('discs lie no closer than the densest packing lets them, and nearly as close', () => {
  // π/√12 of the plane for equal discs (Thue 1910; from memory), of the room with its edges grown by half the gap.
  const sheet = nested(job(SET['disc of 40']!, { zones: [] }))[0]!;
  const room = (USABLE.x1 - USABLE.x0 + 3) * (USABLE.y1 - USABLE.y0 + 3);
  const most = ((Math.PI / Math.sqrt(12)) * room) / (Math.PI * 21.5 ** 2);
  expect(sheet.length).toBeLessThanOrEqual(most);
  expect(sheet.length).toBeGreaterThan(0.8 * most);
});

test('property: whatever shapes, counts, gaps and turns, what it lays is sound and complete', () => {
  const corner = fc.tuple(fc.integer({ min: 8, max: 40 }), fc.integer({ min: 0, max: 0 }));
  const blob = fc
    .array(corner, { minLength: 5, maxLength: 9 })
    .map((radii) => round(radii.length, (i) => radii[i]![0]));
  fc.assert(
    fc.property(
      fc.array(fc.tuple(blob, fc.integer({ min: 1, max: 6 }), fc.boolean()), { minLength: 1, maxLength: 3 }),
      fc.integer({ min: 0, max: 6 }),
      fc.boolean(),
      (shapes, gapMm, fill) => {
        const of: NestJob = {
          ...{ usable: USABLE, zones: ZONES, gapMm },
          shapes: shapes.map(([outline, copies, mayTurn], i) => ({
            ...{ id: 'ABC'[i]!, outlines: [outline], mayTurn },
            copies: fill && i === 0 ? null : copies,
          })),
        };
        const sheets = nested(of);
        expectSound(of, sheets);
        expect(nestingHolds(of, sheets)).toBe(true);
        for (const { id, copies } of of.shapes)
          if (copies !== null) expect(sheets.flat().filter((p) => p.item === id)).toHaveLength(copies);
      },
    ),
    { numRuns: 6 },
  );
});

test('one that was tampered with is not taken: moved over another, off the sheet, one too many, turned against the rule', () => {
  const of = job(SET['right triangle of 60 × 50']!, {
    shapes: [{ id: 'A', outlines: [SET['right triangle of 60 × 50']!], copies: 4, mayTurn: false }],
  });
  const [sheet] = nested(of, 1) as [NestedPiece[]];
  const changed = (by: Partial<NestedPiece>): NestedSheets => [[{ ...sheet[0]!, ...by }, ...sheet.slice(1)]];
  expect(nestingHolds(of, [sheet])).toBe(true);
  expect(nestingHolds(of, changed({ x: sheet[1]!.x + 1, y: sheet[1]!.y }))).toBe(false);
  expect(nestingHolds(of, changed({ x: -30 }))).toBe(false);
  expect(nestingHolds(of, changed({ x: 9, y: 9 }))).toBe(false);
  expect(nestingHolds(of, changed({ turnDeg: 180 }))).toBe(false);
  expect(nestingHolds(of, changed({ item: 'B' }))).toBe(false);
  expect(nestingHolds(of, [[...sheet, { ...sheet[0]!, y: 230 }]])).toBe(false);
  expect(nestingHolds(of, [])).toBe(false);
});

test('less media is more pieces, then fewer sheets, then less of the last one', () => {
  const piece = (y: number): NestedPiece => ({ item: 'A', turnDeg: 0, x: 0, y });
  expect(takesLess([[piece(0), piece(50)]], [[piece(0)]])).toBe(true);
  expect(takesLess([[piece(0), piece(50)]], [[piece(0)], [piece(0)]])).toBe(true);
  expect(takesLess([[piece(0), piece(40)]], [[piece(0), piece(50)]])).toBe(true);
  expect(takesLess([[piece(0)]], [[piece(0)]])).toBe(false);
});
