import type { Finding } from '@/core/artwork/checks';
import { lengthText, type LengthUnit } from '@/core/units';

import { anew, type Laid } from './DraftWork';

/** What one press would do about a finding. */
export interface Mend {
  readonly words: string;
  readonly laid: Laid;
}

/** Lines lie this far apart for good measure, in multiples of the least. */
const CLEARLY = 2;
const tenthUp = (mm: number): number => Math.ceil(10 * mm - 1e-9) / 10;

/** What neighbours do to each other: moved back, or further apart, they do not. */
const NEIGHBOURS: readonly Finding['code'][] = ['too-near', 'doubled-line', 'lines-cross', 'pieces-overlap'];

/** The mend of a finding, where one press does it; null where somebody has to look. */
export function mendOf(
  code: Finding['code'],
  laid: Laid,
  { neededMm, nearestMm }: { readonly neededMm: number | null; readonly nearestMm: number },
  unit: LengthUnit,
): Mend | null {
  const pieces = (change: (p: Laid['pieces'][number]) => Laid['pieces'][number]): Laid =>
    anew(laid, { pieces: laid.pieces.map((p) => (p.copies === 0 ? p : change(p))) });
  if (code === 'bleed-too-small' && neededMm !== null) {
    const bleedMm = tenthUp(neededMm);
    return {
      words: `Bleed of ${lengthText(bleedMm, unit)}`,
      laid: pieces((p) => (p.bleedMm > 0 && p.bleedMm < neededMm ? { ...p, bleedMm } : p)),
    };
  }
  if (!NEIGHBOURS.includes(code)) return null;
  if (laid.layout.nudged?.length) return { words: 'Put what was moved back', laid: anew(laid) };
  if (laid.layout.gapMm < nearestMm) {
    const gapMm = CLEARLY * nearestMm;
    return {
      words: `Gap of ${lengthText(gapMm, unit)}`,
      laid: anew(laid, { layout: { ...laid.layout, gapMm } }),
    };
  }
  if (laid.pieces.some((p) => p.copies !== 0 && p.second && p.second.byMm < nearestMm)) {
    const byMm = CLEARLY * nearestMm;
    return {
      words: `Second line ${lengthText(byMm, unit)} outside`,
      laid: pieces((p) =>
        p.second && p.second.byMm < nearestMm ? { ...p, second: { ...p.second, byMm } } : p,
      ),
    };
  }
  return null;
}
