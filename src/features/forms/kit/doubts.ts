import { plausible, type FigureKind, type Usual } from '@/core/record/plausible';
import { fieldLength, type LengthUnit } from '@/core/units';

import type { Question } from './useAsk';

/** What to ask about a figure: nothing, where it may well be meant. Lengths in mm, a feed in percent. */
export function doubts(
  field: string,
  typed: string,
  kind: FigureKind,
  value: number | null,
  usual: Usual,
  unit: LengthUnit,
): Question[] {
  if (value === null) return [];
  const judged = plausible(kind, value, usual, unit);
  if (judged.say === 'fine') return [];
  const { why, meant } = judged;
  const proposed = meant.map((v) => (kind === 'feed' ? String(v) : fieldLength(v, unit)));
  return [{ field, typed, why, proposed, unit: kind === 'feed' ? '%' : unit }];
}
