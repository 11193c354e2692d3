import { lengthFigure, type LengthUnit } from '@/core/units';

/** Sheets that go through desk and wide machines, mm, the usual ones first: ISO 216 A and B, ANSI/ASME Y14.1. */
export const PAPERS = (
  [
    ['A4', 210, 297],
    ['A3', 297, 420],
    ['Letter', 215.9, 279.4],
    ['Tabloid', 279.4, 431.8],
    ['A6', 105, 148],
    ['A5', 148, 210],
    ['A2', 420, 594],
    ['A1', 594, 841],
    ['B5', 176, 250],
    ['B4', 250, 353],
    ['B3', 353, 500],
    ['B2', 500, 707],
    ['ANSI C', 431.8, 558.8],
    ['ANSI D', 558.8, 863.6],
  ] as const
).map(([name, widthMm, heightMm]) => ({ name, widthMm, heightMm }));

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
