import { clearOnMm, type MarkKit } from '../marks';

/** How a rig's pinch rollers run. Lengths in mm. */
export interface Rollers {
  readonly rollerMm: number;
  /** Nearest to the media's edge that a roller may run. */
  readonly rollerEdgeMm: number;
}

/** The strip along one edge of the media in which a roller may run, from that edge. */
export interface RollerRoom {
  readonly side: 'left' | 'right';
  readonly fromMm: number;
  readonly toMm: number;
  /** Whether a roller fits between them. */
  readonly fits: boolean;
}

/** What a roll needs on a rig that nobody has described yet, mm: common practice, no source. */
export const NEW_ROLL_KIT = {
  leadMm: 300,
  tailMm: 250,
  rollerMm: 20,
  rollerEdgeMm: 3,
  longestMm: null,
  testCutTurned: false,
};

/**
 * Where the outer pinch rollers may run: on the media, outside the marks and their clear zones.
 *
 * Units    mm from the media's own left and right edge.
 * Example  marks of 10 mm, 45 mm in, 8 mm clear: from the roller's own margin to 32 mm.
 */
export function rollerRoom(
  marks: Pick<MarkKit, 'sizeMm' | 'clearMm' | 'clearSidesMm' | 'insetLeftMm' | 'insetRightMm'>,
  { rollerMm, rollerEdgeMm }: Rollers,
): readonly [left: RollerRoom, right: RollerRoom] {
  const room = (side: RollerRoom['side'], insetMm: number): RollerRoom => {
    const toMm = Math.max(0, insetMm - marks.sizeMm / 2 - clearOnMm(marks, side));
    return { side, fromMm: rollerEdgeMm, toMm, fits: toMm - rollerEdgeMm >= rollerMm };
  };
  return [room('left', marks.insetLeftMm), room('right', marks.insetRightMm)];
}
