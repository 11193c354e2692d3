import { SAME } from '../tolerance';
import { mapPoint, type PlaneMap, type Point, type Rect } from '../geometry';

import { curvePoint, turnsOf } from './curves';
import { segmentEnd, type DrawnPath, type Segment } from './model';

/** What a drawing amounts to, and how far a correction moves it. */
export interface Totals {
  readonly paths: number;
  /** Places that the file names: ends of lines and curves. */
  readonly points: number;
  readonly lengthMm: number;
  readonly bounds: Rect;
  readonly farthestMoveMm: number;
  readonly farthestAt: Point;
}

/** Looks at a curve are even in number: lengths are extrapolated from all of them and from every other one. */
const LOOKS_A_CUBIC = 16;
const LOOKS_A_TURN = 32;
const looksAt = (sweep: number): number =>
  2 * Math.max(2, Math.min(LOOKS_A_TURN, Math.ceil((LOOKS_A_TURN / 2) * (Math.abs(sweep) / (2 * Math.PI)))));

/**
 * Sums over the drawing as it was; `map` is what the correction does to each commanded point.
 * A curve is looked at in a few places, however large it is, and where it turns back: bounds are exact, lengths by
 * Richardson extrapolation of the chords, the farthest move within 0.5 % of the curve's radius.
 */
export function measure(paths: readonly DrawnPath[], map: PlaneMap): Totals {
  const sum = new Sum(map);
  let points = 0;
  let lengthMm = 0;
  for (const path of paths) {
    let at = path.start;
    sum.look(at.x, at.y);
    points += 1;
    for (const segment of path.segments) {
      if (segment.kind === 'lines') {
        const { xy } = segment;
        points += xy.length / 2;
        let { x, y } = at;
        for (let i = 0; i < xy.length; i += 2) {
          lengthMm += Math.sqrt((xy[i]! - x) ** 2 + (xy[i + 1]! - y) ** 2);
          x = xy[i]!;
          y = xy[i + 1]!;
          sum.look(x, y);
        }
      } else {
        points += 1;
        const looks = segment.kind === 'cubic' ? LOOKS_A_CUBIC : looksAt(segment.sweep);
        const on = (t: number): Point => curvePoint(at, segment, t);
        lengthMm += curveLength(looks, on, sum);
        for (const t of turnsOf(at, segment)) {
          const p = on(t);
          sum.look(p.x, p.y);
        }
      }
      at = segmentEnd(segment);
    }
    if (path.closed) lengthMm += Math.hypot(at.x - path.start.x, at.y - path.start.y);
  }
  return { paths: paths.length, points, lengthMm, ...sum.told() };
}

function curveLength(looks: number, at: (t: number) => Point, sum: Sum): number {
  let [fine, coarse] = [0, 0];
  let last = at(0);
  let lastEven = last;
  for (let i = 1; i <= looks; i += 1) {
    const p = at(i / looks);
    sum.look(p.x, p.y);
    fine += Math.hypot(p.x - last.x, p.y - last.y);
    if (i % 2 === 0) {
      coarse += Math.hypot(p.x - lastEven.x, p.y - lastEven.y);
      lastEven = p;
    }
    last = p;
  }
  return fine + (fine - coarse) / 3;
}

class Sum {
  private readonly bounds = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
  private far = { move2: -1, x: 0, y: 0 };

  constructor(private readonly map: PlaneMap) {}

  look(x: number, y: number): void {
    const { bounds } = this;
    if (x < bounds.x0) bounds.x0 = x;
    if (x > bounds.x1) bounds.x1 = x;
    if (y < bounds.y0) bounds.y0 = y;
    if (y > bounds.y1) bounds.y1 = y;
    const move2 = moved2(this.map, x, y);
    if (move2 > this.far.move2) this.far = { move2, x, y };
  }

  told(): Pick<Totals, 'bounds' | 'farthestMoveMm' | 'farthestAt'> {
    return {
      bounds: this.bounds,
      farthestMoveMm: Math.sqrt(Math.max(0, this.far.move2)),
      farthestAt: { x: this.far.x, y: this.far.y },
    };
  }
}

function moved2(map: PlaneMap, x: number, y: number): number {
  if (map.kind === 'affine')
    return ((map.a11 - 1) * x + map.a12 * y + map.tx) ** 2 + (map.a21 * x + (map.a22 - 1) * y + map.ty) ** 2;
  const to = mapPoint(map, { x, y });
  return (to.x - x) ** 2 + (to.y - y) ** 2;
}

/** A path that is a whole circle, as one; null for any other. */
export function circleOf(path: DrawnPath): { readonly centre: Point; readonly radius: number } | null {
  const only: Segment | undefined = path.segments[0];
  if (path.segments.length !== 1 || only?.kind !== 'arc' || !path.closed) return null;
  const radius = Math.hypot(only.u.x, only.u.y);
  const round =
    Math.abs(radius - Math.hypot(only.v.x, only.v.y)) <= SAME * radius &&
    Math.abs(only.u.x * only.v.x + only.u.y * only.v.y) <= SAME * radius ** 2;
  const whole = Math.abs(Math.abs(only.sweep) - 2 * Math.PI) < SAME;
  return round && whole ? { centre: only.centre, radius } : null;
}
