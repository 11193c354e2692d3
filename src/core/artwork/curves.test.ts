import fc from 'fast-check';

import { flatten } from '../drawing';
import type { Point } from '../geometry';

import { asCurves } from './curves';
import { offsetPaths } from './offset';

const WITHIN = 0.03;
const circle = (r: number, n: number): Point[] =>
  Array.from({ length: n }, (_, i) => ({
    x: r * Math.cos((2 * Math.PI * i) / n),
    y: r * Math.sin((2 * Math.PI * i) / n),
  }));
const rect = (w: number, h: number): Point[] => [
  { x: 0, y: 0 },
  { x: w, y: 0 },
  { x: w, y: h },
  { x: 0, y: h },
];
const rounded = (w: number, h: number, d: number): Point[] => [
  ...offsetPaths([rect(w, h)], { distanceMm: d, join: 'round', toleranceMm: 0.01 })[0]!.points,
];

function drawn(points: readonly Point[]): Point[] {
  const { start, segments } = asCurves(points, WITHIN);
  const xy = flatten({ start, segments, closed: true, layer: 'cut', colour: null, pen: null }, 0.001);
  return Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }));
}
const area = (p: readonly Point[]): number =>
  Math.abs(
    p.reduce((sum, a, i) => sum + a.x * p[(i + 1) % p.length]!.y - p[(i + 1) % p.length]!.x * a.y, 0),
  ) / 2;
function toSegment(p: Point, a: Point, b: Point): number {
  const [x, y] = [b.x - a.x, b.y - a.y];
  const t = Math.max(0, Math.min(1, ((p.x - a.x) * x + (p.y - a.y) * y) / (x * x + y * y || 1)));
  return Math.hypot(p.x - a.x - t * x, p.y - a.y - t * y);
}
/** The farthest that any point of one lies from the other, closed line. */
const farthest = (from: readonly Point[], to: readonly Point[]): number =>
  Math.max(...from.map((p) => Math.min(...to.map((a, i) => toSegment(p, a, to[(i + 1) % to.length]!)))));

test.each<[string, Point[], number, number]>([
  ['a circle of 96 edges', circle(20, 96), 12, Math.PI * 400],
  ['a rounded rectangle', rounded(40, 25, 5), 16, 40 * 25 + 2 * 65 * 5 + Math.PI * 25],
  ['a small disc', circle(3, 40), 10, Math.PI * 9],
  ['an ellipse', circle(20, 120).map((p) => ({ x: p.x, y: 0.4 * p.y })), 16, Math.PI * 160],
])('%s becomes few curves that lie on it, no less true than its edges', (_, points, most, trueMm2) => {
  const { segments } = asCurves(points, WITHIN);
  expect(segments.length).toBeLessThanOrEqual(most);
  const out = drawn(points);
  expect(farthest(out, points)).toBeLessThan(WITHIN + 0.002);
  expect(farthest(points, out)).toBeLessThan(WITHIN + 0.002);
  // Edges lie inside what is round; curves through their ends give some of that back.
  expect(Math.abs(area(out) / trueMm2 - 1)).toBeLessThan(
    Math.max(0.001, Math.abs(area(points) / trueMm2 - 1)),
  );
});

test('corners stay where they are, and straight edges straight', () => {
  const hexagon = circle(20, 6);
  const { start, segments } = asCurves(hexagon, WITHIN);
  expect(segments).toHaveLength(6);
  expect(segments.every((s) => s.kind === 'lines')).toBe(true);
  expect(start).toEqual(hexagon[0]);
  const card = rounded(80, 50, 3);
  const lines = asCurves(card, WITHIN).segments.filter((s) => s.kind === 'lines');
  expect(lines).toHaveLength(4);
});

test('property: whatever the line, it is closed, within the deviation both ways, and its area is kept', () => {
  const radius = fc.array(fc.double({ min: 8, max: 30, noNaN: true }), { minLength: 5, maxLength: 10 });
  fc.assert(
    fc.property(radius, fc.integer({ min: 3, max: 12 }), (radii, steps) => {
      // A closed line through given distances from the middle, run smoothly between them.
      const n = radii.length * steps;
      const points = Array.from({ length: n }, (_, k) => {
        const [i, t] = [Math.floor(k / steps), (k % steps) / steps];
        const ease = (1 - Math.cos(Math.PI * t)) / 2;
        const r = (1 - ease) * radii[i]! + ease * radii[(i + 1) % radii.length]!;
        const a = (2 * Math.PI * k) / n;
        return { x: r * Math.cos(a), y: r * Math.sin(a) };
      });
      const { start, segments } = asCurves(points, WITHIN);
      const last = segments.at(-1)!;
      const end =
        last.kind === 'cubic'
          ? last.to
          : last.kind === 'lines'
            ? { x: last.xy.at(-2)!, y: last.xy.at(-1)! }
            : start;
      expect(Math.hypot(end.x - start.x, end.y - start.y)).toBeLessThan(1e-9);
      expect(segments.length).toBeLessThanOrEqual(n);
      const out = drawn(points);
      expect(farthest(out, points)).toBeLessThan(WITHIN + 0.002);
      expect(farthest(points, out)).toBeLessThan(WITHIN + 0.002);
      expect(Math.abs(area(out) / area(points) - 1)).toBeLessThan(0.001);
    }),
    { numRuns: 15 },
  );
});
