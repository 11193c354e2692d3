import { useState } from 'react';

import type { Usual } from '@/core/record/plausible';
import { OFFSET_AXES, type LengthUnit, type OffsetAxis } from '@/core/units';

import { coarseDoubt, type CoarseDoubt } from '../read/coarseDoubt';
import type { ShortHand } from './shortHand';

interface AxisDoubt extends CoarseDoubt {
  readonly axis: OffsetAxis;
}

/** Asks about coarse scales that are read far from all that is on record: each once. */
export function useShortDoubt(hand: ShortHand, usual: Usual, unit: LengthUnit) {
  const [asked, setAsked] = useState<readonly AxisDoubt[]>([]);
  const last = asked.at(-1);
  return {
    /** What is asked now; nothing once it is read otherwise. */
    doubt: last && hand.coarse && hand[last.axis].coarseMm === last.coarseMm ? last : null,
    /** Asks the first that was not asked yet; false where there is none. */
    asks: (): boolean => {
      const next = OFFSET_AXES.flatMap((axis): AxisDoubt[] => {
        const found = coarseDoubt(hand[axis].coarseMm, null, usual, unit);
        return found ? [{ ...found, axis }] : [];
      }).find((d) => !asked.some((a) => a.axis === d.axis && a.coarseMm === d.coarseMm));
      if (!hand.coarse || !next) return false;
      setAsked([...asked, next]);
      return true;
    },
  };
}
