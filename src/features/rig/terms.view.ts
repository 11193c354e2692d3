import { leverMm, TERM_NAMES, type TermName, type Terms } from '@/core/fit';
import type { Rect } from '@/core/geometry';
import { signedLengthFigure, type LengthUnit } from '@/core/units';
import type { FoundTerms } from '@/server/watch/foundTerms';
import { termText, TERM_WORDS } from '@/ui/words/termWords';

/** One medium’s line in one term: pieces between which something was typed. */
export interface TermLine {
  readonly setupId: string;
  readonly pieces: readonly (readonly TermPoint[])[];
}

export interface TermPoint {
  readonly at: Date;
  /** What the term adds at the worst corner of the work area, mm, with its own sign. */
  readonly mm: number;
}

export interface TermBand {
  readonly term: TermName;
  readonly words: string;
  readonly lines: readonly TermLine[];
  /** Of the chosen medium, as found last: at the corner, and in its own unit with its direction. */
  readonly last: { readonly figure: string; readonly words: string } | null;
}

/** What the terms of a rig’s media did over time, on one scale. */
export function termBands(found: readonly FoundTerms[], chosen: string, unit: LengthUnit): TermBand[] {
  const ids = [...new Set(found.map((f) => f.setupId))];
  return TERM_NAMES.map((term) => {
    const told = found.filter((f) => !f.shiftOnly || term.startsWith('shift'));
    const last = told.findLast((f) => f.setupId === chosen);
    return {
      term,
      words: TERM_WORDS[term],
      lines: ids.map((setupId) => ({
        setupId,
        pieces: pieces(
          told.filter((f) => f.setupId === setupId),
          term,
        ),
      })),
      last: last
        ? {
            figure: signedLengthFigure(atCorner(term, last.terms, last.workArea), unit),
            words: termText(term, deviation(term, last.terms), unit),
          }
        : null,
    };
  });
}

/** A line breaks where something was typed: what is after it is another machine. */
function pieces(list: readonly FoundTerms[], term: TermName): TermPoint[][] {
  const all: TermPoint[][] = [];
  for (const f of list) {
    if (f.typedBefore || all.length === 0) all.push([]);
    all.at(-1)!.push({ at: f.at, mm: atCorner(term, f.terms, f.workArea) });
  }
  return all;
}

const deviation = (term: TermName, terms: Terms): number =>
  term.startsWith('scale') ? terms[term] - 1 : terms[term];

/** How far a term alone moves the corner that it moves most, mm; the terms are about the middle of the area. */
export const atCorner = (term: TermName, terms: Terms, area: Rect): number =>
  deviation(term, terms) * leverMm(term, area);
