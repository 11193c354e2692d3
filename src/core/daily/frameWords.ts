import { plainLength, type LengthUnit } from '../units';

import type { SettledBy } from './correctDaily';
import type { FileFrame, Heading } from './fileFrame';

const RUNS: Readonly<Record<Heading, string>> = {
  right: 'right',
  further: 'further',
  left: 'left',
  nearer: 'nearer',
};

/** “x runs further, y left, zero at the leading mark”. */
export function frameWords({ xRuns, yRuns, zero }: FileFrame, unit: LengthUnit): string {
  const at = {
    corner: () => `the ${zero.at === 'corner' ? zero.corner : ''} corner`,
    mark: () => 'the leading mark',
    middle: () => 'the middle of the sheet',
    typed: () =>
      zero.at === 'typed'
        ? `${plainLength(zero.xMm, unit)} from the left edge and ${plainLength(zero.yMm, unit)} from the near edge`
        : '',
  }[zero.at]();
  return `x runs ${RUNS[xRuns]}, y ${RUNS[yRuns]}, zero ${zero.at === 'typed' ? '' : 'at '}${at}`;
}

/** What settled where a file lies, in a sentence. */
export const SETTLED_WORDS: Readonly<Record<SettledBy, string>> = {
  description: 'Direction: as set for this rig.',
  marks: 'The marks drawn in it say how it lies.',
  sender: 'Its own axes were taken for the sheet’s.',
};
