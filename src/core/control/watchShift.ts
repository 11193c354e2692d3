import { DEFAULT_LOAD_SCATTER_MM } from '../tolerance';

import { CHART_DEFAULTS, controlChart, type ControlChart } from './controlChart';

/** How far a load's cut landed from its print, along one axis, mm. */
export interface WatchedLoad {
  readonly at: Date;
  readonly mm: number;
  /**
   * What is new since the load before: its figures or its file were corrected, so that it should land true from here
   * on; or something happened to it, so that what was usual is no more.
   */
  readonly anew: 'corrected' | 'event' | null;
}

export interface Watch {
  /** The loads since it was last corrected, or since the last event while nobody has: what the chart is of. */
  readonly loads: readonly WatchedLoad[];
  /** Their running average with its limits (EWMA), for the picture. */
  readonly chart: ControlChart;
  /** Since when the loads land elsewhere; null while they land where they should. */
  readonly since: Date | null;
  /** How far from there they have landed on average since then, mm. */
  readonly byMm: number;
}

/** Loads from which it is watched: known where it should land, or not. */
const LOADS_TO_WATCH = { corrected: 2, event: 4 } as const;
/** Loads of the beginning that tell what is usual where nobody corrected it. */
export const LOADS_OF_BASELINE = 8;
/** Limits in standard deviations: two charts together, their σ told by few loads, shall not cry wolf (simulated). */
const WIDTH = 4;
/** No rig is steadier than a comb can be read; σ is never taken below. */
const LEAST_SIGMA_MM = 0.015;
/** A step beyond so many typical ones is a jump, not scatter. */
const JUMP = 4;
/**
 * What leaving jumps out takes from the mean of normal steps: with a = 4 · 0.6745 (their median),
 * (1 − e^(−a²/2)) / P(|z| < a).
 */
const KEPT_OF_MEAN = 0.9806;
/** An average miss of so little of what is allowed is nobody's concern. */
const SLACK_OF_TOLERANCE = 0.1;

/**
 * Watches where the loads of a setup land, in one direction.
 *
 * σ         from the moving ranges of all loads on record that nothing new lies between (mean range / d2, jumps left
 *           out); the class's usual scatter while there are fewer than three.
 * Corrected it should land true: two-sided tabular CUSUM about 0 (NIST/SEMATECH e-Handbook, 6.3.2.3), h 5 σ, slack ½ σ
 *           or a tenth of what is allowed. It creeps since the sum last left nothing.
 * Else      an average (EWMA, 6.3.2.4) about its first eight loads, limits widened by the doubt of those.
 * Returns   null with too few loads.
 */
export function watchShift(loads: readonly WatchedLoad[], toleranceMm: number): Watch | null {
  const corrected = loads.findLastIndex((l) => l.anew === 'corrected');
  const from =
    corrected >= 0
      ? corrected
      : Math.max(
          0,
          loads.findLastIndex((l) => l.anew === 'event'),
        );
  const own = loads.slice(from);
  const told = corrected >= 0;
  const usual = usualSigma(loads);
  const sigma = usual ?? (told ? DEFAULT_LOAD_SCATTER_MM : null);
  if (own.length < LOADS_TO_WATCH[told ? 'corrected' : 'event'] || sigma === null) return null;
  const values = own.map((l) => l.mm);
  const baseline = Math.min(LOADS_OF_BASELINE, own.length);
  const { lambda } = CHART_DEFAULTS;
  const average = controlChart(values, {
    ...{ ...CHART_DEFAULTS, chart: 'ewma', sigma },
    ...(told
      ? { target: 0, width: WIDTH }
      : { baseline, width: WIDTH * Math.sqrt(1 + (2 - lambda) / (lambda * baseline)) }),
  });
  if (!average.ok) return null;
  const chart = average.value;
  const first = told ? leftZero(values, sigma, toleranceMm) : beyondSince(chart.signals, own.length);
  const since = first === null ? [] : values.slice(first);
  return {
    loads: own,
    chart,
    since: first === null ? null : own[first]!.at,
    byMm: since.reduce((sum, v) => sum + v, 0) / Math.max(1, since.length) - chart.centre,
  };
}

/** Slack of the sums in σ: half of it, or a tenth of what is allowed where that is more. */
export const slackOf = (toleranceMm: number, sigma: number): number =>
  Math.max(CHART_DEFAULTS.k, (SLACK_OF_TOLERANCE * toleranceMm) / sigma);

/** The first load of the unbroken end that signals; null when the last does not. */
function beyondSince(signals: readonly number[], count: number): number | null {
  let first = count;
  while (first > 0 && signals.includes(first - 1)) first -= 1;
  return first < count ? first : null;
}

/** Where the sum that is beyond its limit now last left nothing; null when none is. */
function leftZero(values: readonly number[], sigma: number, toleranceMm: number): number | null {
  const k = slackOf(toleranceMm, sigma);
  const chart = controlChart(values, { ...CHART_DEFAULTS, chart: 'cusum', target: 0, sigma, k });
  if (!chart.ok || !chart.value.signals.includes(values.length - 1)) return null;
  const { high, low } = chart.value.statistic as Record<'high' | 'low', readonly number[]>;
  const sums = high.at(-1)! >= low.at(-1)! ? high : low;
  return sums.findLastIndex((s) => s === 0) + 1;
}

/** Scatter of a load, from the steps between loads that nothing new lies between; null while there are fewer than three. */
export function usualSigma(loads: readonly Pick<WatchedLoad, 'mm' | 'anew'>[]): number | null {
  const steps = loads.flatMap((l, i) =>
    i === 0 || l.anew !== null ? [] : [Math.abs(l.mm - loads[i - 1]!.mm)],
  );
  if (steps.length < 3) return null;
  const typical = [...steps].sort((a, b) => a - b)[Math.floor(steps.length / 2)]!;
  const quiet = steps.filter((s) => s <= Math.max(JUMP * typical, LEAST_SIGMA_MM));
  const mean = quiet.reduce((sum, s) => sum + s, 0) / quiet.length;
  return Math.max(LEAST_SIGMA_MM, mean / KEPT_OF_MEAN / (2 / Math.sqrt(Math.PI)));
}
