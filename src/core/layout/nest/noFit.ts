import { Clipper, ClipperOffset, EndType, FillRule, JoinType, type Path64, type Paths64 } from 'clipper2-ts';

import type { Point } from '../../geometry';

import { turned, type Turn } from './turned';

/* Outlines on whole thousandths of a millimetre, and where one of them may not lie because of another. */

export const STEPS_PER_MM = 1e3;
/** Outlines are grown by so much before they are thinned out by as much: what is left holds the true outline. */
const THIN_MM = 0.12;
const ARC_MM = 0.05;

export type Outline = readonly Path64[];

export const toSteps = (points: readonly Point[]): Path64 =>
  points.map((p) => ({ x: Math.round(p.x * STEPS_PER_MM), y: Math.round(p.y * STEPS_PER_MM) }));

/** The outer outlines of an area, grown by a distance, with no more corners than needed. */
export function spaced(paths: readonly (readonly Point[])[], distanceMm: number): Outline {
  const area = Clipper.union(paths.map(toSteps).map(anticlockwise), FillRule.NonZero);
  const offset = new ClipperOffset(2, ARC_MM * STEPS_PER_MM);
  offset.addPaths(area, JoinType.Round, EndType.Polygon);
  const grown: Paths64 = [];
  offset.execute((distanceMm + THIN_MM) * STEPS_PER_MM, grown);
  const outer = grown.filter((p) => Clipper.area(p) > 0);
  return Clipper.simplifyPaths(outer, THIN_MM * STEPS_PER_MM, true).filter((p) => p.length > 2);
}

export const turnedOutline = (outline: Outline, turn: Turn): Outline =>
  outline.map((path) => path.map((p) => turned(p, turn)));

/**
 * Where the origin of one outline may not lie, another having its origin at (0, 0): the no-fit polygon, A ⊕ (−B).
 * Source  Minkowski sums of polygons (Cunninghame-Green 1989 for nesting; from memory); the library clipper2-ts.
 */
export function noFit(fixed: Outline, moving: Outline): Paths64 {
  const parts: Paths64 = [];
  for (const a of fixed)
    for (const b of moving) {
      const back = b.map((p) => ({ x: -p.x, y: -p.y }));
      parts.push(...Clipper.minkowskiSum(back, a, true));
      // The sums of the outlines leave open what lies wholly inside.
      parts.push(
        Clipper.translatePath(a, back[0]!.x, back[0]!.y),
        Clipper.translatePath(back, a[0]!.x, a[0]!.y),
      );
    }
  return Clipper.union(parts.map(anticlockwise), FillRule.NonZero);
}

const anticlockwise = (path: Path64): Path64 => (Clipper.isPositive(path) ? path : path.toReversed());
