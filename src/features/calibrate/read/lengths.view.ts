import type { Feature, KeptLength } from '@/core/readings';
import {
  angleFigure,
  fixed,
  lengthFigure,
  lengthRefusalText,
  lengthText,
  parseLength,
  type LengthUnit,
} from '@/core/units';
import { lengthsTold } from '@/core/readings';

/** The fields of a length, as typed. */
export const LENGTH_FIELDS = ['print', 'cut', 'resolution'] as const;
export type LengthField = (typeof LENGTH_FIELDS)[number];
export interface LengthTexts extends Readonly<Record<LengthField, string>> {
  readonly from: string;
  readonly to: string;
}

export const LENGTH_LABELS: Readonly<Record<LengthField, string>> = {
  print: 'Printed, middle to middle',
  cut: 'Cut, middle to middle',
  resolution: 'Read to',
};

/** What is usually measured first: as proposed. */
export const noLength = (next: { from: string; to: string } | null, unit: LengthUnit): LengthTexts => ({
  ...{ from: next?.from ?? '', to: next?.to ?? '', print: '', cut: '' },
  resolution: unit === 'mm' ? '0.5' : '1/64',
});

/** What was typed, mm, or what is wrong with it by field; a print that was not measured is null. */
export function readLengthTexts(texts: LengthTexts, unit: LengthUnit) {
  const errors: Partial<Record<LengthField | 'from' | 'to', string>> = {};
  const mm = {} as Record<LengthField, number | null>;
  for (const field of LENGTH_FIELDS) {
    mm[field] = null;
    if (field === 'print' && texts.print.trim() === '') continue;
    const read = parseLength(texts[field], unit);
    if (read.ok) mm[field] = read.value;
    else errors[field] = lengthRefusalText(read.refusal, unit);
  }
  if (texts.from === '') errors.from = 'Choose a station.';
  if (texts.to === '' || texts.to === texts.from) errors.to = 'Choose another station.';
  if (Object.keys(errors).length > 0) return { ok: false, errors } as const;
  return {
    ok: true,
    value: {
      ...{ from: texts.from, to: texts.to },
      ...{ printMm: mm.print, cutMm: mm.cut!, resolutionMm: mm.resolution! },
    },
  } as const;
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
