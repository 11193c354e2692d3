import type { TermName } from '../fit';
import type { Point } from '../geometry';

import { leadingPlace, type SheetSize } from './markPlaces';
import type { MarkKit } from './types';

/** How the rig finds the print again on every load: what it takes out by itself, and what comes new each time. */
export interface Registration {
  /** How many parameters of the load the rig's own marks remove: 0, 2, 4 or 6. */
  readonly parameters: 0 | 2 | 4 | 6;
  /** Terms that the marks measure anew on each load: what is left of them is the rig's own, and worth correcting. */
  readonly removes: readonly TermName[];
  /** Scatter of the turn from load to load about `pivot`, standard deviation, rad; 0 when it does not come new. */
  readonly loadTurnRad: number;
  readonly pivot: Point;
}

/** How squarely a sheet is laid in by hand: half a millimetre over a metre. Common practice, no source. */
const HAND_TURN_RAD = 0.0005;

/** No marks: the media never leaves the machine, so nothing comes new. One: shift. Two: turn and one scale. More: affine. */
export function registrationOf(kit: MarkKit | null, sheet: SheetSize): Registration {
  if (kit === null) return { parameters: 0, removes: [], loadTurnRad: 0, pivot: { x: 0, y: 0 } };
  const pivot = leadingPlace(kit, sheet);
  const shift = ['shiftXMm', 'shiftYMm'] as const;
  switch (kit.count) {
    case 1:
      return { parameters: 2, removes: shift, loadTurnRad: HAND_TURN_RAD, pivot };
    case 2:
      return { parameters: 4, removes: [...shift, 'turnRad', 'scaleAlong'], loadTurnRad: 0, pivot };
    case 3:
    case 4:
      return {
        parameters: 6,
        removes: [...shift, 'turnRad', 'scaleAcross', 'scaleAlong', 'leanRad'],
        loadTurnRad: 0,
        pivot,
      };
    default:
      return kit.count satisfies never;
  }
}
