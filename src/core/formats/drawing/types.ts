import type { Point } from '../../geometry';

import type { LeftUncut } from './leftUncut';

/**
 * The one drawing in the middle: readers make it, maps move it, writers take it.
 * Lengths in mm, y up; of an SVG page the origin is its lower-left corner, of DXF and HPGL the file's own.
 */
export interface Drawing {
  readonly paths: readonly DrawnPath[];
  readonly layers: readonly Layer[];
  /** What is drawn but is no cut line (`CutLines`): for a format that can write it back as it was. */
  readonly uncut?: readonly DrawnPath[];
  /** The same in figures. */
  readonly leftUncut?: readonly LeftUncut[];
  /** Of a file that has a page. */
  readonly page: { readonly widthMm: number; readonly heightMm: number } | null;
  /** The file's own unit, mm; what it is written back in. */
  readonly unitMm: number;
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
  /** Device commands that stood before the path (speed, force), kept word for word where the format allows. */
  readonly device?: string;
  /** Of DXF: the entity itself is switched off (60 = 1), or is written so because nothing else keeps it from being cut. */
  readonly invisible?: boolean;
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
