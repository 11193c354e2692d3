import { WHOLE_STEP_GUARD } from '../tolerance';
import type { Point } from '../geometry';

import { curvePoint, type Curve } from './curves';
import { segmentEnd, type DrawnPath, type Segment } from './model';

/** A curve is never cut into more than this many lines, whatever its size. */
const MOST_PIECES = 4096;

/**
 * The path as straight lines: x, y, x, y … with its start, and its start again when it is closed.
 *
 * Chord error at most `chordMm`: cubics by the bound on their second difference (Sederberg, Computer Aided
 * Geometric Design, 10.6; memory), arcs by the sagitta of their larger half-axis.
 */
export function flatten(path: DrawnPath, chordMm: number): number[] {
  const xy = [path.start.x, path.start.y];
  let at = path.start;
  for (const segment of path.segments) {
    append(xy, at, segment, chordMm);
    at = segmentEnd(segment);
  }
  if (path.closed && (at.x !== path.start.x || at.y !== path.start.y)) xy.push(path.start.x, path.start.y);
  return xy;
}

/** How many lines `flatten` would make of these paths; stops counting beyond `most`. */
export function piecesOf(paths: readonly DrawnPath[], chordMm: number, most = Infinity): number {
  let pieces = 0;
  for (const path of paths) {
    let at = path.start;
    for (const segment of path.segments) {
      pieces += segment.kind === 'lines' ? segment.xy.length / 2 : curvePieces(at, segment, chordMm);
      at = segmentEnd(segment);
    }
    if (pieces > most) break;
  }
  return pieces;
}

function curvePieces(at: Point, segment: Curve, chordMm: number): number {
  if (segment.kind === 'cubic') {
    const { c1, c2, to } = segment;
    const bend = Math.max(
      Math.hypot(at.x - 2 * c1.x + c2.x, at.y - 2 * c1.y + c2.y),
      Math.hypot(c1.x - 2 * c2.x + to.x, c1.y - 2 * c2.y + to.y),
    );
    return within(Math.sqrt((0.75 * bend) / chordMm));
  }
  const radius = Math.max(Math.hypot(segment.u.x, segment.u.y), Math.hypot(segment.v.x, segment.v.y));
  const widest = radius > chordMm ? 2 * Math.acos(1 - chordMm / radius) : Math.PI;
  return within(Math.abs(segment.sweep) / widest);
}

function append(xy: number[], at: Point, segment: Segment, chordMm: number): void {
  if (segment.kind === 'lines') {
    for (let i = 0; i < segment.xy.length; i += 1) xy.push(segment.xy[i]!);
    return;
  }
  const pieces = curvePieces(at, segment, chordMm);
  for (let i = 1; i < pieces; i += 1) {
    const p = curvePoint(at, segment, i / pieces);
    xy.push(p.x, p.y);
  }
  const end = segmentEnd(segment);
  xy.push(end.x, end.y);
}

const within = (pieces: number): number => {
  const whole = Math.ceil(pieces - WHOLE_STEP_GUARD);
  return whole >= 1 ? Math.min(MOST_PIECES, whole) : 1;
};
