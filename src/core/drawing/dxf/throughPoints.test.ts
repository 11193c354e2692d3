import fc from 'fast-check';

import { readCutFile } from '../file';
import type { Segment } from '..';
import type { Point } from '../../geometry';

import { throughPoints } from './throughPoints';

const at = (from: Point, s: Segment & { kind: 'cubic' }, t: number): Point => {
  const [a, b, c, d] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
  return {
    x: a * from.x + b * s.c1.x + c * s.c2.x + d * s.to.x,
    y: a * from.y + b * s.c1.y + c * s.c2.y + d * s.to.y,
  };
};

test('of a sine read at eleven places it stays within the bound of spline interpolation in its middle', () => {
  // |error| ≤ 5/384 · h⁴ · max|f⁗| (Hall & Meyer 1976; memory); the ends of a natural spline are worse, a sine’s are natural.
  const step = Math.PI / 10;
  const points = Array.from({ length: 11 }, (_, i) => ({ x: 1000 * i * step, y: Math.sin(i * step) }));
  const { start, segments } = throughPoints(points)!;
  let from = start;
  for (const s of segments) {
    for (const t of [0.25, 0.5, 0.75]) {
      const p = at(from, s, t);
      expect(Math.abs(p.y - Math.sin(p.x / 1000))).toBeLessThan((5 / 384) * step ** 4 + 2e-6);
    }
    from = s.to;
  }
});

test('it goes through every point, without a corner and without a step in curvature', () => {
  const step = fc.record({
    dx: fc.double({ min: 1, max: 40, noNaN: true }),
    y: fc.double({ min: -50, max: 50, noNaN: true }),
  });
  fc.assert(
    fc.property(fc.array(step, { minLength: 3, maxLength: 12 }), (steps) => {
      let x = 0;
      const points = steps.map(({ dx, y }) => ({ x: (x += dx), y }));
      const { start, segments } = throughPoints(points)!;
      expect([start, ...segments.map((s) => s.to)]).toEqual(points);
      segments.slice(1).forEach((s, i) => {
        const before = segments[i]!;
        const joint = before.to;
        const [h0, h1] = [0, 1].map((k) =>
          Math.hypot(points[i + k + 1]!.x - points[i + k]!.x, points[i + k + 1]!.y - points[i + k]!.y),
        );
        for (const axis of ['x', 'y'] as const) {
          expect((joint[axis] - before.c2[axis]) / h0!).toBeCloseTo((s.c1[axis] - joint[axis]) / h1!, 6);
          const from = before.c1[axis];
          const bend = (a: number, b: number, c: number, h: number): number => (a - 2 * b + c) / h ** 2;
          expect(bend(from, before.c2[axis], joint[axis], h0!)).toBeCloseTo(
            bend(joint[axis], s.c1[axis], s.c2[axis], h1!),
            6,
          );
        }
      });
    }),
    { numRuns: 60 },
  );
});

test('a spline that is given by its fit points alone is read, not left out', () => {
  const points = [
    [0, 0],
    [20, 10],
    [40, 0],
    [60, 10],
  ];
  const dxf = `0\nSECTION\n2\nENTITIES\n0\nSPLINE\n8\ncut\n70\n8\n71\n3\n74\n4\n${points.map(([x, y]) => `11\n${x}\n21\n${y}\n`).join('')}0\nENDSEC\n0\nEOF\n`;
  const read = readCutFile(dxf);
  if (!read.ok) throw new Error(read.refusal.code);
  const [path] = read.value.drawing.paths;
  expect(path!.segments.map((s) => s.kind)).toEqual(['cubic', 'cubic', 'cubic']);
  expect(read.value.bounds.x1).toBeCloseTo(60, 6);
});

test('one place, however often, is no curve', () => {
  expect(
    throughPoints([
      { x: 1, y: 1 },
      { x: 1, y: 1 },
    ]),
  ).toBeNull();
  expect(
    throughPoints([
      { x: 0, y: 0 },
      { x: NaN, y: 1 },
    ]),
  ).toBeNull();
});
