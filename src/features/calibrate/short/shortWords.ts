import type { Assessment } from '@/core/calibration';
import { STATE_WORDS } from '@/core/verdict';

/** “Plumb in the middle”: what two picks can say, and no more. */
export function middleWords({ middle, state, r95Mm }: Assessment, toleranceMm: number): string {
  if (!middle) return STATE_WORDS[state!];
  if (r95Mm <= toleranceMm && state === 'plumb') return STATE_WORDS.plumb;
  return middle.nextLoadsMm <= toleranceMm ? 'Plumb in the middle' : 'Out in the middle';
}
