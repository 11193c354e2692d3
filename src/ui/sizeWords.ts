import { lengthFigure, type LengthUnit } from '@/core/units';

/** Common sheets, mm: ISO 216 and ANSI/ASME Y14.1. */
export const PAPERS = [
  { name: 'A4', widthMm: 210, heightMm: 297 },
  { name: 'A3', widthMm: 297, heightMm: 420 },
  { name: 'Letter', widthMm: 215.9, heightMm: 279.4 },
  { name: 'Tabloid', widthMm: 279.4, heightMm: 431.8 },
] as const;

/** Sizes that are typed in inches and shown in mm come back a hair off. */
const NEAR_MM = 0.2;

/** A sheet by its name when it has one, otherwise by its width and height. */
export function sizeWords(
  { sheetWidthMm, sheetHeightMm }: { readonly sheetWidthMm: number; readonly sheetHeightMm: number },
  unit: LengthUnit,
): string {
  const paper = PAPERS.find(
    (p) => Math.abs(p.widthMm - sheetWidthMm) < NEAR_MM && Math.abs(p.heightMm - sheetHeightMm) < NEAR_MM,
  );
  if (paper) return paper.name;
  const figure = (mm: number): string =>
    unit === 'mm' ? String(Math.round(mm)) : String(Number(lengthFigure(mm, 'in')));
  return `${figure(sheetWidthMm)} × ${figure(sheetHeightMm)} ${unit}`;
}
