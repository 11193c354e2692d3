import { TERM_NAMES, type TermName } from '../fit';
import { accept, refuse, type Outcome } from '../outcome';

import {
  LEAST_LOADS,
  rigChart,
  type LoadColumns,
  type RigChart,
  type RigChartKind,
  type RigChartRefusal,
} from './rigChart';

/** Everything that was found of a setup’s loads, a column a term: what its charts are made of. */
export interface ChartRecord {
  readonly at: readonly number[];
  readonly anew: LoadColumns['anew'];
  /** What each term adds at the corner of today's work area that it moves most, mm. */
  readonly mm: Readonly<Record<TermName, readonly number[]>>;
  /** Only the shift was told. */
  readonly shiftOnly: readonly boolean[];
}

/** A chart of a record, and the loads that it is of. */
export interface RecordChart {
  readonly columns: LoadColumns;
  readonly chart: RigChart;
  /** The terms that are in it. */
  readonly terms: readonly TermName[];
}

/**
 * One chart of a record. All terms at once are those of the loads that told all six; where these are too few, both shifts
 * of every load.
 *
 * Refuses  too-few-loads, with how many there are.
 */
export function chartOfRecord(
  record: ChartRecord,
  kind: RigChartKind,
  term: TermName,
  toleranceMm: number,
): Outcome<RecordChart, RigChartRefusal & { readonly loads: number }> {
  const ways = kind === 'all-terms' ? [TERM_NAMES, SHIFTS] : [[term]];
  let loads = 0;
  for (const terms of ways) {
    const columns = columnsOf(record, terms);
    const chart = rigChart(columns, kind, 0, toleranceMm);
    if (chart.ok) return accept({ columns, chart: chart.value, terms });
    loads = columns.at.length;
  }
  return refuse({ code: 'too-few-loads', needed: LEAST_LOADS, loads });
}

const SHIFTS = ['shiftXMm', 'shiftYMm'] as const satisfies readonly TermName[];
const isShift = (term: TermName): boolean => (SHIFTS as readonly TermName[]).includes(term);

/** The loads that told all of these terms; what was new at one left out is new at the next. */
export function columnsOf(record: ChartRecord, terms: readonly TermName[]): LoadColumns {
  const shift = terms.every(isShift);
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
    terms: terms.map((name) => kept.map((i) => record.mm[name][i]!)),
  };
}

/** What there is too little of, in words. */
export function rigChartRefusalText({
  needed,
  loads,
}: {
  readonly needed: number;
  readonly loads: number;
}): string {
  return `A chart needs at least ${needed} loads with nothing new between them, to tell what is usual; ${
    loads === 0 ? 'none was read' : loads === 1 ? 'one was read' : `${loads} were read`
  } so far.`;
}
