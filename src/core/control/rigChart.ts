import { accept, refuse, type Outcome } from '../outcome';

import { CHART_DEFAULTS, controlChart } from './controlChart';
import { LOADS_OF_BASELINE, slackOf, usualSigma, type WatchedLoad } from './watchShift';

/* The charts of a rig’s record: every load of a medium, stretch by stretch. */

export const RIG_CHARTS = ['loads', 'averages', 'sums', 'all-terms'] as const;
export type RigChartKind = (typeof RIG_CHARTS)[number];

/** The loads of one medium in time order, in columns: a long record is read as one piece. */
export interface LoadColumns {
  /** Milliseconds since 1970. */
  readonly at: readonly number[];
  /** What is new since the load before. */
  readonly anew: readonly WatchedLoad['anew'][];
  /** What each term adds at the corner that it moves most, mm; a column a term. */
  readonly terms: readonly (readonly number[])[];
}

/** A chart in columns; every column as long as the record. */
export interface RigChart {
  readonly kind: RigChartKind;
  /** What is drawn as dots: the loads themselves, mm; for all terms at once nothing. */
  readonly value: readonly number[] | null;
  /** What is held against the limits: the loads, averages, sums (high above, low below nothing), or T². */
  readonly statistic: readonly number[];
  /** Sums only: the one that grows when loads land too low, at or below nothing. */
  readonly below: readonly number[] | null;
  readonly centre: readonly number[];
  /** Null where a stretch is too short to tell. */
  readonly lower: readonly (number | null)[];
  readonly upper: readonly (number | null)[];
  /** Loads only: step from the load before, mm; null where something new lies between. */
  readonly range: readonly (number | null)[] | null;
  readonly rangeLimit: number | null;
  /** Whether this load is beyond a limit. */
  readonly signal: readonly boolean[];
  /** Scatter of a load by term, mm. */
  readonly sigma: readonly number[];
}

export type RigChartRefusal = { readonly code: 'too-few-loads'; readonly needed: number };

/**
 * Limits at which a steady rig, watched in so many terms, signals falsely once in about 200 loads (found by simulation,
 * which `rigChart.test.ts` does anew): one term alone 200, one of six 1200. The combined ones: T² of the averages
 * (Lowry, Woodall, Champ & Rigdon 1992) at λ 0.2, as tabled by Prabhu & Runger 1997 for 2 and 6 terms (memory).
 */
export const RARE = {
  /** Loads and their steps share one chart. */
  loads: 3.5,
  /** Of a step, in σ: √2 times that of a load. */
  range: 3.5 * Math.SQRT2,
  averages: 3.25,
  sums: 5.95,
  allTerms: { 2: 9.65, 6: 17.51 },
} as const;

/** Loads from which the scatter of loads is told (three steps). */
export const LEAST_LOADS = 4;
/** Loads of a stretch that nobody corrected, from which it has limits. */
const LEAST_OF_STRETCH = 4;

interface Stretch {
  readonly from: number;
  readonly to: number;
  /** Corrected at its start: its loads should land true. */
  readonly corrected: boolean;
}

function stretchesOf(anew: LoadColumns['anew']): Stretch[] {
  const starts = anew.flatMap((a, i) => (i === 0 || a !== null ? [i] : []));
  return starts.map((from, k) => ({
    from,
    to: starts[k + 1] ?? anew.length,
    corrected: anew[from] === 'corrected',
  }));
}

/**
 * One chart over a whole record. It begins anew where something was corrected (loads should land true from there on) and
 * where something happened to the rig (its first eight loads tell what is usual, the limits widened by their doubt).
 *
 * σ        one for the record: moving ranges within stretches, jumps left out (`usualSigma`).
 * loads    individuals and moving range (NIST/SEMATECH e-Handbook, 6.3.2.2); averages: EWMA with exact limits (6.3.2.4);
 *          sums: two-sided tabular CUSUM (6.3.2.3), slack as the watch has it; it starts anew with its stretch.
 * all-terms  T² of the terms' averages, each term in its own σ, taken as independent about the middle of the work area.
 * @param term   index of the column that is charted; all-terms takes every column
 * Refuses  too-few-loads.
 */
export function rigChart(
  loads: LoadColumns,
  kind: RigChartKind,
  term: number,
  toleranceMm: number,
): Outcome<RigChart, RigChartRefusal> {
  const columns = kind === 'all-terms' ? loads.terms : [loads.terms[term]!];
  const sigma = columns.map((mm) => usualSigma(mm.map((v, i) => ({ mm: v, anew: loads.anew[i]! }))));
  if (loads.at.length < LEAST_LOADS || sigma.some((s) => s === null))
    return refuse({ code: 'too-few-loads', needed: LEAST_LOADS });
  const sigmas = sigma.map((s) => s!);
  const chart = emptyChart(kind, columns[0]!, loads.at.length, sigmas);
  for (const stretch of stretchesOf(loads.anew)) {
    if (kind === 'all-terms') drawAllTerms(chart, columns, sigmas, stretch);
    else drawTerm(chart, columns[0]!.slice(stretch.from, stretch.to), sigmas[0]!, stretch, toleranceMm);
  }
  return accept(chart);
}

type Drawn = { -readonly [K in keyof RigChart]: RigChart[K] } & {
  statistic: number[];
  centre: number[];
  lower: (number | null)[];
  upper: (number | null)[];
  signal: boolean[];
};

function emptyChart(kind: RigChartKind, value: readonly number[], count: number, sigma: number[]): Drawn {
  return {
    kind,
    value: kind === 'all-terms' ? null : value,
    statistic: new Array<number>(count).fill(0),
    below: kind === 'sums' ? new Array<number>(count).fill(0) : null,
    centre: new Array<number>(count).fill(0),
    lower: new Array<number | null>(count).fill(null),
    upper: new Array<number | null>(count).fill(null),
    range: kind === 'loads' ? new Array<number | null>(count).fill(null) : null,
    rangeLimit: kind === 'loads' ? RARE.range * sigma[0]! : null,
    signal: new Array<boolean>(count).fill(false),
    sigma,
  };
}

/** Where loads of a stretch should land, and how much wider its limits are for not knowing that. */
function centreOf(own: readonly number[], corrected: boolean) {
  if (corrected) return { centre: 0, doubt: () => 1, told: true };
  const base = own.slice(0, LOADS_OF_BASELINE);
  return {
    centre: base.reduce((sum, v) => sum + v, 0) / base.length,
    /** @param loadsAveraged  of how many loads the statistic is worth the mean */
    doubt: (loadsAveraged: number) => Math.sqrt(1 + loadsAveraged / base.length),
    told: own.length >= LEAST_OF_STRETCH,
  };
}

/** An average of weight λ is worth the mean of so many loads. */
const AVERAGED = (2 - CHART_DEFAULTS.lambda) / CHART_DEFAULTS.lambda;

function drawTerm(
  chart: Drawn,
  own: readonly number[],
  sigma: number,
  { from, corrected }: Stretch,
  toleranceMm: number,
): void {
  const { centre, doubt, told } = centreOf(own, corrected);
  const drawn = controlChart(own, {
    ...{ ...CHART_DEFAULTS, target: centre, sigma },
    ...(chart.kind === 'sums'
      ? { chart: 'cusum', h: RARE.sums * doubt(1), k: slackOf(toleranceMm, sigma) }
      : chart.kind === 'averages'
        ? { chart: 'ewma', width: RARE.averages * doubt(AVERAGED) }
        : { chart: 'individuals', width: RARE.loads * doubt(1) }),
  });
  if (!drawn.ok) return;
  const { statistic, lower, upper, signals } = drawn.value;
  const sums = 'high' in statistic ? statistic : null;
  own.forEach((value, i) => {
    const at = from + i;
    chart.centre[at] = sums ? 0 : centre;
    chart.statistic[at] = sums ? sums.high[i]! : (statistic as readonly number[])[i]!;
    if (sums) (chart.below as number[])[at] = -sums.low[i]!;
    if (told) {
      chart.lower[at] = lower[i]!;
      chart.upper[at] = upper[i]!;
    }
    if (chart.range && i > 0) {
      const step = Math.abs(value - own[i - 1]!);
      (chart.range as (number | null)[])[at] = step;
      chart.signal[at] = step > chart.rangeLimit!;
    }
  });
  if (told) for (const i of signals) chart.signal[from + i] = true;
}

function drawAllTerms(
  chart: Drawn,
  columns: readonly (readonly number[])[],
  sigmas: readonly number[],
  { from, to, corrected }: Stretch,
): void {
  const { lambda } = CHART_DEFAULTS;
  const limit = RARE.allTerms[columns.length === 2 ? 2 : 6];
  const ways = columns.map((column) => centreOf(column.slice(from, to), corrected));
  const z = columns.map(() => 0);
  let kept = 1;
  for (let at = from; at < to; at += 1) {
    kept *= (1 - lambda) ** 2;
    const variance = (lambda / (2 - lambda)) * (1 - kept);
    let sum = 0;
    columns.forEach((column, t) => {
      z[t] = lambda * ((column[at]! - ways[t]!.centre) / sigmas[t]!) + (1 - lambda) * z[t]!;
      sum += z[t] ** 2;
    });
    chart.statistic[at] = sum / variance;
    if (!ways[0]!.told) continue;
    chart.lower[at] = 0;
    chart.upper[at] = limit * ways[0]!.doubt(AVERAGED) ** 2;
    chart.signal[at] = chart.statistic[at]! > chart.upper[at]!;
  }
}
