import { coverageFactor } from '../statistics/distributions';

/* Where prints of one tray and sheet size lie on their sheets: what of it repeats can be moved against. */

/** How far a print lies from where it should, mm: to the right, and further from you. */
export interface PrintShift {
  readonly dxMm: number;
  readonly dyMm: number;
}

export interface RepeatedShift extends PrintShift {
  readonly times: number;
}

/** Fewer say nothing of what repeats. */
export const LEAST_PRINTS = 3;
/** A rule read at an edge of paper scatters at least so much, mm (common practice, no source). */
const RULE_SD_MM = 0.2;
/** Less than this nobody moves a print for, mm. */
const WORTH_MM = 0.5;
/** A move is typed in tenths of a millimetre. */
const TENTH = 10;

/**
 * The shift that prints of one tray and size have in common; null while too few were measured, or what they share is less than
 * a rule tells. An axis of which nothing is sure counts as 0.
 *
 * Method   a mean that its own 95 % interval (Student’s t) keeps clear of nought, scatter no less than a rule’s.
 */
export function repeatedShift(shifts: readonly PrintShift[]): RepeatedShift | null {
  const times = shifts.length;
  if (times < LEAST_PRINTS) return null;
  const common = (of: (s: PrintShift) => number): number => {
    const mean = shifts.reduce((sum, s) => sum + of(s), 0) / times;
    const variance = shifts.reduce((sum, s) => sum + (of(s) - mean) ** 2, 0) / (times - 1);
    const sd = Math.max(RULE_SD_MM, Math.sqrt(variance));
    const sure = Math.abs(mean) > (coverageFactor(0.95, times - 1) * sd) / Math.sqrt(times);
    return sure && Math.abs(mean) >= WORTH_MM ? Math.round(TENTH * mean) / TENTH : 0;
  };
  const [dxMm, dyMm] = [common((s) => s.dxMm), common((s) => s.dyMm)];
  return dxMm === 0 && dyMm === 0 ? null : { dxMm, dyMm, times };
}
