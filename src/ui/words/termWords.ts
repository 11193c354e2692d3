import type { TermName } from '@/core/fit';
import { angleFigure, fixed, offsetText, type LengthUnit, type OffsetAxis } from '@/core/units';

/** Terms that one axis alone tells: how it is shifted and stretched along itself; null: both were read. */
export function tellsTerm(axis: OffsetAxis | null, term: TermName): boolean {
  if (axis === null) return true;
  return axis === 'across'
    ? term === 'shiftXMm' || term === 'scaleAcross'
    : term === 'shiftYMm' || term === 'scaleAlong';
}

/** What the terms of a fit are called. */
export const TERM_WORDS: Readonly<Record<TermName, string>> = {
  shiftXMm: 'shift across',
  shiftYMm: 'shift along',
  turnRad: 'turn',
  scaleAcross: 'scale across',
  scaleAlong: 'scale along',
  leanRad: 'lean',
};

/** A term's deviation in its own unit, with a word for its sign: “0.31 mm right”, “0.14 % long”. */
export function termText(term: TermName, deviation: number, unit: LengthUnit): string {
  switch (term) {
    case 'shiftXMm':
      return offsetText(deviation, 'across', unit);
    case 'shiftYMm':
      return offsetText(deviation, 'along', unit);
    case 'scaleAcross':
      return worded(`${fixed(Math.abs(deviation) * 100, 2)} %`, deviation, 'wide', 'narrow');
    case 'scaleAlong':
      return worded(`${fixed(Math.abs(deviation) * 100, 2)} %`, deviation, 'long', 'short');
    case 'turnRad':
      return worded(angleFigure(Math.abs(deviation)), deviation, 'anticlockwise', 'clockwise');
    case 'leanRad':
      return worded(angleFigure(Math.abs(deviation)), deviation, 'to the right', 'to the left');
    default:
      return term satisfies never;
  }
}

const worded = (size: string, sign: number, plus: string, minus: string): string =>
  Number.parseFloat(size) === 0 ? size : `${size} ${sign > 0 ? plus : minus}`;
