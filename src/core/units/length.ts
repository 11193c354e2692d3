import { accept, refuse, type Outcome } from '../outcome';

export type LengthUnit = 'mm' | 'in';

/** 1 in = 25.4 mm exactly (NIST SP 811, appendix B). */
export const MM_PER_INCH = 25.4;

export const mmPerUnit = (unit: LengthUnit): number => (unit === 'in' ? MM_PER_INCH : 1);

export const toMm = (value: number, unit: LengthUnit): number => value * mmPerUnit(unit);

export const fromMm = (valueMm: number, unit: LengthUnit): number => valueMm / mmPerUnit(unit);

export type LengthRefusal =
  | { readonly code: 'empty' }
  | { readonly code: 'not-a-length'; readonly typed: string }
  | { readonly code: 'ambiguous-comma'; readonly typed: string }
  | { readonly code: 'zero-denominator'; readonly typed: string }
  /** A fraction where millimetres are typed: of an inch, or of a millimetre? */
  | { readonly code: 'unit-in-doubt'; readonly typed: string; readonly plain: number }
  /** Another unit of length, and what it comes to. */
  | { readonly code: 'other-unit'; readonly typed: string; readonly mm: number };

const DECIMAL = '(?:\\d+(?:\\.\\d*)?|\\.\\d+)';
const PATTERN = new RegExp(
  `^([+-])?\\s*(?:(\\d+)(?:\\s+|-))?(?:(\\d+)\\s*/\\s*(\\d+)|(${DECIMAL}))\\s*(mm|millimetres?|millimeters?|in|inch|inches|")?$`,
  'i',
);

/** Units that nobody here types, mm each. */
const OTHER_UNITS: Readonly<Record<string, number>> = { cm: 10, m: 1000, ft: 304.8, "'": 304.8 };
const OTHER = new RegExp(`^(${DECIMAL})\\s*(cm|m|ft|')$`, 'i');

/**
 * Reads a length as people type it: `1.25`, `1,25`, `-0.2 mm`, `1/16`, `1 1/16 in`, `2-3/8"`.
 *
 * Units    a number without a unit is in `defaultUnit`; the result is in mm.
 * Refuses  empty, not-a-length, ambiguous-comma (`1,234` may be a thousand), zero-denominator, unit-in-doubt (a
 *          fraction without a unit among millimetres), other-unit (`21 cm`).
 */
export function parseLength(typed: string, defaultUnit: LengthUnit): Outcome<number, LengthRefusal> {
  const plain = typed
    .trim()
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[\u2033\u201d]/g, '"');
  if (plain === '') return refuse({ code: 'empty' });
  if (/\d,\d{3}(?!\d)/.test(plain)) return refuse({ code: 'ambiguous-comma', typed });
  const other = OTHER.exec(plain.replace(',', '.'));
  if (other)
    return refuse({
      code: 'other-unit',
      typed,
      mm: Number(other[1]) * OTHER_UNITS[other[2]!.toLowerCase()]!,
    });
  const match = PATTERN.exec(plain.replace(',', '.'));
  if (!match) return refuse({ code: 'not-a-length', typed });
  const [, sign, whole, numerator, denominator, decimal, suffix] = match;
  if (whole !== undefined && decimal !== undefined) return refuse({ code: 'not-a-length', typed });
  if (denominator !== undefined && Number(denominator) === 0)
    return refuse({ code: 'zero-denominator', typed });
  const fraction = denominator === undefined ? Number(decimal) : Number(numerator) / Number(denominator);
  const size = Number(whole ?? 0) + fraction;
  if (denominator !== undefined && suffix === undefined && defaultUnit === 'mm')
    return refuse({ code: 'unit-in-doubt', typed: typed.trim(), plain: sign === '-' ? -size : size });
  const unit = suffix === undefined ? defaultUnit : suffix.toLowerCase().startsWith('m') ? 'mm' : 'in';
  const valueMm = (sign === '-' ? -size : size) * mmPerUnit(unit);
  return Number.isFinite(valueMm) ? accept(valueMm) : refuse({ code: 'not-a-length', typed });
}

/** What is wrong with a typed length and what would be right, in one sentence. */
export function lengthRefusalText(refusal: LengthRefusal, unit: LengthUnit): string {
  const example = unit === 'mm' ? '“12.5” or “1/2 in”' : '“1/2”, “0.5” or “12.7 mm”';
  switch (refusal.code) {
    case 'empty':
      return `Enter a length, for example ${example}.`;
    case 'not-a-length':
      return `“${refusal.typed}” is not a length. Type a number such as ${example}.`;
    case 'ambiguous-comma':
      return `“${refusal.typed}” could be a decimal or a thousand. Use a point: ${example}.`;
    case 'zero-denominator':
      return `“${refusal.typed}” divides by zero. Type a fraction such as 1/16.`;
    case 'unit-in-doubt':
      return `“${refusal.typed}” of an inch? Then type ${refusal.typed} in, for example; of a millimetre it is ${Number(refusal.plain.toFixed(4))}.`;
    case 'other-unit':
      return `“${refusal.typed}” comes to ${Number(fromMm(refusal.mm, unit).toFixed(4))} ${unit}. Type that, for example.`;
    default:
      return refusal satisfies never;
  }
}
