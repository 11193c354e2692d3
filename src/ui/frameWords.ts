import type { FileFrame, Heading } from '@/core/daily';

export const HEADING_WORDS: Readonly<Record<Heading, string>> = {
  right: 'to the right',
  further: 'further along the feed',
  left: 'to the left',
  nearer: 'nearer, towards the bob',
};

const SHORT: Readonly<Record<Heading, string>> = {
  right: 'right',
  further: 'further',
  left: 'left',
  nearer: 'nearer',
};

/** “x runs further, y left, zero at the leading mark”. */
export function frameWords({ xRuns, yRuns, zero }: FileFrame): string {
  const at = {
    corner: () => `the ${zero.at === 'corner' ? zero.corner : ''} corner`,
    mark: () => 'the leading mark',
    middle: () => 'the middle of the sheet',
    typed: () => 'a place of the sheet',
  }[zero.at]();
  return `x runs ${SHORT[xRuns]}, y ${SHORT[yRuns]}, zero at ${at}`;
}
