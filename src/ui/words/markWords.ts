import type { LaidBy, MarkKit } from '@/core/marks';
import { plainLength, type LengthUnit } from '@/core/units';

const WHO: Readonly<Record<Exclude<LaidBy, 'us'>, string>> = {
  machine: 'The machine’s own driver',
  program: 'The program that prints',
};

/** Where whoever lays the marks has to place our page, so that they stand where the cutter expects them; null when we do. */
export function laidElsewhere(marks: MarkKit | null, unit: LengthUnit): string | null {
  const by = marks?.laidBy ?? 'us';
  if (marks === null || by === 'us') return null;
  return `${WHO[by]} lays the marks: our print carries none and keeps their places free. Place this page there at 100 %, so that the middle of the near left mark comes ${plainLength(marks.insetLeftMm, unit)} right of and ${plainLength(marks.insetNearMm, unit)} further than the page’s near left corner.`;
}
