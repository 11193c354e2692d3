import type { Point } from '../../geometry';

/** A non-uniform rational B-spline as DXF gives it. */
export interface Spline {
  readonly degree: number;
  readonly knots: readonly number[];
  readonly controls: readonly Point[];
  /** As many as controls, or none when it is not rational. */
  readonly weights: readonly number[];
}

/** Whether degree, knots, controls and weights belong together. */
export function isSound({ degree, knots, controls, weights }: Spline): boolean {
  const rising = knots.every((k, i) => i === 0 || k >= knots[i - 1]!);
  return (
    Number.isInteger(degree) &&
    degree >= 1 &&
    degree <= 15 &&
    controls.length > degree &&
    knots.length === controls.length + degree + 1 &&
    (weights.length === 0 || (weights.length === controls.length && weights.every((w) => w > 0))) &&
    rising &&
    knots[controls.length]! > knots[degree]!
  );
}

/** The point at parameter t, by de Boor's algorithm in homogeneous coordinates (de Boor 1972; memory). */
export function splinePoint(s: Spline, t: number): Point {
  const { degree: p, knots, controls, weights } = s;
  // The last knot interval that starts at or before t, by halving.
  let span = p;
  for (let high = controls.length - 1; span < high;) {
    const middle = Math.ceil((span + high) / 2);
    if (t >= knots[middle]!) span = middle;
    else high = middle - 1;
  }
  const d = Array.from({ length: p + 1 }, (_, j) => {
    const c = controls[span - p + j]!;
    const w = weights[span - p + j] ?? 1;
    return [c.x * w, c.y * w, w] as [number, number, number];
  });
  for (let r = 1; r <= p; r += 1)
    for (let j = p; j >= r; j -= 1) {
      const low = knots[span - p + j]!;
      const width = knots[span + 1 + j - r]! - low;
      const a = width > 0 ? (t - low) / width : 0;
      for (let k = 0; k < 3; k += 1) d[j]![k] = (1 - a) * d[j - 1]![k]! + a * d[j]![k]!;
    }
  const [x, y, w] = d[p]!;
  return { x: x / w, y: y / w };
}

const DEEPEST = 12;
/** A spline that asks for more is finer than anything that is cut; it is drawn to its last refinement so far. */
const MOST_FIGURES = 100_000;
const PIECES_A_SPAN = 4;

/** Straight lines within `chord` of the spline, x, y, x, y …, both ends included. */
export function flattenSpline(s: Spline, chord: number): number[] {
  const at = (t: number): Point => splinePoint(s, t);
  const first = s.knots[s.degree]!;
  const last = s.knots[s.controls.length]!;
  const stops = [...new Set(s.knots.filter((k) => k >= first && k <= last))];
  const start = at(first);
  const xy = [start.x, start.y];
  const refine = (t0: number, p0: Point, t1: number, p1: Point, depth: number): void => {
    const probes = [0.25, 0.5, 0.75].map((share) => at(t0 + share * (t1 - t0)));
    if (
      depth < DEEPEST &&
      xy.length < MOST_FIGURES &&
      probes.some((p) => distanceToLine(p, p0, p1) > 0.75 * chord)
    ) {
      const middle = probes[1]!;
      refine(t0, p0, (t0 + t1) / 2, middle, depth + 1);
      refine((t0 + t1) / 2, middle, t1, p1, depth + 1);
    } else xy.push(p1.x, p1.y);
  };
  let from = { t: first, p: start };
  for (const stop of stops.slice(1))
    for (let i = 1, t0 = from.t; i <= PIECES_A_SPAN; i += 1) {
      const t = t0 + ((stop - t0) * i) / PIECES_A_SPAN;
      const to = { t, p: at(t) };
      refine(from.t, from.p, to.t, to.p, 0);
      from = to;
    }
  return xy;
}

function distanceToLine(p: Point, a: Point, b: Point): number {
  const length = Math.hypot(b.x - a.x, b.y - a.y);
  if (length === 0) return Math.hypot(p.x - a.x, p.y - a.y);
  return Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / length;
}
