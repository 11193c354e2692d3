import type { Usual } from '@/core/record/plausible';
import type { CheckWay } from '@/core/setup';
import type { LengthUnit } from '@/core/units';
import { doubts } from '@/features/forms/kit/doubts';
import type { Question } from '@/features/forms/kit/useAsk';

import type { CheckOffsets, TypedCheck } from './checkReading';

/** What to ask about a check: of gaps, whose difference counts, nothing can be proposed. */
export function checkDoubts(
  typed: TypedCheck,
  { dxMm, dyMm }: CheckOffsets,
  way: CheckWay,
  usual: Usual,
  unit: LengthUnit,
): Question[] {
  if (way !== 'gaps')
    return [
      ...doubts('along', typed.along, 'offset', size(dyMm), usual, unit),
      ...doubts('across', typed.across, 'offset', size(dxMm), usual, unit),
    ];
  return [
    ...doubts('far', typed.far, 'offset', dyMm, usual, unit),
    ...doubts('rightGap', typed.rightGap, 'offset', dxMm, usual, unit),
  ].map((question) => ({ ...question, proposed: [] }));
}

/** Which way is said by a button. */
const size = (mm: number | null): number | null => mm && Math.abs(mm);
