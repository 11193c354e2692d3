import { normalDeviate, seededRandom } from '../random/random';

import { CHART_DEFAULTS, controlChart, type ChartSpec, type ControlChart } from '.';

const chartOf = (values: readonly number[], spec: Partial<ChartSpec>): ControlChart => {
  const chart = controlChart(values, { chart: 'individuals', ...CHART_DEFAULTS, ...spec });
  if (!chart.ok) throw new Error(chart.refusal.code);
  return chart.value;
};

// NIST/SEMATECH e-Handbook of Statistical Methods, 6.3.2.4 (from memory): target 50, s 2.0539, λ 0.3.
const NIST = [
  52.0, 47.0, 53.0, 49.3, 50.1, 47.0, 51.0, 50.1, 51.2, 50.5, 49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4,
  53.6, 52.1,
];

test('the handbook’s EWMA example: exact limits that open to the asymptotic ones', () => {
  const chart = chartOf(NIST, { chart: 'ewma', target: 50, sigma: 2.0539, lambda: 0.3 });
  expect(chart.upper[0]).toBeCloseTo(51.8485, 4);
  expect(chart.upper.at(-1)).toBeCloseTo(52.5884, 3);
  expect(chart.lower.at(-1)).toBeCloseTo(47.4115, 3);
  expect((chart.statistic as number[]).at(-1)).toBeCloseTo(51.99, 2);
  expect(chart.signals).toEqual([]);
});

test('individuals: σ from the moving range by d2 = 1.12838 (chart constants), limits at 3 σ', () => {
  const chart = chartOf([10, 12, 11, 13, 30], { baseline: 4 });
  expect(chart.centre).toBe(11.5);
  expect(chart.sigma).toBeCloseTo((2 + 1 + 2) / 3 / 1.1283791670955123, 12);
  expect(chart.upper[0]).toBeCloseTo(11.5 + 3 * chart.sigma, 12);
  expect(chart.signals).toEqual([4]);
});

test('CUSUM by hand: sums that never fall below nothing, and do not start anew after a signal', () => {
  const chart = chartOf([1, -1, 3, 3, 3, 0], { chart: 'cusum', target: 0, sigma: 1, h: 4 });
  expect(chart.statistic).toEqual({ high: [0.5, 0, 2.5, 5, 7.5, 7], low: [0, 0.5, 0, 0, 0, 0] });
  expect([chart.upper[0], chart.lower[0]]).toEqual([4, -4]);
  expect(chart.signals).toEqual([3, 4, 5]);
});

/** Mean length of runs until the first signal, of so many. */
function runLength(spec: Partial<ChartSpec>, shift: number, runs: number, most: number): number {
  const random = seededRandom(Math.round(1000 * shift) + 7);
  let sum = 0;
  for (let i = 0; i < runs; i += 1) {
    const values = Array.from({ length: most }, () => shift + normalDeviate(random));
    sum += (chartOf(values, { target: 0, sigma: 1, ...spec }).signals[0] ?? most) + 1;
  }
  return sum / runs;
}

test.each([
  // Steiner 1999, table 2, exact limits, quoted in R package spc (../reference/control_arl.json).
  ['EWMA λ 0.05', { chart: 'ewma', lambda: 0.05, width: 3 }, 0.5, 32.5],
  ['EWMA λ 0.05', { chart: 'ewma', lambda: 0.05, width: 3 }, 1, 9],
  ['EWMA λ 0.05', { chart: 'ewma', lambda: 0.05, width: 3 }, 2, 2.8],
  // 1/P(|z| > 3) in closed form; P at a shift of 1: 1/(1 − Φ(2) + Φ(−4)).
  ['individuals', { chart: 'individuals' }, 0, 370.4],
  ['individuals', { chart: 'individuals' }, 1, 43.9],
  // Montgomery, Introduction to Statistical Quality Control, table of two-sided CUSUM run lengths (memory).
  ['CUSUM k ½ h 4', { chart: 'cusum', h: 4 }, 0, 168],
  ['CUSUM k ½ h 5', { chart: 'cusum' }, 1, 10.4],
] as const)('%s (%j): mean run length at a shift of %d', (_, spec, shift, arl) => {
  const found = runLength(spec, shift, shift === 0 ? 500 : 1000, Math.round(8 * arl));
  // Run lengths without a shift are spread like their mean: 500 of them tell it to 4.5 %.
  const within = shift === 0 ? 0.12 : 0.08;
  expect(found / arl).toBeGreaterThan(1 - within);
  expect(found / arl).toBeLessThan(1 + within);
});

test.each([
  [[5], {}, 'too-few-values'],
  [[5, 5, 5], {}, 'no-scatter'],
  [[5, 6, 7], { baseline: 1 }, 'too-few-values'],
] as const)('%j with %j is refused', (values, spec, code) => {
  const chart = controlChart(values, { chart: 'ewma', ...CHART_DEFAULTS, ...spec });
  expect(chart.ok ? 'drawn' : chart.refusal.code).toBe(code);
});
