import { accept, refuse, type Outcome } from '../outcome';

/* Control charts of single values in time order: individuals with moving range, EWMA, two-sided CUSUM. */

export const CHARTS = ['individuals', 'ewma', 'cusum'] as const;
export type ChartKind = (typeof CHARTS)[number];

export interface ChartSpec {
  readonly chart: ChartKind;
  /** Where the values should be; else the mean of the baseline. */
  readonly target?: number | undefined;
  /** Standard deviation of a single value; else from the baseline's moving ranges. */
  readonly sigma?: number | undefined;
  /** How many of the first values tell what is usual; all when left out. */
  readonly baseline?: number | undefined;
  /** EWMA: weight of the newest value. */
  readonly lambda: number;
  /** Individuals and EWMA: limits at so many standard deviations. */
  readonly width: number;
  /** CUSUM: slack and limit, in standard deviations. */
  readonly k: number;
  readonly h: number;
}

export const CHART_DEFAULTS = { lambda: 0.2, width: 3, k: 0.5, h: 5 } as const;

export interface ControlChart {
  readonly centre: number;
  readonly sigma: number;
  readonly lower: readonly number[];
  readonly upper: readonly number[];
  /** What is plotted: the value, the average, or both sums (in the values' unit, never below 0; the low one against −lower). */
  readonly statistic:
    readonly number[] | { readonly high: readonly number[]; readonly low: readonly number[] };
  /** Indices from 0 whose statistic is beyond a limit. */
  readonly signals: readonly number[];
}

export type ChartRefusal =
  { readonly code: 'too-few-values'; readonly needed: number } | { readonly code: 'no-scatter' };

/** d2 of ranges of two normal values, 2/√π (by its definition; chart constants table, ASTM MNL 7, from memory). */
const D2_OF_TWO = 2 / Math.sqrt(Math.PI);

/**
 * Centre, limits, statistic and signals of a chart.
 *
 * Method   NIST/SEMATECH e-Handbook of Statistical Methods: 6.3.2.2 (individuals, σ = mean moving range / d2), 6.3.2.4
 *          (EWMA, with the exact limits: narrow at first), 6.3.2.3 (tabular CUSUM; it does not start anew after a signal).
 * Refuses  too-few-values (a scatter from fewer than two), no-scatter (all of the baseline alike, or σ not above 0).
 */
export function controlChart(
  values: readonly number[],
  spec: ChartSpec,
): Outcome<ControlChart, ChartRefusal> {
  const base = values.slice(0, spec.baseline ?? values.length);
  if (base.length < (spec.sigma === undefined ? 2 : 1))
    return refuse({ code: 'too-few-values', needed: spec.sigma === undefined ? 2 : 1 });
  const centre = spec.target ?? base.reduce((sum, v) => sum + v, 0) / base.length;
  const sigma = spec.sigma ?? meanMovingRange(base) / D2_OF_TWO;
  if (!(sigma > 0) || !Number.isFinite(centre)) return refuse({ code: 'no-scatter' });
  return accept({ centre, sigma, ...drawn(values, spec, centre, sigma) });
}

function drawn(
  values: readonly number[],
  spec: ChartSpec,
  centre: number,
  sigma: number,
): Omit<ControlChart, 'centre' | 'sigma'> {
  if (spec.chart === 'cusum') return sums(values, centre, spec.k * sigma, spec.h * sigma);
  const { lambda, width } = spec;
  const statistic = spec.chart === 'ewma' ? averages(values, centre, lambda) : values;
  const half = values.map((_, i) =>
    spec.chart === 'ewma'
      ? width * sigma * Math.sqrt((lambda / (2 - lambda)) * (1 - (1 - lambda) ** (2 * (i + 1))))
      : width * sigma,
  );
  const lower = half.map((w) => centre - w);
  const upper = half.map((w) => centre + w);
  return {
    lower,
    upper,
    statistic,
    signals: beyond(values.length, (i) => statistic[i]! > upper[i]! || statistic[i]! < lower[i]!),
  };
}

function averages(values: readonly number[], centre: number, lambda: number): number[] {
  let z = centre;
  return values.map((v) => (z = lambda * v + (1 - lambda) * z));
}

function sums(values: readonly number[], centre: number, slack: number, limit: number) {
  let [up, down] = [0, 0];
  const high = values.map((v) => (up = Math.max(0, up + v - centre - slack)));
  const low = values.map((v) => (down = Math.max(0, down + centre - slack - v)));
  return {
    lower: values.map(() => -limit),
    upper: values.map(() => limit),
    statistic: { high, low },
    signals: beyond(values.length, (i) => high[i]! > limit || low[i]! > limit),
  };
}

const meanMovingRange = (values: readonly number[]): number =>
  values.slice(1).reduce((sum, v, i) => sum + Math.abs(v - values[i]!), 0) / (values.length - 1);

const beyond = (count: number, is: (i: number) => boolean): number[] =>
  Array.from({ length: count }, (_, i) => i).filter(is);

/** What is wrong and what would be right. */
export function chartRefusalText(refusal: ChartRefusal): string {
  switch (refusal.code) {
    case 'too-few-values':
      return `A chart needs at least ${refusal.needed === 1 ? 'one value' : `${refusal.needed} values in its baseline`}, or “sigma” as well.`;
    case 'no-scatter':
      return 'The values of the baseline do not differ at all, so nothing tells what is usual: give “sigma”, above 0.';
    default:
      return refusal satisfies never;
  }
}
