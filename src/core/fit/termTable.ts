import { coverageFactor } from '../statistics';
import { rectHeight, rectWidth, type Rect } from '../geometry';

import { intervalDof } from './noise';
import { TERM_NAMES, type ModelFit, type TermName } from './types';

export interface TermRow {
  readonly term: TermName;
  /** Deviation from true: mm for shifts, a fraction for scales, radians for turn and lean. */
  readonly deviation: number;
  /** Half-width of the 95 % interval, same unit. */
  readonly halfWidth95: number;
  /** Largest displacement the term causes on the work area, mm. */
  readonly atWorstMm: number;
  /** Over twice its standard error, and more than the reading noise somewhere. */
  readonly real: boolean;
}

/** Terms with their standard errors, and what those rest on. */
export type TermsTold = Pick<ModelFit, 'terms' | 'termSe' | 'noise' | 'dof'>;

/**
 * The terms with their 95 % intervals and whether each is real.
 * A term's effect is taken about the work-area centre; reading noise is the given u of a single reading.
 */
export function termTable(fit: TermsTold, workArea: Rect, readingNoiseMm: number): TermRow[] {
  const factor = coverageFactor(0.95, intervalDof(fit.noise, fit.dof));
  return TERM_NAMES.map((term) => {
    const deviation = fit.terms[term] - (term.startsWith('scale') ? 1 : 0);
    const se = fit.termSe[term];
    const atWorstMm = Math.abs(deviation) * leverMm(term, workArea);
    const real = se > 0 && Math.abs(deviation) > 2 * se && atWorstMm > readingNoiseMm;
    return { term, deviation, halfWidth95: factor * se, atWorstMm, real };
  });
}

/** Distance that turns a term into a displacement at the worst place of the work area. */
export function leverMm(term: TermName, workArea: Rect): number {
  const halfWidth = rectWidth(workArea) / 2;
  const halfHeight = rectHeight(workArea) / 2;
  switch (term) {
    case 'shiftXMm':
    case 'shiftYMm':
      return 1;
    case 'turnRad':
      return Math.hypot(halfWidth, halfHeight);
    case 'scaleAcross':
      return halfWidth;
    case 'scaleAlong':
    case 'leanRad':
      return halfHeight;
    default:
      return term satisfies never;
  }
}
