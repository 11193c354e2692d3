import { lengthFigure, type LengthUnit } from '@/core/units';

/** Sheets that go through desk and wide machines, mm, the usual ones first: ISO 216 A and B, ANSI/ASME Y14.1. */
export const PAPERS = [
  { name: 'A4', widthMm: 210, heightMm: 297 },
  { name: 'A3', widthMm: 297, heightMm: 420 },
  { name: 'Letter', widthMm: 215.9, heightMm: 279.4 },
  { name: 'Tabloid', widthMm: 279.4, heightMm: 431.8 },
  { name: 'A6', widthMm: 105, heightMm: 148 },
  { name: 'A5', widthMm: 148, heightMm: 210 },
  { name: 'A2', widthMm: 420, heightMm: 594 },
  { name: 'A1', widthMm: 594, heightMm: 841 },
  { name: 'B5', widthMm: 176, heightMm: 250 },
  { name: 'B4', widthMm: 250, heightMm: 353 },
  { name: 'B3', widthMm: 353, heightMm: 500 },
  { name: 'B2', widthMm: 500, heightMm: 707 },
  { name: 'ANSI C', widthMm: 431.8, heightMm: 558.8 },
  { name: 'ANSI D', widthMm: 558.8, heightMm: 863.6 },
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
