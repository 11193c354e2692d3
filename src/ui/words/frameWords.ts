import type { Heading } from '@/core/daily';

export const HEADING_WORDS: Readonly<Record<Heading, string>> = {
  right: 'to the right',
  further: 'further along the feed',
  left: 'to the left',
  nearer: 'nearer, towards the bob',
};
