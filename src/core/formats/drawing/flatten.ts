import type { Point } from '../../geometry';

import { arcPoint, segmentEnd, type DrawnPath, type Segment } from './types';

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

function append(xy: number[], at: Point, segment: Segment, chordMm: number): void {
  switch (segment.kind) {
    case 'lines':
      for (let i = 0; i < segment.xy.length; i += 1) xy.push(segment.xy[i]!);
      return;
    case 'cubic': {
      const { c1, c2, to } = segment;
      const bend = Math.max(
        Math.hypot(at.x - 2 * c1.x + c2.x, at.y - 2 * c1.y + c2.y),
        Math.hypot(c1.x - 2 * c2.x + to.x, c1.y - 2 * c2.y + to.y),
      );
      const pieces = within(Math.sqrt((0.75 * bend) / chordMm));
      for (let i = 1; i < pieces; i += 1) {
        const t = i / pieces;
        const s = 1 - t;
        xy.push(
          s * s * s * at.x + 3 * s * s * t * c1.x + 3 * s * t * t * c2.x + t * t * t * to.x,
          s * s * s * at.y + 3 * s * s * t * c1.y + 3 * s * t * t * c2.y + t * t * t * to.y,
        );
      }
      xy.push(to.x, to.y);
      return;
    }
    case 'arc': {
      const radius = Math.max(Math.hypot(segment.u.x, segment.u.y), Math.hypot(segment.v.x, segment.v.y));
      const widest = radius > chordMm ? 2 * Math.acos(1 - chordMm / radius) : Math.PI;
      const pieces = within(Math.abs(segment.sweep) / widest);
      for (let i = 1; i <= pieces; i += 1) {
        const p = arcPoint(segment, segment.from + (segment.sweep * i) / pieces);
        xy.push(p.x, p.y);
      }
      return;
    }
    default:
      segment satisfies never;
  }
}

const within = (pieces: number): number => Math.min(MOST_PIECES, Math.max(1, Math.ceil(pieces - 1e-9)));
