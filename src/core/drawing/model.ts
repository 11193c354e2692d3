import type { Point } from '../geometry';

import type { Ink } from './ink';
import type { LeftUncut } from './leftUncut';

/**
 * The one drawing in the middle: readers and what the product draws itself make it, maps move it, writers take it.
 * Lengths in mm, y up; of an SVG page the origin is its lower-left corner, of DXF and HPGL the file's own.
 */
export interface Drawing {
  /** What it is; written where a format has room for words that are not cut. */
  readonly title?: string;
  readonly paths: readonly DrawnPath[];
  readonly layers: readonly Layer[];
  /** Of what is printed; no cut file has any. */
  readonly words?: readonly DrawnWords[];
  /** What is drawn but is no cut line (`CutLines`): for a format that can write it back as it was. */
  readonly uncut?: readonly DrawnPath[];
  /** The same in figures. */
  readonly leftUncut?: readonly LeftUncut[];
  /** Of a file that has a page. */
  readonly page: Page | null;
  /** The file's own unit, mm; what it is written back in. */
  readonly unitMm: number;
}

export interface Page {
  readonly widthMm: number;
  readonly heightMm: number;
}

/** A drawing of the product's own, for print, preview or cut. */
export interface PageDrawing extends Drawing {
  readonly title: string;
  readonly page: Page;
  readonly words: readonly DrawnWords[];
}

export interface Layer {
  readonly name: string;
  /** `#rrggbb`, or null where the file gives none. */
  readonly colour: string | null;
  /** Of DXF: switched off, frozen, or for the screen only. */
  readonly off?: boolean;
  readonly frozen?: boolean;
  readonly unplotted?: boolean;
}

export interface DrawnPath {
  readonly start: Point;
  readonly segments: readonly Segment[];
  readonly closed: boolean;
  readonly layer: string;
  readonly colour: string | null;
  readonly pen: number | null;
  /** How it is put on paper, of what the product draws; else a hairline. */
  readonly paint?: Paint;
  /** Device commands that stood before the path (speed, force), kept word for word where the format allows. */
  readonly device?: string;
  /** Of DXF: the entity itself is switched off (60 = 1), or is written so because nothing else keeps it from being cut. */
  readonly invisible?: boolean;
}

export interface Paint {
  /** Which ink, where the path has no colour of its own. */
  readonly ink: Ink;
  readonly fill: boolean;
  /** Of its line; 0 for what is filled. */
  readonly widthMm: number;
}

/** Words on paper, from the start, the middle or the end of their baseline. */
export interface DrawnWords {
  readonly at: Point;
  readonly text: string;
  readonly sizeMm: number;
  readonly anchor: 'start' | 'middle' | 'end';
  readonly bold?: boolean;
  readonly turnDeg?: 0 | 90;
  /** Instead of the ink's own. */
  readonly colour: string | null;
}

export type Segment =
  /** Straight lines through x, y, x, y … */
  | { readonly kind: 'lines'; readonly xy: readonly number[] }
  | { readonly kind: 'cubic'; readonly c1: Point; readonly c2: Point; readonly to: Point }
  /** p(t) = centre + u·cos t + v·sin t, from t = `from` to `from + sweep`, rad; u and v are conjugate half-axes. */
  | {
      readonly kind: 'arc';
      readonly centre: Point;
      readonly u: Point;
      readonly v: Point;
      readonly from: number;
      readonly sweep: number;
    };

/** Where a segment ends. */
export function segmentEnd(segment: Segment): Point {
  switch (segment.kind) {
    case 'lines':
      return { x: segment.xy.at(-2)!, y: segment.xy.at(-1)! };
    case 'cubic':
      return segment.to;
    case 'arc':
      return arcPoint(segment, segment.from + segment.sweep);
    default:
      return segment satisfies never;
  }
}

export const arcPoint = (arc: Segment & { kind: 'arc' }, t: number): Point => ({
  x: arc.centre.x + arc.u.x * Math.cos(t) + arc.v.x * Math.sin(t),
  y: arc.centre.y + arc.u.y * Math.cos(t) + arc.v.y * Math.sin(t),
});
