import { format } from 'date-fns';

import { watchShift, type Watch, type WatchedLoad } from '@/core/control';
import { directionWord, lengthText, type LengthUnit, type OffsetAxis } from '@/core/units';
import type { Setup } from '@/server/setups/setup';
import type { FoundTerms } from '@/server/setups/termsOverTime';

export interface WatchedAxis {
  readonly axis: OffsetAxis;
  readonly watch: Watch | null;
}

/** The loads of a setup, across and along, with what was typed and what the file did taken out. */
export function watched(
  found: readonly FoundTerms[],
  setup: Pick<Setup, 'id' | 'settings'>,
  events: readonly { readonly at: Date }[],
): WatchedAxis[] {
  const own = found.filter((f) => f.setupId === setup.id);
  return (['across', 'along'] as const).map((axis) => ({
    axis,
    watch: watchShift(
      own.map((f, i): WatchedLoad => {
        const before = own[i - 1]?.at;
        return {
          at: f.at,
          mm: ownShift(f, setup, axis),
          afterEvent: before !== undefined && events.some((e) => e.at > before && e.at <= f.at),
        };
      }),
    ),
  }));
}

function ownShift(f: FoundTerms, { settings }: Pick<Setup, 'settings'>, axis: OffsetAxis): number {
  const across = axis === 'across';
  const typed = settings.reduce(
    (sum, s) => sum + (across ? s.effect.exMm : s.effect.eyMm) * (f.shown[s.id] ?? 0),
    0,
  );
  return (across ? f.terms.shiftXMm + f.fileMm.x : f.terms.shiftYMm + f.fileMm.y) - typed;
}

/** What the watch says, in a sentence or two. */
export function watchWords(axes: readonly WatchedAxis[], unit: LengthUnit): string {
  const gone = axes.flatMap(({ axis, watch }) => {
    if (!watch?.since) return [];
    const by = Math.abs((watch.chart.statistic as readonly number[]).at(-1)! - watch.chart.centre);
    return [
      `Its shift ${axis} has left what is usual since ${format(watch.since, 'd MMM yyyy')}: on average ${lengthText(by, unit)} ${directionWord(watch.towards, axis)} of it. Check this medium.`,
    ];
  });
  if (gone.length > 0) return gone.join(' ');
  return axes.every((a) => a.watch === null)
    ? 'Too few loads are on record since something last happened to it: four are needed to tell what is usual.'
    : 'Its loads land as they usually do.';
}
