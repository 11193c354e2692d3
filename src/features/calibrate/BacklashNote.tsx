import type { Backlash, BacklashTold } from '@/core/calibration';
import { OFFSET_AXES, lengthText, type LengthUnit, type OffsetAxis } from '@/core/units';

const SIDES: Readonly<
  Record<OffsetAxis, { readonly high: string; readonly low: string; readonly way: readonly [string, string] }>
> = {
  across: { high: 'the right', low: 'the left', way: ['right', 'left'] },
  along: { high: 'the far side', low: 'the near side', way: ['further along', 'further back'] },
};

/** One axis in words; null where it was not cut from both sides. */
function ofAxis(axis: OffsetAxis, told: Backlash | null, unit: LengthUnit): string | null {
  if (!told) return null;
  const { high, low, way } = SIDES[axis];
  if (!told.real)
    return `${axis}: none to be seen, less than ${lengthText(Math.abs(told.mm) + told.half95Mm, unit)}`;
  return `${axis}: what is cut coming from ${high} lands ${lengthText(Math.abs(told.mm), unit)} ± ${lengthText(told.half95Mm, unit)} ${way[told.mm > 0 ? 0 : 1]} of what is cut coming from ${low}`;
}

/** What backlash was seen, what it costs and what can be done; nothing where the sheet was cut one way. */
export function backlashWords(
  told: BacklashTold,
  unit: LengthUnit,
): { readonly words: string; readonly real: boolean } | null {
  const parts = OFFSET_AXES.flatMap((axis) => ofAxis(axis, told[axis], unit) ?? []);
  if (parts.length === 0) return null;
  const real = OFFSET_AXES.filter((axis) => told[axis]?.real);
  if (real.length === 0) return { real: false, words: `Backlash ${parts.join('; ')}.` };
  const cost = Math.max(...real.map((axis) => Math.abs(told[axis]!.mm) / 2));
  return {
    real: true,
    words: `Backlash ${parts.join('; ')}. It is no shift, so nothing is typed for it: half of it, ${lengthText(cost, unit)}, adds to every miss, and contours do not quite close. What helps: the machine’s own setting for it where it has one (its manual says); cutting every contour the same way round; a little overcut, so that ends meet; belt and rollers looked at by whoever looks after the machine.`,
  };
}

/** What was seen of backlash. */
export function BacklashNote({ note }: { note: NonNullable<ReturnType<typeof backlashWords>> }) {
  return <p className={note.real ? 'notice m-0' : 'small-print m-0'}>{note.words}</p>;
}
