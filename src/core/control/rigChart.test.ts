import fc from 'fast-check';

import { TERM_NAMES } from '../fit';
import { normalDeviate, seededRandom } from '../random/random';

import {
  chartOfRecord,
  RIG_CHARTS,
  thinned,
  type ChartRecord,
  type LoadColumns,
  type RigChart,
  type RigChartKind,
} from '.';
import { columnsOf } from './chartRecord';
import { RARE, rigChart } from './rigChart';

const TOLERANCE_MM = 0.4;

/** A record of so many loads in six terms, of scatter σ = 1 each; `more` adds to a load's first term. */
function record(loads: number, seed: number, more: (i: number) => number = () => 0, terms = 6): LoadColumns {
  const random = seededRandom(seed);
  return {
    at: Array.from({ length: loads }, (_, i) => 3_600_000 * i),
    anew: Array.from({ length: loads }, (_, i) => (i === 0 ? ('corrected' as const) : null)),
    terms: TERM_NAMES.slice(0, terms).map((_, t) =>
      Array.from({ length: loads }, (__, i) => normalDeviate(random) + (t === 0 ? more(i) : 0)),
    ),
  };
}

function chartOf(loads: LoadColumns, kind: RigChartKind, term = 0, toleranceMm = TOLERANCE_MM): RigChart {
  const chart = rigChart(loads, kind, term, toleranceMm);
  if (!chart.ok) throw new Error(chart.refusal.code);
  return chart.value;
}

/** Mean loads until the first false signal. */
function runLength(kind: RigChartKind, runs: number, loads: number): number {
  let [sum, ends] = [0, 0];
  for (let run = 0; run < runs; run += 1) {
    const first = chartOf(
      record(loads, 100 + run, undefined, kind === 'all-terms' ? 6 : 1),
      kind,
    ).signal.indexOf(true, 1);
    sum += first < 0 ? loads : first + 1;
    if (first >= 0) ends += 1;
  }
  // Runs that are cut off count by what they lasted (exponential lengths, censored).
  return sum / ends;
}

test.each([
  // One term of six: 200 loads for the rig are 1200 for each.
  ['loads', 1200, 120, 3000],
  ['averages', 1200, 120, 3000],
  ['sums', 1200, 120, 3000],
  // Prabhu & Runger 1997, λ 0.2, six terms: 200.
  ['all-terms', 200, 250, 800],
] as const)('%s: a steady rig signals falsely once in about %d loads', (kind, wanted, runs, loads) => {
  const found = runLength(kind, runs, loads) / wanted;
  expect(found).toBeGreaterThan(0.75);
  expect(found).toBeLessThan(1.3);
});

test('two terms together have the limit that is published for two', () => {
  let [sum, ends] = [0, 0];
  for (let run = 0; run < 250; run += 1) {
    const first = chartOf(record(1000, run, undefined, 2), 'all-terms').signal.indexOf(true);
    sum += first < 0 ? 1000 : first + 1;
    if (first >= 0) ends += 1;
  }
  expect(sum / ends / 200).toBeGreaterThan(0.8);
  expect(sum / ends / 200).toBeLessThan(1.25);
  expect(RARE.allTerms[2]).toBe(9.65);
});

test.each([
  // A lasting change of 1.5 σ at load 60: sums and averages tell it soon, single loads seldom.
  ['sums', 15],
  ['averages', 15],
  ['all-terms', 20],
] as const)('%s: a lasting change of 1.5 σ is told within %d loads, nearly always', (kind, within) => {
  let told = 0;
  for (let seed = 0; seed < 60; seed += 1) {
    const chart = chartOf(
      record(60 + within, seed, (i) => (i >= 60 ? 1.5 : 0)),
      kind,
      0,
      0.1,
    );
    if (chart.signal.slice(60).includes(true)) told += 1;
  }
  expect(told).toBeGreaterThanOrEqual(54);
});

test('a jump stands out as a load and as a step', () => {
  const chart = chartOf(
    record(40, 3, (i) => (i === 30 ? 9 : 0)),
    'loads',
  );
  expect(chart.signal[30]).toBe(true);
  expect(chart.range![30]!).toBeGreaterThan(chart.rangeLimit!);
  expect(chart.range![0]).toBeNull();
});

test('a chart starts anew where something is new: no step over it, limits only once something tells', () => {
  const loads = record(30, 5, (i) => (i >= 20 ? 50 : 0));
  const anew = loads.anew.map((a, i) =>
    i === 20 ? ('event' as const) : i === 10 ? ('corrected' as const) : a,
  );
  for (const kind of RIG_CHARTS) {
    const chart = chartOf({ ...loads, anew }, kind);
    expect(chart.signal.slice(20)).not.toContain(true);
    // Somebody corrected it at the tenth: it should land true, whatever it does.
    if (kind !== 'all-terms' && kind !== 'sums') expect(chart.centre[15]).toBe(0);
    if (kind === 'loads') expect(chart.range![20]).toBeNull();
  }
  const short = { ...loads, anew: loads.anew.map((a, i) => (i === 28 ? ('event' as const) : a)) };
  expect(chartOf(short, 'averages').upper.slice(27)).toEqual([expect.any(Number), null, null]);
});

test.each([[0], [1], [3]])('%d loads are too few, with a reason', (loads) => {
  for (const kind of RIG_CHARTS)
    expect(rigChart(record(loads, 1), kind, 0, TOLERANCE_MM)).toMatchObject({
      refusal: { code: 'too-few-loads', needed: 4 },
    });
});

test('a term is charted of the loads that told it; what was new at another is new at the next', () => {
  const mm = Object.fromEntries(TERM_NAMES.map((name, t) => [name, [0, 1, 2, 3].map((i) => 10 * t + i)]));
  const whole: ChartRecord = {
    at: [1, 2, 3, 4],
    anew: [null, 'corrected', null, 'event'],
    mm: mm as unknown as ChartRecord['mm'],
    shiftOnly: [false, true, false, false],
  };
  expect(columnsOf(whole, ['shiftYMm'])).toEqual({
    at: whole.at,
    anew: whole.anew,
    terms: [[10, 11, 12, 13]],
  });
  expect(columnsOf(whole, ['leanRad'])).toEqual({
    at: [1, 3, 4],
    anew: [null, 'corrected', 'event'],
    terms: [[50, 52, 53]],
  });
  expect(columnsOf(whole, TERM_NAMES).terms).toHaveLength(6);
});

test('all terms at once: of the loads that told six, or of both shifts where those are too few', () => {
  const { at, anew, terms } = record(20, 9);
  const mm = Object.fromEntries(TERM_NAMES.map((name, t) => [name, terms[t]!])) as ChartRecord['mm'];
  const of = (full: (i: number) => boolean) =>
    chartOfRecord(
      { at, anew, mm, shiftOnly: at.map((_, i) => !full(i)) },
      'all-terms',
      'turnRad',
      TOLERANCE_MM,
    );
  expect(of((i) => i % 2 === 0)).toMatchObject({ ok: true, value: { terms: TERM_NAMES } });
  const shifts = of((i) => i < 3);
  expect(shifts).toMatchObject({ ok: true, value: { terms: ['shiftXMm', 'shiftYMm'] } });
  expect(shifts.ok && shifts.value.columns.at).toHaveLength(20);
  const turn = chartOfRecord(
    { at, anew, mm, shiftOnly: at.map(() => true) },
    'loads',
    'turnRad',
    TOLERANCE_MM,
  );
  expect(turn).toMatchObject({ refusal: { loads: 0 } });
});

test('a thinned record keeps its ends, its extremes and a signal wherever there is one', () => {
  const values = fc.array(fc.double({ min: -1e3, max: 1e3, noNaN: true }), { minLength: 1, maxLength: 400 });
  fc.assert(
    fc.property(values, fc.integer({ min: 1, max: 30 }), fc.nat(399), (list, parts, at) => {
      const places = list.map((_, i) => i);
      const signal = list.map((_, i) => i === at);
      const kept = thinned(places, [list], signal, parts);
      expect(kept).toEqual([...new Set(kept)].sort((a, b) => a - b));
      expect([kept[0], kept.at(-1)]).toEqual([0, list.length - 1]);
      const of = kept.map((i) => list[i]!);
      expect([Math.min(...of), Math.max(...of)]).toEqual([Math.min(...list), Math.max(...list)]);
      if (at < list.length) expect(kept).toContain(at);
      expect(kept.length).toBeLessThanOrEqual(5 * parts);
    }),
  );
});
