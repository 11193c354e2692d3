import type { Point } from '../../geometry';
import type { Segment } from '..';

type Cubic = Segment & { readonly kind: 'cubic' };

/** Points closer together than this are one, drawing units. */
const SAME = 1e-9;

/**
 * A smooth curve through points, as cubics: the natural cubic spline over chord length (de Boor 1978, IV; memory), which
 * is what a spline that is given by its fit points alone is taken for.
 *
 * Shapes   n points, n − 1 cubics from the first on; null with fewer than two different points in a row.
 */
export function throughPoints(
  given: readonly Point[],
): { readonly start: Point; readonly segments: Cubic[] } | null {
  const points = given.filter(
    (p, i) => i === 0 || Math.hypot(p.x - given[i - 1]!.x, p.y - given[i - 1]!.y) > SAME,
  );
  if (points.length < 2 || points.some((p) => !Number.isFinite(p.x) || !Number.isFinite(p.y))) return null;
  const chords = points.slice(1).map((p, i) => Math.hypot(p.x - points[i]!.x, p.y - points[i]!.y));
  const [xs, ys] = [
    slopes(
      points.map((p) => p.x),
      chords,
    ),
    slopes(
      points.map((p) => p.y),
      chords,
    ),
  ];
  return {
    start: points[0]!,
    segments: chords.map((h, i) => {
      const [from, to] = [points[i]!, points[i + 1]!];
      return {
        kind: 'cubic',
        c1: { x: from.x + (h * xs[i]!) / 3, y: from.y + (h * ys[i]!) / 3 },
        c2: { x: to.x - (h * xs[i + 1]!) / 3, y: to.y - (h * ys[i + 1]!) / 3 },
        to,
      };
    }),
  };
}

/** First derivatives at the knots of the natural cubic spline: a tridiagonal system, solved by elimination. */
function slopes(values: readonly number[], h: readonly number[]): number[] {
  const n = values.length;
  const rise = h.map((width, i) => (values[i + 1]! - values[i]!) / width);
  const diagonal = new Array<number>(n);
  const right = new Array<number>(n);
  const above = new Array<number>(n);
  [diagonal[0], above[0], right[0]] = [2, 1, 3 * rise[0]!];
  for (let i = 1; i < n; i += 1) {
    const last = i === n - 1;
    const [below, own, next] = last ? [1, 2, 0] : [h[i]!, 2 * (h[i - 1]! + h[i]!), h[i - 1]!];
    const wanted = last ? 3 * rise[i - 1]! : 3 * (h[i]! * rise[i - 1]! + h[i - 1]! * rise[i]!);
    const factor = below / diagonal[i - 1]!;
    diagonal[i] = own - factor * above[i - 1]!;
    above[i] = next;
    right[i] = wanted - factor * right[i - 1]!;
  }
  const found = new Array<number>(n);
  for (let i = n - 1; i >= 0; i -= 1)
    found[i] = (right[i]! - (i === n - 1 ? 0 : above[i]! * found[i + 1]!)) / diagonal[i]!;
  return found;
}
