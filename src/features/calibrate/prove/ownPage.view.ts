import { atPageEnd } from '@/core/setup';
import type { OwnPage } from '@/server/setups/ownPage';

/** What to mind of a run of the machine's own page before it is proved. */
export function ownPageNotes(run: OwnPage, media: string): string[] {
  const ends = atPageEnd(run);
  return [
    ...(ends.length > 0
      ? [
          `The pick ${ends.map((a) => (a === 'across' ? 'across' : 'along the feed')).join(' and ')} is at the end of the range: run the machine’s page once more before this set is cut.`,
        ]
      : []),
    ...(run.medium.trim().toLowerCase() === media.trim().toLowerCase()
      ? []
      : [
          `The machine’s page was printed on ${run.medium}; the proof counts on ${media}, which is what is cut.`,
        ]),
  ];
}
