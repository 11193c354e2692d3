import { TERM_NAMES, type TermName } from '../fit';

import type { LoadColumns } from './rigChart';

/** Everything that was found of a setup’s loads, a column a term: what its charts are made of. */
export interface ChartRecord {
  readonly at: readonly number[];
  readonly anew: LoadColumns['anew'];
  /** What each term adds at the corner of today's work area that it moves most, mm. */
  readonly mm: Readonly<Record<TermName, readonly number[]>>;
  /** Only the shift was told. */
  readonly shiftOnly: readonly boolean[];
}

/** The loads that told a term, or all six; what was new at one left out is new at the next. */
export function columnsOf(record: ChartRecord, which: TermName | 'all'): LoadColumns {
  const shift = which === 'shiftXMm' || which === 'shiftYMm';
  const names = which === 'all' ? TERM_NAMES : [which];
  const kept: number[] = [];
  const anew: LoadColumns['anew'][number][] = [];
  let carried: LoadColumns['anew'][number] = null;
  record.at.forEach((_, i) => {
    const now = record.anew[i]!;
    carried = now === 'corrected' || carried === 'corrected' ? 'corrected' : (now ?? carried);
    if (record.shiftOnly[i] && !shift) return;
    kept.push(i);
    anew.push(carried);
    carried = null;
  });
  return {
    at: kept.map((i) => record.at[i]!),
    anew,
    terms: names.map((name) => kept.map((i) => record.mm[name][i]!)),
  };
}
