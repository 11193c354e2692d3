import type { Point } from '../geometry';
import { accept, refuse, type Outcome } from '../outcome';

import { contoursOf } from './contours';
import { fieldOf, guessBackground, otsuThreshold, type Background, type Picture } from './field';
import { smoothed } from './offset';
import { areaOf, simplifyClosed } from './simplify';

/** How wide a picture is to be, one way or the other. */
export type TrueSize =
  { readonly widthMm: number } | { readonly heightMm: number } | { readonly dpi: number };

export interface TraceSpec {
  readonly size: TrueSize;
  readonly background: 'auto' | Background;
  /** From 0, the background, to 1; null for the one that parts them best. */
  readonly threshold: number | null;
  /** How far the line may lie from what is seen. */
  readonly toleranceMm: number;
  /** Inlets and spurs narrower than this go; 0 leaves all. */
  readonly smoothMm: number;
  /** What encloses less is dropped, holes too. */
  readonly minAreaMm2: number;
  /** What lies inside another line: kept, or dropped. */
  readonly islands: 'keep' | 'drop';
}

export interface TracedPath {
  readonly kind: 'outer' | 'hole';
  readonly areaMm2: number;
  /** Closed; outer ones anticlockwise, holes clockwise; mm, x right, y up, from the picture’s lower-left corner. */
  readonly points: readonly Point[];
}

export interface Trace {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly background: Background;
  readonly threshold: number;
  /** The largest first. */
  readonly paths: readonly TracedPath[];
}

export type TraceRefusal =
  | { readonly code: 'all-alike' }
  | { readonly code: 'nothing-left'; readonly minAreaMm2: number }
  | { readonly code: 'too-busy' };

/** More corners than this in all are no outline: noise, or a photograph that fills its frame. */
const MOST_POINTS = 3_000_000;
export const TRACE_VERSION = 'trace-1';

/**
 * The outer edge of what a picture shows, and its holes.
 *
 * Method   a field of how unlike the background each pixel is, parted by Otsu’s threshold; closed lines by marching squares
 *          with places half-way between the colours of both sides (`contoursOf`); corners dropped within a third of the
 *          tolerance, area kept (`simplifyClosed`).
 * Units    mm.
 * Refuses  all-alike, nothing-left, too-busy.
 */
export function trace(picture: Picture, spec: TraceSpec): Outcome<Trace, TraceRefusal> {
  const mmPerPx = mmPerPixel(picture, spec.size);
  const background = spec.background === 'auto' ? guessBackground(picture) : spec.background;
  const field = fieldOf(picture, background);
  const threshold = spec.threshold === null ? otsuThreshold(field) : 255 * spec.threshold;
  if (threshold === null) return refuse({ code: 'all-alike' });
  const least = spec.minAreaMm2 / mmPerPx ** 2;
  const found = contoursOf(picture, field, threshold, MOST_POINTS);
  if (!found) return refuse({ code: 'too-busy' });
  const { height } = picture;
  const lines = found.flatMap((line) => {
    if (Math.abs(areaOf(line)) < least) return [];
    for (let i = 0; i < line.length; i += 2) {
      line[i] = line[i]! * mmPerPx;
      line[i + 1] = (height - line[i + 1]!) * mmPerPx;
    }
    return [simplifyClosed(line, spec.toleranceMm)];
  });
  const closed: readonly TracedPath[] =
    spec.smoothMm > 0
      ? smoothed(lines.map(toPoints), spec.smoothMm, spec.toleranceMm / 2).map(
          ({ points, areaMm2, hole }) => ({ kind: hole ? 'hole' : 'outer', areaMm2, points }),
        )
      : lines.map((line) => {
          const area = areaOf(line);
          return { kind: area > 0 ? 'outer' : 'hole', areaMm2: Math.abs(area), points: toPoints(line) };
        });
  const paths = closed.filter((p) => p.areaMm2 >= spec.minAreaMm2).sort((a, b) => b.areaMm2 - a.areaMm2);
  const kept = spec.islands === 'keep' ? paths : outermost(paths);
  if (kept.length === 0) return refuse({ code: 'nothing-left', minAreaMm2: spec.minAreaMm2 });
  return accept({
    widthMm: picture.width * mmPerPx,
    heightMm: height * mmPerPx,
    background,
    threshold: threshold / 255,
    paths: kept,
  });
}

function mmPerPixel({ width, height }: Picture, size: TrueSize): number {
  if ('widthMm' in size) return size.widthMm / width;
  return 'heightMm' in size ? size.heightMm / height : 25.4 / size.dpi;
}

function toPoints(line: Float64Array): Point[] {
  return Array.from({ length: line.length / 2 }, (_, i) => ({ x: line[2 * i]!, y: line[2 * i + 1]! }));
}

/** Lines that lie in no other; the largest come first. */
function outermost(paths: readonly TracedPath[]): TracedPath[] {
  const kept: TracedPath[] = [];
  for (const path of paths)
    if (path.kind === 'outer' && !kept.some((k) => encloses(k.points, path.points[0]!))) kept.push(path);
  return kept;
}

/** Whether a point lies in a closed line, by the crossings of a ray (Shimrat 1962). */
export function encloses(points: readonly Point[], p: Point): boolean {
  let odd = false;
  for (let i = 0, j = points.length - 1; i < points.length; j = i, i += 1) {
    const [a, b] = [points[i]!, points[j]!];
    if (a.y > p.y !== b.y > p.y && p.x < ((b.x - a.x) * (p.y - a.y)) / (b.y - a.y) + a.x) odd = !odd;
  }
  return odd;
}

/** What is wrong and what would be right. */
export function traceRefusalText(refusal: TraceRefusal): string {
  switch (refusal.code) {
    case 'all-alike':
      return 'Nothing stands out from the background in this picture. Trace a darker stand-in of the same artwork, or set the threshold yourself.';
    case 'nothing-left':
      return `Every line encloses less than ${refusal.minAreaMm2} mm². Check the size, or lower the smallest area.`;
    case 'too-busy':
      return 'This picture has more edges than an outline has: a photograph that fills its frame, or noise. Cut it out on a plain background first.';
    default:
      return refusal satisfies never;
  }
}
