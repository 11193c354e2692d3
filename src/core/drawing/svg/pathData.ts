import { WHOLE_STEP_GUARD } from '../../tolerance';
import { arcPoint, segmentEnd, type DrawnPath, type Segment } from '..';
import type { Point } from '../../geometry';

/** A drawn path as SVG path data, in its own coordinates; arcs stay arcs. */
export function pathData(path: DrawnPath, places: number): string {
  const factor = 10 ** places;
  const n = (value: number): string => String(Math.round(value * factor) / factor + 0);
  const point = (p: Point): string => `${n(p.x)} ${n(p.y)}`;
  const parts = [`M${point(path.start)}`];
  for (const segment of path.segments) {
    switch (segment.kind) {
      case 'lines':
        for (let i = 0; i < segment.xy.length; i += 2)
          parts.push(`L${n(segment.xy[i]!)} ${n(segment.xy[i + 1]!)}`);
        break;
      case 'cubic':
        parts.push(`C${point(segment.c1)} ${point(segment.c2)} ${point(segment.to)}`);
        break;
      case 'arc':
        parts.push(arcData(segment, point, n));
        break;
      default:
        segment satisfies never;
    }
  }
  if (path.closed) parts.push('Z');
  return parts.join('');
}

/** Half-axes and their turn from conjugate ones by the singular values of [u v] (W3C SVG 2, B.2). */
function arcData(
  arc: Segment & { kind: 'arc' },
  point: (p: Point) => string,
  n: (value: number) => string,
): string {
  const { u, v } = arc;
  const e = (u.x + v.y) / 2;
  const f = (u.x - v.y) / 2;
  const g = (u.y + v.x) / 2;
  const h = (u.y - v.x) / 2;
  const q = Math.hypot(e, h);
  const r = Math.hypot(f, g);
  const turn = (Math.atan2(g, f) + Math.atan2(h, e)) / 2;
  const radii = `${n(q + r)} ${n(Math.abs(q - r))} ${Number(((turn * 180) / Math.PI).toFixed(6))}`;
  const flag = arc.sweep * (u.x * v.y - u.y * v.x) > 0 ? 1 : 0;
  // Quarters at most: the centre of a half, found from rounded end points, would be off by the root of the rounding.
  const parts = Math.max(1, Math.ceil(Math.abs(arc.sweep) / (Math.PI / 2) - WHOLE_STEP_GUARD));
  return Array.from({ length: parts }, (_, i) => {
    const to = i + 1 === parts ? segmentEnd(arc) : arcPoint(arc, arc.from + (arc.sweep * (i + 1)) / parts);
    return `A${radii} 0 ${flag} ${point(to)}`;
  }).join('');
}
