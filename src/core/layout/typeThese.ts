import { EXACT_FIT_GUARD_MM } from '../tolerance';
import { MM_PER_INCH, type LengthUnit } from '../units';

/** A figure to type, with how it came about. Lengths in the unit they are typed in. */
export interface TypedFigure {
  readonly name: 'page height' | 'copies' | 'mark spacing' | 'page width';
  readonly value: number;
  readonly unit: LengthUnit | null;
  readonly step: number;
  readonly exact: number;
}

/** Steps that page set-ups take. */
export const TYPING_STEPS: Readonly<Record<LengthUnit, readonly number[]>> = {
  mm: [1, 0.5, 0.1],
  in: [0.01, 0.0625, 0.125],
};

const inUnit = (mm: number, unit: LengthUnit): number => (unit === 'in' ? mm / MM_PER_INCH : mm);

/** Up to the next step; a figure that lies on one stays. */
export function roundUp(value: number, step: number): number {
  return Math.ceil(value / step - EXACT_FIT_GUARD_MM) * step;
}

/** Down to the step below; a figure that lies on one stays. */
export function roundDown(value: number, step: number): number {
  return Math.floor(value / step + EXACT_FIT_GUARD_MM) * step;
}

/**
 * The figures of a section as they are typed, each rounded the safe way: a page that is too short loses the last
 * row, one that is too wide is shrunk to fit. The width comes last: it often falls back when another field changes.
 */
export function typeThese(
  section: { readonly pageHeightMm: number; readonly copies: number },
  printableWidthMm: number,
  markSpacingMm: number | null,
  unit: LengthUnit,
  step: number,
): TypedFigure[] {
  const height = inUnit(section.pageHeightMm, unit);
  const width = inUnit(printableWidthMm, unit);
  const spacing = markSpacingMm === null ? null : inUnit(markSpacingMm, unit);
  return [
    { name: 'page height', value: roundUp(height, step), unit, step, exact: height },
    { name: 'copies', value: section.copies, unit: null, step: 1, exact: section.copies },
    ...(spacing === null
      ? []
      : [{ name: 'mark spacing' as const, value: roundDown(spacing, step), unit, step, exact: spacing }]),
    { name: 'page width', value: roundDown(width, step), unit, step, exact: width },
  ];
}
