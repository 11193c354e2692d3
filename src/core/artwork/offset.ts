import { ClipperOffset, Clipper, EndType, FillRule, JoinType, type Path64, type Paths64 } from 'clipper2-ts';

import type { Point } from '../geometry';

/* Offsets and unions of closed lines, on whole ten-thousandths of a millimetre (maths.md, Artwork). */

/** How a corner is carried outward. */
export const JOINS = ['round', 'mitre', 'square'] as const;
export type Join = (typeof JOINS)[number];

/** A closed line of an area: an outer one runs anticlockwise (y up), a hole clockwise. */
export interface ClosedPath {
  readonly points: readonly Point[];
  readonly areaMm2: number;
  readonly hole: boolean;
}

export interface OffsetSpec {
  /** Outward; negative is inward. Holes shrink as their shape grows. */
  readonly distanceMm: number;
  readonly join: Join;
  /** A mitre longer than so many distances is cut off square. */
  readonly mitreLimit?: number;
  /** How far a round corner’s arc may lie from its circle. */
  readonly toleranceMm?: number;
}

const STEPS_PER_MM = 1e4;
const DEFAULT_TOLERANCE_MM = 0.01;
const DEFAULT_MITRE_LIMIT = 2;

const JOIN_TYPES: Readonly<Record<Join, JoinType>> = {
  round: JoinType.Round,
  mitre: JoinType.Miter,
  square: JoinType.Square,
};

const toSteps = (points: readonly Point[]): Path64 =>
  points.map((p) => ({ x: Math.round(p.x * STEPS_PER_MM), y: Math.round(p.y * STEPS_PER_MM) }));

const fromSteps = (paths: Paths64): ClosedPath[] =>
  paths.flatMap((path) => {
    const area = Clipper.area(path) / STEPS_PER_MM ** 2;
    if (path.length < 3 || area === 0) return [];
    const points = path.map((p) => ({ x: p.x / STEPS_PER_MM, y: p.y / STEPS_PER_MM }));
    return [{ points, areaMm2: Math.abs(area), hole: area < 0 }];
  });

/** How overlapping lines are understood: by nesting, or by which way they run. */
export type Filling = 'even-odd' | 'non-zero';
const RULES: Readonly<Record<Filling, FillRule>> = {
  'even-odd': FillRule.EvenOdd,
  'non-zero': FillRule.NonZero,
};

/** The area that lines enclose, as lines that neither cross nor touch twice; outer ones anticlockwise, holes clockwise. */
export const unionOf = (paths: readonly (readonly Point[])[], filling: Filling): ClosedPath[] =>
  fromSteps(Clipper.union(paths.map(toSteps), RULES[filling]));

const areaOf = (paths: Paths64): number =>
  Math.abs(paths.reduce((sum, path) => sum + Clipper.area(path), 0)) / STEPS_PER_MM ** 2;

/** How much area two shapes have in common, mm²; each is what its closed lines enclose by nesting. */
export const sharedAreaMm2 = (a: readonly (readonly Point[])[], b: readonly (readonly Point[])[]): number =>
  areaOf(Clipper.intersect(a.map(toSteps), b.map(toSteps), FillRule.EvenOdd));

/** How much of a shape lies outside another, mm². */
export const areaOutsideMm2 = (a: readonly (readonly Point[])[], b: readonly (readonly Point[])[]): number =>
  areaOf(Clipper.difference(a.map(toSteps), b.map(toSteps), FillRule.EvenOdd));

/**
 * The lines at a distance from the area that closed lines enclose.
 *
 * Shapes   any number of closed lines, each of three points or more; which is a hole is told by nesting (even-odd).
 * Method   polygon offsetting on integers (Vatti’s clipping, as in Chen & McMains 2005; the library clipper2-ts).
 * Returns  the new lines; none where nothing is left.
 */
export function offsetPaths(
  paths: readonly (readonly Point[])[],
  { distanceMm, join, mitreLimit = DEFAULT_MITRE_LIMIT, toleranceMm = DEFAULT_TOLERANCE_MM }: OffsetSpec,
): ClosedPath[] {
  const area = Clipper.union(paths.map(toSteps), FillRule.EvenOdd);
  return fromSteps(moved(area, distanceMm, JOIN_TYPES[join], mitreLimit, toleranceMm));
}

function moved(
  area: Paths64,
  distanceMm: number,
  join: JoinType,
  mitreLimit: number,
  toleranceMm: number,
): Paths64 {
  const offset = new ClipperOffset(mitreLimit, Math.max(1, toleranceMm * STEPS_PER_MM));
  offset.addPaths(area, join, EndType.Polygon);
  const out: Paths64 = [];
  offset.execute(distanceMm * STEPS_PER_MM, out);
  return out;
}

/**
 * Rounds a shape: inlets and gaps narrower than `widthMm` are closed, then spurs narrower than that dropped, corners
 * rounded to half of it.
 *
 * Method   morphological closing, then opening, by a disc of half the width (Serra 1982; from memory).
 */
export function smoothed(
  paths: readonly (readonly Point[])[],
  widthMm: number,
  toleranceMm = DEFAULT_TOLERANCE_MM,
): ClosedPath[] {
  const half = widthMm / 2;
  const area = Clipper.union(paths.map(toSteps), FillRule.EvenOdd);
  const by = (shape: Paths64, mm: number): Paths64 =>
    moved(shape, mm, JoinType.Round, DEFAULT_MITRE_LIMIT, toleranceMm);
  return fromSteps(by(by(by(area, half), -2 * half), half));
}
