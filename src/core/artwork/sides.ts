import { type Affine } from '../geometry';

/** About which edge the sheet is turned over in the hand. */
export const TURNED_OVER = ['long-edge', 'short-edge'] as const;
export type TurnedOver = (typeof TURNED_OVER)[number];
/** How the reader gets to the back: leafed about the edge at the side, or lifted about the top edge. */
export const READS_LIKE = ['book', 'calendar'] as const;
export type ReadsLike = (typeof READS_LIKE)[number];

export interface TwoSides {
  /** Whether the edge that led the first time leads again. */
  readonly leads: 'same-edge' | 'other-edge';
  /** A point of the front’s frame to the same place of the sheet in the back’s own frame. */
  readonly map: Affine;
  /** How the back’s artwork is turned in that frame. */
  readonly artTurnDeg: 0 | 180;
}

/**
 * A sheet printed on both sides: where a place of the front lies in the back’s frame, and how the back’s art is turned.
 *
 * The sheet is turned by 180° in space about an edge, never mirrored: about an edge along the feed x runs back and the same
 * edge leads, about one across the feed y runs back and the other edge leads (maths.md, Two sides). The front reads upright
 * with its top at the far end. Of a square sheet the edges along the feed count as the long ones.
 */
export function twoSides(
  sheet: { readonly widthMm: number; readonly heightMm: number },
  turnedOver: TurnedOver,
  readsLike: ReadsLike,
): TwoSides {
  const longAlongFeed = sheet.heightMm >= sheet.widthMm;
  const aboutFeed = (turnedOver === 'long-edge') === longAlongFeed;
  // Leafed, the far edge stays on top; lifted, the near edge comes up.
  const topStays = readsLike === 'book';
  return {
    leads: aboutFeed ? 'same-edge' : 'other-edge',
    map: aboutFeed
      ? { a11: -1, a12: 0, a21: 0, a22: 1, tx: sheet.widthMm, ty: 0 }
      : { a11: 1, a12: 0, a21: 0, a22: -1, tx: 0, ty: sheet.heightMm },
    artTurnDeg: aboutFeed === topStays ? 0 : 180,
  };
}
