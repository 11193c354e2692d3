import type { Point } from '../geometry';

import { arcPoint, type DrawnPath, type Segment } from './model';

export type Curve = Exclude<Segment, { readonly kind: 'lines' }>;

/** The point of a curve at a share of it, 0 to 1. */
export function curvePoint(at: Point, segment: Curve, t: number): Point {
  if (segment.kind === 'arc') return arcPoint(segment, segment.from + segment.sweep * t);
  const { c1, c2, to } = segment;
  const s = 1 - t;
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return { x: a * at.x + b * c1.x + c * c2.x + d * to.x, y: a * at.y + b * c1.y + c * c2.y + d * to.y };
}

/** What a curve, or a quarter of a turn, and a path of its own cost us, in points. */
const CURVE_POINTS = 12;
const PATH_POINTS = 4;

/** How many points’ work a path is: what limits are counted in. */
export function pointsWorth(path: DrawnPath): number {
  let points = PATH_POINTS;
  for (const s of path.segments) {
    if (s.kind === 'lines') points += s.xy.length / 2;
    else points += CURVE_POINTS * (s.kind === 'arc' ? Math.ceil(Math.abs(s.sweep) / (Math.PI / 2)) || 1 : 1);
  }
  return points;
}

/** Where a curve turns back in x or in y, as shares of it: its bounds are there or at its ends. */
export function turnsOf(at: Point, segment: Curve): number[] {
  const inside = (t: number): boolean => t > 0 && t < 1;
  if (segment.kind === 'cubic')
    return (['x', 'y'] as const).flatMap((k) =>
      cubicTurns(at[k], segment.c1[k], segment.c2[k], segment.to[k]).filter(inside),
    );
  const { u, v, from, sweep } = segment;
  if (sweep === 0) return [];
  return (['x', 'y'] as const).flatMap((k) => {
    const first = Math.atan2(v[k], u[k]);
    // Turns come every half turn: those from `from` on, in the direction of the sweep.
    const step = Math.sign(sweep) * Math.PI;
    const start = first + step * Math.ceil((from - first) / step);
    return [0, 1, 2].map((i) => (start + i * step - from) / sweep).filter(inside);
  });
}

/** Roots of the derivative of a cubic Bézier in one coordinate. */
function cubicTurns(p0: number, p1: number, p2: number, p3: number): number[] {
  const a = p3 - 3 * p2 + 3 * p1 - p0;
  const b = 2 * (p2 - 2 * p1 + p0);
  const c = p1 - p0;
  if (a === 0) return b === 0 ? [] : [-c / b];
  const root = Math.sqrt(b * b - 4 * a * c);
  if (Number.isNaN(root)) return [];
  // Without cancellation (Press et al., Numerical Recipes, 5.6; memory).
  const q = -0.5 * (b + (b < 0 ? -root : root));
  return q === 0 ? [0] : [q / a, c / q];
}
