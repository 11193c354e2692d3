import { offsetPaths, unionOf } from '../artwork';
import { applyAffine, type Point, type Rect } from '../geometry';
import { placedBy, type NestedPiece, type NestJob } from '../layout/nest';
import { clearZone, markPlaces } from '../marks';

import { bleedArea } from './lines';
import type { JobGeometry } from './job';
import type { PlacedPiece } from './job';
import type { JobSheet } from './job';
import type { JobLayout } from './job';
import type { JobPiece } from './job';

/** What a piece takes of the sheet in its own frame, anticlockwise: its lines with their bleed, its second line, its ink. */
export const occupied = ({ lines, ink, bleedMm, second }: JobPiece): (readonly Point[])[] =>
  [
    ...(bleedMm > 0 ? bleedArea(lines, bleedMm) : lines).filter((l) => !l.hole).map((l) => l.points),
    ...(second?.lines.map((l) => l.points) ?? []),
    ...ink,
  ].map(anticlockwise);

/** A job whose true shapes are to be nested, on a sheet whose label has its place. */
export const nestJobOf = (
  pieces: readonly JobPiece[],
  { gapMm, mayTurn }: JobLayout,
  { area, marks, ...sheet }: JobSheet,
  label: Rect,
): NestJob => ({
  usable: area,
  zones: [...(marks ? markPlaces(marks, sheet).map((m) => clearZone(marks, m)) : []), label],
  shapes: pieces
    .filter((p) => p.copies !== 0)
    .map((p) => ({ id: p.id, outlines: occupied(p), copies: p.copies, mayTurn })),
  gapMm,
});

/** A nested piece on its sheet; `box`: how much room it takes in its own frame. */
export function nestedPlace({ item, turnDeg, x, y }: NestedPiece, box: Rect): PlacedPiece {
  const map = placedBy(turnDeg, { x, y });
  const [a, b] = [applyAffine(map, { x: box.x0, y: box.y0 }), applyAffine(map, { x: box.x1, y: box.y1 })];
  return {
    ...{ piece: item, map },
    box: { x0: Math.min(a.x, b.x), y0: Math.min(a.y, b.y), x1: Math.max(a.x, b.x), y1: Math.max(a.y, b.y) },
  };
}

/** Whether the rectangles of pieces may lie over each other: nested, or moved by hand. */
export const shapesOverlap = ({ layout }: Pick<JobGeometry, 'layout'>): boolean =>
  layout.nested !== undefined || (layout.nudged ?? []).length > 0;

/** Beyond what a piece takes so much of its picture is shown: the last grey of its edge, mm. */
const EDGE_MM = 0.1;

/** What is shown of a piece's picture where another's rectangle may lie over it: closed lines in its own frame. */
export const shownOf = (piece: JobPiece): (readonly Point[])[] =>
  offsetPaths(
    unionOf(occupied(piece), 'non-zero').map((l) => l.points),
    { distanceMm: EDGE_MM, join: 'round' },
  )
    .filter((l) => !l.hole)
    .map((l) => l.points);

const anticlockwise = (points: readonly Point[]): readonly Point[] => {
  const doubled = points.reduce((sum, p, i) => {
    const q = points[(i + 1) % points.length]!;
    return sum + p.x * q.y - q.x * p.y;
  }, 0);
  return doubled < 0 ? points.toReversed() : points;
};
