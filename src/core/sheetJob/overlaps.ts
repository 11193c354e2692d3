import { sharedAreaMm2, unionOf } from '../artwork';
import type { Finding } from '../artwork/checks';
import { meeting } from '../artwork/checks/crossing';
import { applyAffine, type Affine, type Point } from '../geometry';

import type { JobGeometry, JobPiece, PlacedPiece } from './job';
import { occupied } from './nested';

/* Pieces that lie on each other: found by their true shapes, whatever moved them there. */

/** Less than this in common is a touch, mm². */
const OVERLAP_MM2 = 0.05;

/** What of a piece may not lie on another: all that is printed of it, on what is cut out of the other. */
interface Shapes {
  readonly printed: readonly (readonly Point[])[];
  readonly cut: readonly (readonly Point[])[];
}

const shapesOf = (piece: JobPiece): Shapes => ({
  printed: unionOf(occupied(piece), 'non-zero')
    .filter((l) => !l.hole)
    .map((l) => l.points),
  cut: piece.lines.filter((l) => !l.hole).map((l) => l.points),
});

const laid = (paths: Shapes['cut'], map: Affine): Point[][] =>
  paths.map((points) => points.map((p) => applyAffine(map, p)));

/** Pieces of one of a job's sheets whose print lies on what is cut out of another: each pair once. */
export function overlapsOn({ pieces, sheets }: JobGeometry, index: number): Finding[] {
  const placed = sheets[index]!;
  const known = new Map<string, Shapes>();
  const of = ({ piece, map }: PlacedPiece): Shapes => {
    const own = known.get(piece) ?? shapesOf(pieces.find((p) => p.id === piece)!);
    known.set(piece, own);
    return { printed: laid(own.printed, map), cut: laid(own.cut, map) };
  };
  return [...meeting(placed.map((p) => p.box))].flatMap(([i, j]): Finding[] => {
    const [a, b] = [of(placed[i]!), of(placed[j]!)];
    const over = Math.max(sharedAreaMm2(a.printed, b.cut), sharedAreaMm2(b.printed, a.cut));
    if (over <= OVERLAP_MM2) return [];
    const [p, q] = [placed[i]!.box, placed[j]!.box];
    return [
      {
        ...{ code: 'pieces-overlap', severity: 'stop' },
        where: {
          ...{ x0: Math.max(p.x0, q.x0), y0: Math.max(p.y0, q.y0) },
          ...{ x1: Math.min(p.x1, q.x1), y1: Math.min(p.y1, q.y1) },
        },
        message: 'A piece is printed on another: both are spoiled there.',
        fix: 'Move one of them away, or lay them out by rule.',
      },
    ];
  });
}
