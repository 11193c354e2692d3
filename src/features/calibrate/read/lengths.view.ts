import type { Feature, KeptLength } from '@/core/readings';
import { angleFigure, fixed, lengthFigure, lengthText, type LengthUnit } from '@/core/units';
import { lengthsTold } from '@/core/readings';
import { doubts } from '@/features/forms/kit/doubts';
import { chosenFrom, length, lengthOrNone } from '@/features/forms/kit/typed';
import type { Question } from '@/features/forms/kit/useAsk';

/** The fields of a length, as typed. */
export const LENGTH_LABELS = {
  printMm: 'Printed, middle to middle',
  cutMm: 'Cut, middle to middle',
  resolutionMm: 'Read to',
} as const;

/** What is usually measured first: as proposed. */
export const noLength = (next: { from: string; to: string } | null, unit: LengthUnit) => ({
  ...{ from: next?.from ?? '', to: next?.to ?? '', printMm: '', cutMm: '' },
  resolutionMm: unit === 'mm' ? '0.5' : '1/64',
});

export type LengthTexts = ReturnType<typeof noLength>;

/** A print that was not measured is null. */
export const lengthReaders = {
  ...{ from: chosenFrom('Choose a station.'), to: chosenFrom('Choose another station.') },
  ...{ printMm: lengthOrNone, cutMm: length, resolutionMm: length },
};

/** A length has two ends. */
export const sameEnds = ({ from, to }: { readonly from: string; readonly to: string }) =>
  from === to ? { to: 'Choose another station.' } : {};

/** What to ask about a length: by the sheet it is hardly as long as that. */
export function lengthDoubts(
  stations: readonly Feature[],
  { from, to, ...mm }: Omit<KeptLength, 'resolutionMm'>,
  typed: LengthTexts,
  unit: LengthUnit,
): Question[] {
  const [a, b] = [from, to].map((id) => stations.find((s) => s.id === id));
  if (!a || !b) return [];
  const usual = { nominalMm: Math.hypot(b.x - a.x, b.y - a.y) };
  return (['printMm', 'cutMm'] as const).flatMap((name) =>
    doubts(name, typed[name], 'known length', mm[name], usual, unit),
  );
}

/** What the lengths that are kept say by themselves, and which to measure next. */
export function lengthsView(stations: readonly Feature[], kept: readonly KeptLength[], unit: LengthUnit) {
  const told = lengthsTold(stations, kept);
  return {
    says: told.answer ? saysOf(told.answer) : told.missing,
    trusts: kept.some((k) => k.printMm === null)
      ? 'Where the print was not measured it is taken to be true to size.'
      : '',
    next: told.next,
    rows: kept.map((k) => ({
      name: `${k.from} to ${k.to}`,
      print: k.printMm === null ? 'not measured' : lengthText(k.printMm, unit),
      cut: lengthText(k.cutMm, unit),
      sure: `± ${lengthFigure(k.resolutionMm / 2, unit)}`,
    })),
  };
}

type Answer = NonNullable<ReturnType<typeof lengthsTold>['answer']>;

/** “The cut is 0.14 % ± 0.03 too wide, 0.02 % ± 0.03 too short; it leans 0.02° ± 0.01 to the right.” */
function saysOf({ scaleAcross, scaleAlong, leanRad }: Answer): string {
  const size = ({ value, se }: Answer['scaleAcross'], more: string, less: string): string => {
    const off = value - 1;
    return Math.abs(off) < 1.96 * se
      ? `${more === 'wide' ? 'its width' : 'its length'} true within ${fixed(196 * se, 2)} %`
      : `${fixed(100 * Math.abs(off), 2)} % ± ${fixed(196 * se, 2)} too ${off > 0 ? more : less}`;
  };
  const lean =
    Math.abs(leanRad.value) < 1.96 * leanRad.se
      ? `no lean beyond ± ${angleFigure(1.96 * leanRad.se)}`
      : `it leans ${angleFigure(Math.abs(leanRad.value))} ± ${angleFigure(1.96 * leanRad.se)} to the ${leanRad.value > 0 ? 'right' : 'left'}`;
  return `By the lengths alone the cut is ${size(scaleAcross, 'wide', 'narrow')}, ${size(scaleAlong, 'long', 'short')}; ${lean}. Shift and turn they cannot tell.`;
}
