import { accept, type Outcome } from '../outcome';
import type { Drawing } from '../drawing';
import type { Point } from '../geometry';

import type { Background, Picture } from './field';
import { offsetPaths, type ClosedPath, type Join } from './offset';
import { encloses, trace, type Trace, type TracedPath, type TraceRefusal, type TrueSize } from './trace';

/** From a picture to its cut line: every step can be changed, and the later ones follow. */
export interface CutLineRecipe {
  readonly size: TrueSize;
  readonly background: 'auto' | Background;
  readonly threshold: number | null;
  /** How far the line may lie from what is seen, mm. */
  readonly toleranceMm: number;
  /** Inlets and spurs narrower than this go. */
  readonly closeMm: number;
  readonly minAreaMm2: number;
  /** Outward, a border; inward, a cut inside the ink. */
  readonly borderMm: number;
  readonly join: Join;
  /** Shapes whose borders would meet keep their own lines: the border of all of them is as narrow as that needs. */
  readonly apart?: boolean | undefined;
  /** Inner lines that only look like holes: places inside them, mm. */
  readonly ignore: readonly Point[];
}

export interface CutLine {
  readonly trace: Trace;
  /** Inner lines of the picture, the largest first: holes to cut, or white that only looks like one. */
  readonly inner: readonly InnerLine[];
  /** The border as it came to be: narrower than wanted where neighbours are kept apart. */
  readonly borderMm: number;
  /** What is cut. */
  readonly lines: readonly ClosedPath[];
}

export interface InnerLine {
  /** Its nearest point: what tells it again when the recipe changes. */
  readonly at: Point;
  readonly kind: TracedPath['kind'];
  readonly areaMm2: number;
  readonly ignored: boolean;
}

/** Two lines that pass so near each other are the same one, traced again. */
const SAME_MM = 1;

/** Traces, leaves out what is ignored, closes inlets and offsets; the traced line itself is never cut under its offset. */
export function cutLineOf(picture: Picture, recipe: CutLineRecipe): Outcome<CutLine, TraceRefusal> {
  const { size, background, threshold, toleranceMm, closeMm, minAreaMm2, join, ignore } = recipe;
  const traced = trace(picture, {
    ...{ size, background, threshold, toleranceMm, minAreaMm2 },
    ...{ smoothMm: closeMm, islands: 'keep' },
  });
  if (!traced.ok) return traced;
  const { paths } = traced.value;
  const within = (path: TracedPath): boolean =>
    paths.some((p) => p !== path && p.areaMm2 > path.areaMm2 && encloses(p.points, path.points[0]!));
  const inner = paths.filter(within).map((p): InnerLine => {
    const ignored = ignore.some((at) => p.points.some((q) => Math.hypot(q.x - at.x, q.y - at.y) < SAME_MM));
    return { at: lowest(p.points), kind: p.kind, areaMm2: p.areaMm2, ignored };
  });
  const kept = paths.filter((p) => !inner.some((i) => i.ignored && i.at === lowest(p.points)));
  const borderMm = recipe.apart ? borderApart(kept, recipe) : recipe.borderMm;
  return accept({
    trace: traced.value,
    ...{ inner, borderMm },
    // What encloses less than the line may lie beside itself is no line.
    lines: offsetPaths(
      kept.map((p) => p.points),
      { distanceMm: borderMm, join, toleranceMm },
    ).filter((l) => l.areaMm2 >= toleranceMm * toleranceMm),
  });
}

/** Lines of neighbours that are kept apart leave so much between them, mm: less tears in weeding (common practice, no source). */
const APART_MM = 1;

/** However small the tolerance: beyond this a border is told to a millionth of itself. */
const MOST_HALVED = 20;

/** The widest border, up to the wanted one, with which no more shapes grow together than without one. */
function borderApart(
  paths: readonly TracedPath[],
  { borderMm, join, toleranceMm }: Pick<CutLineRecipe, 'borderMm' | 'join' | 'toleranceMm'>,
): number {
  const lines = paths.map((p) => p.points);
  const shapes = (distanceMm: number): number =>
    offsetPaths(lines, { distanceMm, join, toleranceMm }).filter((l) => !l.hole).length;
  const alone = shapes(0);
  if (borderMm <= 0 || shapes(borderMm + APART_MM / 2) === alone) return borderMm;
  let [low, high] = [0, borderMm];
  for (let halved = 0; halved < MOST_HALVED && high - low > toleranceMm; halved += 1) {
    const middle = (low + high) / 2;
    if (shapes(middle + APART_MM / 2) === alone) low = middle;
    else high = middle;
  }
  return low;
}

/** The nearest point of a line, the left one of several: nearly the same when it is traced again. */
const lowest = (points: readonly Point[]): Point =>
  points.reduce((a, b) => (b.y < a.y || (b.y === a.y && b.x < a.x) ? b : a));

/** The lines as a drawing whose page is the picture’s own, so that both lie alike; holes are cut before what holds them. */
export function cutLineDrawing({ lines, trace: { widthMm, heightMm } }: CutLine): Drawing {
  const order = lines.toSorted((a, b) => Number(b.hole) - Number(a.hole));
  return {
    page: { widthMm, heightMm },
    unitMm: 1,
    layers: [{ name: 'cut', colour: '#a86a0c' }],
    paths: order.map(({ points }) => ({
      start: points[0]!,
      segments: [{ kind: 'lines', xy: points.slice(1).flatMap((p) => [p.x, p.y]) }],
      ...{ closed: true, layer: 'cut', colour: '#a86a0c', pen: 1 },
    })),
  };
}
