import { toMm, type LengthUnit } from '../units';

import { TITLE_STRIP_MM } from './layout';
import type { CheckBars, ProofSheet } from './types';

/** A long bar and a short one, round in the sheet's unit: 100 and 50 mm, 4 and 2 in. */
const BARS = { mm: [100, 50], in: [4, 2] } as const satisfies Record<LengthUnit, readonly number[]>;

/** The longer bar where there is room for it. */
export function barsFor(area: ProofSheet['layoutArea'], unit: LengthUnit): CheckBars {
  const [long, short] = BARS[unit].map((length) => toMm(length, unit)) as [number, number];
  return {
    across: area.x1 - area.x0 - 34 >= long ? long : short,
    along: area.y1 - area.y0 - TITLE_STRIP_MM - 4 >= long ? long : short,
  };
}

/** How long the two check bars of a sheet are, mm; those of older sheets are in millimetres whatever their labels. */
export const barLengthsMm = ({ bars, layoutArea }: Pick<ProofSheet, 'bars' | 'layoutArea'>): CheckBars =>
  bars ?? barsFor(layoutArea, 'mm');
