import type { Segment } from '../drawing';
import type { Point } from '../geometry';

/*
 * A closed line of many short edges as few curves: straight edges and corners stay, what runs round between them becomes cubic
 * Béziers within a stated deviation.
 *
 * Source   P. J. Schneider, An Algorithm for Automatically Fitting Digitized Curves, Graphics Gems 1990; from memory.
 */

export const CURVES_VERSION = 'curves-1';

/** A vertex that turns by more is a corner, rad. */
const CORNER_RAD = (45 * Math.PI) / 180;
/** An edge this much longer than the deviation allows on a curve is a straight one, mm. */
const STRAIGHT_MM = 2;
/** … and so many times as long as its neighbours. */
const STRAIGHT_TIMES = 3;
const MOST_REFITS = 4;
/** Places of a curve at which it is compared with its line. */
const COMPARED = 6;
/** Curves lie so near that the area is kept within 0.1 %: a third of the deviation is on one side, on average … */
const AREA_SHARE = 0.003;
/** … but no cutter follows less than this, mm. */
const LEAST_MM = 0.01;
/** Edges each side among which the nearest to a place of the curve is looked for. */
const NEIGHBOURS = 6;

const sub = (a: Point, b: Point): Point => ({ x: a.x - b.x, y: a.y - b.y });
const plus = (a: Point, b: Point, k = 1): Point => ({ x: a.x + k * b.x, y: a.y + k * b.y });
const dot = (a: Point, b: Point): number => a.x * b.x + a.y * b.y;
const size = (a: Point): number => Math.hypot(a.x, a.y);
const unit = (a: Point): Point => {
  const s = size(a);
  return s > 0 ? { x: a.x / s, y: a.y / s } : { x: 1, y: 0 };
};

interface Cubic {
  readonly from: Point;
  readonly c1: Point;
  readonly c2: Point;
  readonly to: Point;
}

function at({ from, c1, c2, to }: Cubic, t: number): Point {
  const s = 1 - t;
  const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return { x: a * from.x + b * c1.x + c * c2.x + d * to.x, y: a * from.y + b * c1.y + c * c2.y + d * to.y };
}

/** First and second derivative. */
function slopes({ from, c1, c2, to }: Cubic, t: number): [Point, Point] {
  const s = 1 - t;
  const [d1, d2, d3] = [sub(c1, from), sub(c2, c1), sub(to, c2)];
  const first = {
    x: 3 * (s * s * d1.x + 2 * s * t * d2.x + t * t * d3.x),
    y: 3 * (s * s * d1.y + 2 * s * t * d2.y + t * t * d3.y),
  };
  const [e1, e2] = [sub(d2, d1), sub(d3, d2)];
  return [first, { x: 6 * (s * e1.x + t * e2.x), y: 6 * (s * e1.y + t * e2.y) }];
}

/** Shares of the way along a line at its points. */
function chords(points: readonly Point[]): number[] {
  const along = [0];
  for (let i = 1; i < points.length; i += 1)
    along.push(along[i - 1]! + size(sub(points[i]!, points[i - 1]!)));
  const all = along.at(-1)! || 1;
  return along.map((v) => v / all);
}

/** The cubic with these end directions that lies nearest to the points, by least squares. */
function fitted(points: readonly Point[], shares: readonly number[], out: Point, back: Point): Cubic {
  const [from, to] = [points[0]!, points.at(-1)!];
  let [c00, c01, c11, x0, x1] = [0, 0, 0, 0, 0];
  shares.forEach((t, i) => {
    const s = 1 - t;
    const [b0, b1, b2, b3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    const [a1, a2] = [
      { x: out.x * b1, y: out.y * b1 },
      { x: back.x * b2, y: back.y * b2 },
    ];
    const ends = { x: from.x * (b0 + b1) + to.x * (b2 + b3), y: from.y * (b0 + b1) + to.y * (b2 + b3) };
    const rest = sub(points[i]!, ends);
    c00 += dot(a1, a1);
    c01 += dot(a1, a2);
    c11 += dot(a2, a2);
    x0 += dot(a1, rest);
    x1 += dot(a2, rest);
  });
  const det = c00 * c11 - c01 * c01;
  const chord = size(sub(to, from));
  const sane = (alpha: number): boolean => alpha > 0.01 * chord && alpha < 3 * chord;
  let [alpha, beta] = [(x0 * c11 - x1 * c01) / det, (c00 * x1 - c01 * x0) / det];
  // A handle of no use: the usual third of the way.
  if (!(Math.abs(det) > 1e-12) || !sane(alpha) || !sane(beta)) alpha = beta = chord / 3;
  return { from, c1: plus(from, out, alpha), c2: plus(to, back, beta), to };
}

/** A step of Newton's towards the place of the curve that is nearest to each point. */
const moved = (curve: Cubic, points: readonly Point[], shares: readonly number[]): number[] =>
  shares.map((t, i) => {
    const [first, second] = slopes(curve, t);
    const off = sub(at(curve, t), points[i]!);
    const down = dot(first, first) + dot(off, second);
    return Math.abs(down) < 1e-12 ? t : Math.min(1, Math.max(0, t - dot(off, first) / down));
  });

function toSegment(p: Point, a: Point, b: Point): number {
  const ab = sub(b, a);
  const t = Math.max(0, Math.min(1, dot(sub(p, a), ab) / (dot(ab, ab) || 1)));
  return size(sub(p, plus(a, ab, t)));
}

/** How far curve and points are apart, both ways, and the point that is worst. */
function apart(
  curve: Cubic,
  points: readonly Point[],
  shares: readonly number[],
): { mm: number; worst: number } {
  let [mm, worst] = [0, Math.floor(points.length / 2)];
  points.forEach((p, i) => {
    const off = size(sub(at(curve, shares[i]!), p));
    if (off > mm) [mm, worst] = [off, i];
  });
  let own = 1;
  for (let k = 1; k < COMPARED * (points.length - 1); k += 1) {
    const t = k / (COMPARED * (points.length - 1));
    const p = at(curve, t);
    // The nearest edge is one of those about the same share of the way; a farther one would only split it more.
    while (own < points.length - 1 && shares[own]! < t) own += 1;
    let nearest = Infinity;
    for (let i = Math.max(1, own - NEIGHBOURS); i <= Math.min(points.length - 1, own + NEIGHBOURS); i += 1)
      nearest = Math.min(nearest, toSegment(p, points[i - 1]!, points[i]!));
    mm = Math.max(mm, nearest);
  }
  return { mm, worst };
}

/** Curves through a run of points that has no corner, each within the deviation; split where one is not enough. */
function run(points: readonly Point[], out: Point, back: Point, withinMm: number): Segment[] {
  if (points.length === 2) return [{ kind: 'lines', xy: [points[1]!.x, points[1]!.y] }];
  let shares = chords(points);
  let curve = fitted(points, shares, out, back);
  for (let i = 0; ; i += 1) {
    const { mm, worst } = apart(curve, points, shares);
    if (mm <= withinMm) return [{ kind: 'cubic', c1: curve.c1, c2: curve.c2, to: curve.to }];
    if (i < MOST_REFITS && mm < 4 * withinMm) {
      shares = moved(curve, points, shares);
      curve = fitted(points, shares, out, back);
      continue;
    }
    const middle = Math.min(points.length - 2, Math.max(1, worst));
    const through = unit(sub(points[middle + 1]!, points[middle - 1]!));
    return [
      ...run(points.slice(0, middle + 1), out, { x: -through.x, y: -through.y }, withinMm),
      ...run(points.slice(middle), through, back, withinMm),
    ];
  }
}

/** Area over outline: what a deviation along it does to the area, mm. */
function thickness(points: readonly Point[]): number {
  let [twice, round] = [0, 0];
  points.forEach((a, i) => {
    const b = points[(i + 1) % points.length]!;
    twice += a.x * b.y - b.x * a.y;
    round += size(sub(b, a));
  });
  return Math.abs(twice) / 2 / (round || 1);
}

/** Whether the edge after a point is straight, and whether the line turns sharply there. */
function breaksOf(points: readonly Point[]): { readonly straight: boolean[]; readonly corner: boolean[] } {
  const n = points.length;
  const edge = (i: number): Point => sub(points[(i + 1) % n]!, points[i % n]!);
  const long = points.map((_, i) => size(edge(i)));
  const straight = long.map(
    (l, i) => l > STRAIGHT_MM && l > STRAIGHT_TIMES * Math.min(long[(i + n - 1) % n]!, long[(i + 1) % n]!),
  );
  const corner = points.map((_, i) => {
    const [a, b] = [edge(i + n - 1), edge(i)];
    return Math.abs(Math.atan2(a.x * b.y - a.y * b.x, dot(a, b))) > CORNER_RAD;
  });
  return { straight, corner };
}

/**
 * A closed line as straight edges and cubics.
 *
 * Units    mm; `withinMm`: the curves lie no farther from the line, nor the line's points from the curves.
 * Returns  where it starts, and its segments back to there.
 */
export function asCurves(
  points: readonly Point[],
  withinMm: number,
): { readonly start: Point; readonly segments: readonly Segment[] } {
  const n = points.length;
  const near = Math.min(withinMm, Math.max(LEAST_MM, AREA_SHARE * thickness(points)));
  const { straight, corner } = breaksOf(points);
  const stops = points.flatMap((_, i) => (corner[i] || straight[i] || straight[(i + n - 1) % n] ? [i] : []));
  // A line without any break begins somewhere, smoothly.
  const from = stops[0] ?? 0;
  const turned = Array.from({ length: n + 1 }, (_, k) => (from + k) % n);
  const isStop = new Set(stops.length > 0 ? stops : [from]);
  const segments: Segment[] = [];
  let begun = 0;
  for (let k = 1; k <= n; k += 1) {
    if (!isStop.has(turned[k]!)) continue;
    const part = turned.slice(begun, k + 1).map((i) => points[i]!);
    segments.push(
      ...run(
        part,
        direction(points, turned[begun]!, corner, 1),
        direction(points, turned[k]!, corner, -1),
        near,
      ),
    );
    begun = k;
  }
  return { start: points[from]!, segments };
}

/** The way out of a stop, or back into it: of its own edge at a corner, across it where the line runs on smoothly. */
function direction(points: readonly Point[], i: number, corner: readonly boolean[], way: 1 | -1): Point {
  const n = points.length;
  const [before, here, after] = [points[(i + n - 1) % n]!, points[i]!, points[(i + 1) % n]!];
  if (corner[i]) return unit(way === 1 ? sub(after, here) : sub(before, here));
  const [a, b] = [sub(here, before), sub(after, here)];
  // Beside a straight edge its direction is that of both.
  const along =
    size(a) > STRAIGHT_TIMES * size(b) ? a : size(b) > STRAIGHT_TIMES * size(a) ? b : plus(unit(a), unit(b));
  const u = unit(along);
  return way === 1 ? u : { x: -u.x, y: -u.y };
}
