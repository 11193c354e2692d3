import {
  lengthRefusalText,
  lengthText,
  offsetText,
  parseLength,
  plainLength,
  type LengthUnit,
} from '@/core/units';
import type { OtherReading } from '@/core/readings';
import { wayWords } from '@/core/readings/registry';

/** The fields of gaps round a shape, as typed. */
export const GAP_FIELDS = ['x', 'y', 'left', 'right', 'near', 'far', 'nominal', 'resolution'] as const;
export type GapField = (typeof GAP_FIELDS)[number];
export type GapTexts = Readonly<Record<GapField, string>>;

export const GAP_LABELS: Readonly<Record<GapField, string>> = {
  x: 'Shape’s middle, from the left edge',
  y: 'from the near edge',
  left: 'Gap left',
  right: 'Gap right',
  near: 'Gap near you',
  far: 'Gap far',
  nominal: 'Border as designed',
  resolution: 'Read to',
};

export const noGaps = (unit: LengthUnit): GapTexts => ({
  ...{ x: '', y: '', left: '', right: '', near: '', far: '', nominal: '' },
  resolution: unit === 'mm' ? '0.5' : '1/64',
});

const MAY_BE_EMPTY: readonly GapField[] = ['left', 'right', 'near', 'far', 'nominal'];

/** What a shape of the sheet's own knows by itself: where it is, and its borders. */
const KNOWN_OF_OWN: readonly GapField[] = ['x', 'y', 'nominal'];

/** The fields that are asked for: of a shape of the sheet's own, and of any other. */
export const gapFields = (own: boolean): readonly GapField[] =>
  own ? GAP_FIELDS.filter((f) => !KNOWN_OF_OWN.includes(f)) : GAP_FIELDS;

/** What was typed as lengths in mm, or what is wrong with it by field; a side that was not measured is null. */
export function readGapTexts(texts: GapTexts, unit: LengthUnit, own = false) {
  const errors: Partial<Record<GapField, string>> = {};
  const mm = {} as Record<GapField, number | null>;
  for (const field of gapFields(own)) {
    mm[field] = null;
    if (texts[field].trim() === '' && MAY_BE_EMPTY.includes(field)) continue;
    const read = parseLength(texts[field], unit);
    if (read.ok) mm[field] = read.value;
    else errors[field] = lengthRefusalText(read.refusal, unit);
  }
  const none = (...fields: GapField[]): boolean => fields.every((f) => mm[f] === null && !errors[f]);
  if (none('left', 'right', 'near', 'far')) errors.left = 'Measure at least one side.';
  const alone = (a: GapField, b: GapField): boolean => (mm[a] === null) !== (mm[b] === null);
  // Both sides of an axis tell the offset whatever the border; one alone goes by it.
  if (!own && none('nominal') && (alone('left', 'right') || alone('near', 'far')))
    errors.nominal = 'With one side of two, say how wide the border should be; 0 counts.';
  if (Object.keys(errors).length > 0) return { ok: false, errors } as const;
  const { x, y, left, right, near, far, nominal, resolution } = mm;
  const value = {
    ...{ x: x!, y: y!, resolutionMm: resolution!, ...(nominal === null ? {} : { nominalMm: nominal }) },
    gaps: { left, right, near, far },
  };
  return { ok: true, value } as const;
}

/** One place that was read another way, as a row. */
export interface OtherRow {
  readonly id: string;
  readonly how: string;
  readonly where: string;
  readonly says: string;
  readonly sure: string;
  readonly axes: readonly OtherReading['axis'][];
}

function liesWords({ offsetMm, axis }: OtherReading, unit: LengthUnit): string {
  const words = offsetText(offsetMm, axis, unit);
  return Number.parseFloat(words) === 0 ? `on the print ${axis}` : words;
}

/** Nothing is sure to nothing: below the last place that is shown, so much is said. */
function sureTo(uMm: number, unit: LengthUnit): string {
  const words = lengthText(uMm, unit);
  return Number.parseFloat(words) === 0
    ? `better than ${unit === 'mm' ? '0.01 mm' : '0.001 in'}`
    : `± ${words}`;
}

/** What was read another way, a row for each place. */
export function otherRows(list: readonly OtherReading[], unit: LengthUnit): OtherRow[] {
  const ids = [...new Set(list.map((r) => r.stationId))];
  return ids.map((id) => {
    const of = list.filter((r) => r.stationId === id);
    const [first] = of as [OtherReading, ...OtherReading[]];
    return {
      id,
      how: wayWords(first.pick),
      where: `${plainLength(first.xMm, unit)} from the left, ${plainLength(first.yMm, unit)} from the near edge`,
      says: of.map((r) => liesWords(r, unit)).join(', '),
      sure: sureTo(Math.max(...of.map((r) => r.uMm)), unit),
      axes: of.map((r) => r.axis),
    };
  });
}
