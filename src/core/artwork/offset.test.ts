import fc from 'fast-check';
import sharp from 'sharp';

import type { Point } from '../geometry';

import { offsetPaths, smoothed, unionOf, type Join } from './offset';

const rect = (x0: number, y0: number, x1: number, y1: number): Point[] => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];
const circle = (r: number, n = 720): Point[] =>
  Array.from({ length: n }, (_, i) => ({
    x: r * Math.cos((2 * Math.PI * i) / n),
    y: r * Math.sin((2 * Math.PI * i) / n),
  }));
/** Points of a five-pointed star, outer radius R, inner r. */
const star = (R: number, r: number): Point[] =>
  Array.from({ length: 10 }, (_, i) => {
    const at = Math.PI / 2 + (Math.PI * i) / 5;
    return { x: (i % 2 ? r : R) * Math.cos(at), y: (i % 2 ? r : R) * Math.sin(at) };
  });
const areaOf = (paths: readonly { readonly areaMm2: number; readonly hole: boolean }[]): number =>
  paths.reduce((sum, p) => sum + (p.hole ? -p.areaMm2 : p.areaMm2), 0);

// Closed forms: a rectangle w × h grown by d has w·h + 2(w + h)d + (4 or π) d², a mitred corner giving a whole square, a
// square one 4·2(√2 − 1) d² (the octagon of width 2d round a corner).
test.each<[Join, number]>([
  ['round', Math.PI],
  ['mitre', 4],
  ['square', 8 * (Math.SQRT2 - 1)],
])('a rectangle grown with %s corners has the area of its closed form', (join, corners) => {
  const [w, h, d] = [40, 25, 3];
  const [out] = offsetPaths([rect(0, 0, w, h)], { distanceMm: d, join, toleranceMm: 0.001 });
  expect(out!.areaMm2).toBeCloseTo(w * h + 2 * (w + h) * d + corners * d * d, 1);
  expect(out!.hole).toBe(false);
});

test('a circle grows to a circle, shrinks to a circle, and shrinks to nothing', () => {
  const area = (distanceMm: number): number =>
    areaOf(offsetPaths([circle(20)], { distanceMm, join: 'round', toleranceMm: 0.001 }));
  expect(area(5) / (Math.PI * 25 ** 2)).toBeCloseTo(1, 4);
  expect(area(-5) / (Math.PI * 15 ** 2)).toBeCloseTo(1, 4);
  expect(offsetPaths([circle(20)], { distanceMm: -20.1, join: 'round' })).toEqual([]);
});

test('every point of a star’s round offset lies at the distance from the star', () => {
  const shape = star(30, 12);
  const [out] = offsetPaths([shape], { distanceMm: 2.5, join: 'round', toleranceMm: 0.005 });
  for (const p of out!.points) {
    const d = Math.min(...shape.map((a, i) => toSegment(p, a, shape[(i + 1) % shape.length]!)));
    expect(d).toBeGreaterThan(2.5 - 0.006);
    expect(d).toBeLessThan(2.5 + 0.001);
  }
});

function toSegment(p: Point, a: Point, b: Point): number {
  const [x, y] = [b.x - a.x, b.y - a.y];
  const t = Math.max(0, Math.min(1, ((p.x - a.x) * x + (p.y - a.y) * y) / (x * x + y * y)));
  return Math.hypot(p.x - a.x - t * x, p.y - a.y - t * y);
}

test('growing shrinks holes, however they run; an island in a hole grows', () => {
  const nested = [rect(0, 0, 100, 100), rect(20, 20, 80, 80), rect(40, 40, 60, 60)];
  for (const paths of [nested, nested.map((p) => p.toReversed())]) {
    const out = offsetPaths(paths, { distanceMm: 2, join: 'mitre' });
    expect(out.map((p) => [p.hole, Math.round(p.areaMm2)]).sort()).toEqual([
      [false, 104 * 104],
      [false, 24 * 24],
      [true, 56 * 56],
    ]);
    // Anticlockwise outside, clockwise inside.
    for (const { points, hole } of out) expect(signedArea(points) < 0).toBe(hole);
  }
});

const signedArea = (points: readonly Point[]): number =>
  points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return sum + (p.x * q.y - q.x * p.y) / 2;
  }, 0);

test('neighbours merge where their borders meet, and stay apart where they do not', () => {
  const two = [rect(0, 0, 10, 10), rect(13, 0, 23, 10)];
  expect(offsetPaths(two, { distanceMm: 1, join: 'round' })).toHaveLength(2);
  expect(offsetPaths(two, { distanceMm: 2, join: 'round' })).toHaveLength(1);
  expect(unionOf([rect(0, 0, 10, 10), rect(5, 5, 15, 15)], 'non-zero').map((p) => p.areaMm2)).toEqual([175]);
  expect(areaOf(unionOf([rect(0, 0, 10, 10), rect(5, 5, 15, 15)], 'even-odd'))).toBeCloseTo(150, 6);
});

test('out and back in gives a convex shape back', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.1, max: 5, noNaN: true }), fc.integer({ min: 3, max: 40 }), (d, n) => {
      const out = offsetPaths([circle(15, n)], { distanceMm: d, join: 'mitre', mitreLimit: 10 });
      const back = offsetPaths(
        out.map((p) => p.points),
        { distanceMm: -d, join: 'mitre', mitreLimit: 10 },
      );
      const before = Math.abs(signedArea(circle(15, n)));
      expect(Math.abs(areaOf(back) - before) / before).toBeLessThan(1e-4);
    }),
    { numRuns: 60 },
  );
});

test('smoothing closes what is narrow and drops what is thin, and leaves the rest where it is', () => {
  const slotted = [
    ...[
      { x: 0, y: 0 },
      { x: 20, y: 0 },
      { x: 20, y: 15 },
      { x: 20.6, y: 15 },
      { x: 20.6, y: 0 },
      { x: 40, y: 0 },
      { x: 40, y: 30 },
      { x: 60, y: 30 },
      { x: 60, y: 30.5 },
      { x: 0, y: 30.5 },
    ],
  ];
  const [out] = smoothed([slotted], 1);
  // The slot of 0.6 and the spur of 0.5 mm are gone; four corners rounded to 0.5 mm lose (4 − π)·0.25; where the
  // spur stood the corner stays filled a little.
  expect(out!.areaMm2).toBeCloseTo(40 * 30.5 - (4 - Math.PI) * 0.25, 0);
  expect(Math.max(...out!.points.map((p) => p.x))).toBeLessThan(40.5);
});

/* Beside a drawing program's own strokes: librsvg fills a shape and strokes it twice as wide as the offset, which is its offset. */

const PX_PER_MM = 12;
const PAGE_MM = 90;

/** How much of each pixel is covered, by librsvg. */
async function covered(paths: readonly (readonly Point[])[], stroke: string): Promise<Float64Array> {
  const d = paths
    .map(
      (path) =>
        `M${path.map((p) => `${(p.x + PAGE_MM / 2) * PX_PER_MM} ${(p.y + PAGE_MM / 2) * PX_PER_MM}`).join('L')}Z`,
    )
    .join('');
  const px = PAGE_MM * PX_PER_MM;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${px}" height="${px}"><rect width="100%" height="100%" fill="#fff"/><path d="${d}" fill="#000" fill-rule="evenodd" ${stroke}/></svg>`;
  const { data } = await sharp(Buffer.from(svg)).greyscale().raw().toBuffer({ resolveWithObject: true });
  return Float64Array.from(data, (v) => 1 - v / 255);
}

test.each<[string, Join, number, Point[]]>([
  ['a star', 'round', 2.5, star(30, 12)],
  ['a star', 'mitre', 2, star(30, 18)],
  ['a rectangle', 'round', 4, rect(-25, -15, 25, 15)],
  [
    'an L',
    'mitre',
    3,
    [
      { x: -30, y: -30 },
      { x: 30, y: -30 },
      { x: 30, y: -5 },
      { x: 0, y: -5 },
      { x: 0, y: 30 },
      { x: -30, y: 30 },
    ],
  ],
])('%s grown with %s corners by %d mm covers what librsvg strokes', async (_, join, distanceMm, shape) => {
  const ours = offsetPaths([shape], { distanceMm, join, mitreLimit: 4, toleranceMm: 0.002 });
  const width = 2 * distanceMm * PX_PER_MM;
  const lines =
    join === 'round' ? 'stroke-linejoin="round"' : 'stroke-linejoin="miter" stroke-miterlimit="4"';
  const [a, b] = [
    await covered(
      ours.map((p) => p.points),
      '',
    ),
    await covered([shape], `stroke="#000" stroke-width="${width}" ${lines}`),
  ];
  const areaMm2 = (v: Float64Array): number => v.reduce((sum, c) => sum + c, 0) / PX_PER_MM ** 2;
  const apartMm2 = a.reduce((sum, c, i) => sum + Math.abs(c - b[i]!), 0) / PX_PER_MM ** 2;
  expect(areaMm2(a) / areaMm2(b)).toBeCloseTo(1, 3);
  expect(apartMm2 / areaMm2(b)).toBeLessThan(0.002);
});

test('gaps are closed before spurs are dropped: two thin bars a narrow gap apart stay, one alone goes', () => {
  const bar = (x: number) => [
    { x, y: 0 },
    { x: x + 0.6, y: 0 },
    { x: x + 0.6, y: 20 },
    { x, y: 20 },
  ];
  const area = (paths: Parameters<typeof smoothed>[0]): number =>
    smoothed(paths, 1).reduce((sum, p) => sum + p.areaMm2, 0);
  expect(area([bar(0), bar(1)])).toBeCloseTo(1.6 * 20 - (4 - Math.PI) * 0.25, 1);
  expect(area([bar(0)])).toBe(0);
});
