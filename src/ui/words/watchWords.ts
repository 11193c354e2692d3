import type { WatchedAxis } from '@/core/control';
import { offsetText, type LengthUnit } from '@/core/units';
import { dateText } from '@/clock/dates';

/** “0.12 mm further along”, since when: of each axis whose loads land elsewhere. */
export const signalsOf = (
  axes: readonly WatchedAxis[],
  unit: LengthUnit,
): { readonly axis: WatchedAxis['axis']; readonly since: Date; readonly by: string }[] =>
  axes.flatMap(({ axis, watch }) =>
    watch?.since ? [{ axis, since: watch.since, by: offsetText(watch.byMm, axis, unit) }] : [],
  );

/** What the watch says, in a sentence or two. */
export function watchWords(axes: readonly WatchedAxis[], unit: LengthUnit): string {
  const gone = signalsOf(axes, unit).map(
    ({ since, by }) =>
      `Since ${dateText(since, 'd MMM yyyy')} its loads have landed ${by} on average. Calibrate this medium.`,
  );
  if (gone.length > 0) return gone.join(' ');
  return axes.every((a) => a.watch === null)
    ? 'Too few loads are on record to watch it: two since it was corrected, or four since something happened to it.'
    : 'Its loads land where they should.';
}
