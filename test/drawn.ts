import { circleOf, flatten, type Drawn, type Ink } from '@/core/drawing';
import type { Point } from '@/core/geometry';

interface Inked {
  readonly ink: Ink;
  readonly colour: string | null;
  readonly widthMm: number;
}

/** What the product drew, as a person would name it. */
export type Seen =
  | (Inked & { readonly kind: 'line'; readonly from: Point; readonly to: Point })
  | (Inked & { readonly kind: 'disc' | 'ring'; readonly centre: Point; readonly radiusMm: number })
  | (Inked & { readonly kind: 'polygon'; readonly points: readonly Point[]; readonly filled: boolean })
  | (Inked & {
      readonly kind: 'text';
      readonly at: Point;
      readonly text: string;
      readonly sizeMm: number;
      readonly turnDeg?: 0 | 90;
    });

const seen = (drawn: Drawn): Seen => {
  if ('text' in drawn) return { kind: 'text', ink: 'text', widthMm: 0, ...drawn };
  const { ink, fill: filled, widthMm } = drawn.paint!;
  const inked = { ink, colour: drawn.colour, widthMm };
  const circle = circleOf(drawn);
  if (circle)
    return { ...inked, kind: filled ? 'disc' : 'ring', centre: circle.centre, radiusMm: circle.radius };
  const xy = flatten({ ...drawn, closed: false }, 1);
  const points = Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }));
  return drawn.closed
    ? { ...inked, kind: 'polygon', points, filled }
    : { ...inked, kind: 'line', from: points[0]!, to: points[1]! };
};

/** All that a drawing or a list has on it. */
export const seenOn = (
  drawn: readonly Drawn[] | { readonly paths: readonly Drawn[]; readonly words: readonly Drawn[] },
): Seen[] => ('paths' in drawn ? [...drawn.paths, ...drawn.words] : drawn).map(seen);
