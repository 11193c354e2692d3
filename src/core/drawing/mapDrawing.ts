import { mapPoint, type Affine, type PlaneMap, type Point } from '../geometry';

import { flatten } from './flatten';
import type { DrawnPath, Segment } from './model';

/** A curve that has to become lines stays this close to itself, mm: below what rounding in a file may cost. */
export const CHORD_MM = 0.003;

/**
 * A path taken through a map. Affine maps keep lines, cubics and arcs exactly; projective maps keep lines, and
 * turn curves into lines within `chordMm` first.
 */
export function mapPath(path: DrawnPath, map: PlaneMap, chordMm = CHORD_MM): DrawnPath {
  if (map.kind === 'affine')
    return {
      ...path,
      start: mapPoint(map, path.start),
      segments: path.segments.map((s) => mapSegment(s, map)),
    };
  const curved = path.segments.some((s) => s.kind !== 'lines');
  const source = curved ? flatten(path, chordMm) : null;
  const xy = source ? source.slice(2) : path.segments.flatMap((s) => (s.kind === 'lines' ? s.xy : []));
  return {
    ...path,
    start: mapPoint(map, path.start),
    segments: [{ kind: 'lines', xy: mapPoints(xy, (p) => mapPoint(map, p)) }],
  };
}

function mapSegment(segment: Segment, m: Affine & { readonly kind: 'affine' }): Segment {
  const vector = (v: Point): Point => ({ x: m.a11 * v.x + m.a12 * v.y, y: m.a21 * v.x + m.a22 * v.y });
  switch (segment.kind) {
    case 'lines': {
      const xy = new Array<number>(segment.xy.length);
      for (let i = 0; i < xy.length; i += 2) {
        const x = segment.xy[i]!;
        const y = segment.xy[i + 1]!;
        xy[i] = m.a11 * x + m.a12 * y + m.tx;
        xy[i + 1] = m.a21 * x + m.a22 * y + m.ty;
      }
      return { kind: 'lines', xy };
    }
    case 'cubic':
      return {
        kind: 'cubic',
        c1: mapPoint(m, segment.c1),
        c2: mapPoint(m, segment.c2),
        to: mapPoint(m, segment.to),
      };
    case 'arc':
      return { ...segment, centre: mapPoint(m, segment.centre), u: vector(segment.u), v: vector(segment.v) };
    default:
      return segment satisfies never;
  }
}

export function mapPoints(xy: readonly number[], map: (p: Point) => Point): number[] {
  const moved = new Array<number>(xy.length);
  for (let i = 0; i < xy.length; i += 2) {
    const p = map({ x: xy[i]!, y: xy[i + 1]! });
    moved[i] = p.x;
    moved[i + 1] = p.y;
  }
  return moved;
}
