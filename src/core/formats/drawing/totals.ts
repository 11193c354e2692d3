import { mapPoint, type PlaneMap, type Point, type Rect } from '../../geometry';

import { flatten } from './flatten';
import type { DrawnPath } from './types';

/** What a drawing amounts to, and how far a correction moves it. */
export interface Totals {
  readonly paths: number;
  readonly points: number;
  readonly lengthMm: number;
  readonly bounds: Rect;
  readonly farthestMoveMm: number;
  readonly farthestAt: Point;
}

/** Lines this fine are enough for lengths and bounds; what is written is not made from them. */
const MEASURE_CHORD_MM = 0.05;

/** Sums over the drawing as it was; `map` is what the correction does to each commanded point. */
export function measure(paths: readonly DrawnPath[], map: PlaneMap): Totals {
  let points = 0;
  let lengthMm = 0;
  let far = { move2: -1, x: 0, y: 0 };
  const bounds = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
  for (const path of paths) {
    const xy = path.segments.every((s) => s.kind === 'lines')
      ? straight(path)
      : flatten(path, MEASURE_CHORD_MM);
    points += xy.length / 2;
    for (let i = 0; i < xy.length; i += 2) {
      const x = xy[i]!;
      const y = xy[i + 1]!;
      if (i > 0) lengthMm += Math.sqrt((x - xy[i - 2]!) ** 2 + (y - xy[i - 1]!) ** 2);
      if (x < bounds.x0) bounds.x0 = x;
      if (x > bounds.x1) bounds.x1 = x;
      if (y < bounds.y0) bounds.y0 = y;
      if (y > bounds.y1) bounds.y1 = y;
      const move2 = moved2(map, x, y);
      if (move2 > far.move2) far = { move2, x, y };
    }
  }
  return {
    paths: paths.length,
    points,
    lengthMm,
    bounds,
    farthestMoveMm: Math.sqrt(Math.max(0, far.move2)),
    farthestAt: { x: far.x, y: far.y },
  };
}

function moved2(map: PlaneMap, x: number, y: number): number {
  if (map.kind === 'affine')
    return ((map.a11 - 1) * x + map.a12 * y + map.tx) ** 2 + (map.a21 * x + (map.a22 - 1) * y + map.ty) ** 2;
  const to = mapPoint(map, { x, y });
  return (to.x - x) ** 2 + (to.y - y) ** 2;
}

const straight = (path: DrawnPath): number[] => flatten(path, 1);
