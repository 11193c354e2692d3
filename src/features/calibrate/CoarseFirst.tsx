import type { AtTheEnd } from '@/core/calibration';
import { COARSE_REACH_MM } from '@/core/tolerance';
import { lengthText, type LengthUnit } from '@/core/units';

/** What to do when something was read at the end of its range: coarse first, then fine. Null when nothing was. */
export function coarseFirstWords(
  ends: readonly AtTheEnd[],
  at: 'read' | 'correct',
  unit: LengthUnit,
): string | null {
  if (ends.length === 0) return null;
  const places = [...new Set(ends.map((e) => `${e.stationId} ${e.axis}`))].slice(0, 4).join(', ');
  const cross = ends.some((e) => e.way === 'cross');
  const reach = cross
    ? `the coarse cross ends at ${lengthText(COARSE_REACH_MM, unit)}`
    : 'the row of rings ends there';
  const first = `${places}: read at the very end of the range (${reach}), so the cut may be further off.`;
  return at === 'read'
    ? `${first} Coarse first: ${cross ? 'measure the gaps round one disc with a ruler, below,' : 'read the comb there'} and correct by that; the next set is read fine.`
    : `${first} Take this as the coarse pass: carry it out, cut the next set and read that one fine. Only then is anything promised.`;
}

export function CoarseFirst({
  ends,
  at,
  unit,
}: {
  ends: readonly AtTheEnd[];
  at: 'read' | 'correct';
  unit: LengthUnit;
}) {
  const words = coarseFirstWords(ends, at, unit);
  return words && <p className="notice m-0 mb-3">{words}</p>;
}
