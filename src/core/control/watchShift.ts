import { CHART_DEFAULTS, controlChart, type ControlChart } from './controlChart';

/** Where the cut of a load landed with what was typed and what its file did taken out: the rig's own, mm. */
export interface WatchedLoad {
  readonly at: Date;
  readonly mm: number;
  /** Something moved the rig since the load before: what was usual is no more. */
  readonly afterEvent: boolean;
}

export interface Watch {
  /** The loads since the last event: what the chart is of. */
  readonly loads: readonly WatchedLoad[];
  readonly chart: ControlChart;
  /** Since when the average has been beyond its limits without a break until now; null while it is not. */
  readonly since: Date | null;
  /** Which way it went. */
  readonly towards: 1 | -1;
}

/** Loads of a stretch from which it is watched, and those of its beginning that tell what is usual. */
const LOADS_TO_WATCH = 4;
const LOADS_OF_BASELINE = 8;
/** Limits in standard deviations: two charts together, their σ told by few loads, shall not cry wolf (simulated). */
const WIDTH = 4;
/** No rig is steadier than a comb can be read; σ is never taken below. */
const LEAST_SIGMA_MM = 0.015;
/** A step beyond so many typical ones is a jump, not scatter. */
const JUMP = 4;

/**
 * Watches the loads of a rig in one direction by an exponentially weighted average.
 *
 * Method   σ from the moving ranges of all loads on record that no event lies between (mean range / d2, jumps left out);
 *          centre from the first eight since the last event; λ 0.2, limits (NIST/SEMATECH e-Handbook,
 *          6.3.2.4) widened by the doubt of that centre and for two charts: a false signal in 200 loads at most (test).
 * Returns  null with too few loads since the last event.
 */
export function watchShift(loads: readonly WatchedLoad[]): Watch | null {
  const from = Math.max(
    0,
    loads.findLastIndex((l) => l.afterEvent),
  );
  const own = loads.slice(from);
  const sigma = usualSigma(loads);
  if (own.length < LOADS_TO_WATCH || sigma === null) return null;
  const values = own.map((l) => l.mm);
  const baseline = Math.min(LOADS_OF_BASELINE, own.length);
  const { lambda } = CHART_DEFAULTS;
  const drawn = controlChart(values, {
    ...{ ...CHART_DEFAULTS, chart: 'ewma', sigma, baseline },
    // What is usual was told by few loads: its own doubt widens the limits.
    width: WIDTH * Math.sqrt(1 + (2 - lambda) / (lambda * baseline)),
  });
  if (!drawn.ok) return null;
  const chart = drawn.value;
  let first = own.length;
  while (first > 0 && chart.signals.includes(first - 1)) first -= 1;
  const last = (chart.statistic as readonly number[]).at(-1)!;
  return {
    loads: own,
    chart,
    since: first < own.length ? own[first]!.at : null,
    towards: last >= chart.centre ? 1 : -1,
  };
}

function usualSigma(loads: readonly WatchedLoad[]): number | null {
  const steps = loads.flatMap((l, i) => (i === 0 || l.afterEvent ? [] : [Math.abs(l.mm - loads[i - 1]!.mm)]));
  if (steps.length < LOADS_TO_WATCH - 1) return null;
  const typical = [...steps].sort((a, b) => a - b)[Math.floor(steps.length / 2)]!;
  const quiet = steps.filter((s) => s <= Math.max(JUMP * typical, LEAST_SIGMA_MM));
  const mean = quiet.reduce((sum, s) => sum + s, 0) / quiet.length;
  return Math.max(LEAST_SIGMA_MM, mean / (2 / Math.sqrt(Math.PI)));
}
