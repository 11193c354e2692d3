import { type ChartRecord } from '@/core/control';
import { TERM_NAMES } from '@/core/fit';
import { normalDeviate, seededRandom } from '@/core/random/random';

import { chartsView, termThatSignals } from './charts.view';

const DAY = 86_400_000;
const START = Date.UTC(2026, 0, 5, 9);
const dateText = (at: Date): string => at.toISOString().slice(0, 10);

/** A load a week; `mm` is what the shift across was, the other terms scatter alike. */
function record(mm: readonly number[], anew: Record<number, 'corrected' | 'event'> = {}): ChartRecord {
  const random = seededRandom(2);
  return {
    at: mm.map((_, i) => START + 7 * DAY * i),
    anew: mm.map((_, i) => anew[i] ?? null),
    mm: Object.fromEntries(
      TERM_NAMES.map((name) => [
        name,
        mm.map((v) => (name === 'shiftXMm' ? v : 0.05 * normalDeviate(random))),
      ]),
    ) as unknown as ChartRecord['mm'],
    shiftOnly: mm.map(() => false),
  };
}
const STEADY = [0.02, -0.03, 0.04, 0, -0.02, 0.03, -0.01, 0.02, 0.01, -0.04, 0.03, 0];
const EVENTS = [
  { at: START + 40 * DAY, words: 'software or firmware changed' },
  { at: START - 9 * DAY, words: 'moved' },
];
const whole = { from: null, to: null };
const view = (
  r: ChartRecord,
  more: object = {},
  part = whole as { from: number | null; to: number | null },
) => chartsView(r, { chart: 'averages', term: 'shiftXMm', ...more }, part, 0.4, dateText, EVENTS);

test.each<[string, ChartRecord, object, RegExp]>([
  ['a steady record', record(STEADY), {}, /^Shift across is as usual in all of its 12 loads\.$/],
  [
    'a correction since which all is well',
    record(STEADY, { 6: 'corrected' }),
    {},
    /as usual\. It was corrected before 2026-02-16\.$/,
  ],
  [
    'something that happened',
    record(STEADY, { 6: 'event' }),
    {},
    /as usual\. Software or firmware changed on 2026-02-14\.$/,
  ],
  [
    'a change that stayed',
    record([...STEADY, 0.3, 0.31, 0.29], { 0: 'corrected' }),
    {},
    /beyond what is usual since 2026-03-30\.$/,
  ],
  [
    'a jump that went again',
    record([...STEADY.slice(0, 6), 0.4, ...STEADY.slice(7)], { 0: 'corrected' }),
    { chart: 'loads' },
    /within what is usual again, after it was beyond on 2026-02-16/,
  ],
  [
    'something new just now',
    record(STEADY, { 10: 'event' }),
    {},
    /^Software or firmware changed on 2026-02-14: a few more loads tell/,
  ],
  ['all terms', record(STEADY), { chart: 'all-terms' }, /^All six terms together are as usual/],
  ['hardly any load', record([0.1, 0.2]), {}, /needs at least 4 loads .*; 2 were read so far/],
  ['no load', record([]), {}, /none was read so far/],
])('%s, in a sentence', (_, r, more, words) => {
  expect(view(r, more).answer).toMatch(words);
});

test('a part of the record is seen alone, limits and all; where nothing lies between, all of it', () => {
  const r = record(STEADY);
  const all = view(r).chart!;
  expect([all.loads, all.points.length, all.points[0]!.day]).toEqual([12, 12, '2026-01-05']);
  const part = view(r, {}, { from: r.at[3]!, to: r.at[7]! }).chart!;
  expect(part.points.map((p) => p.at)).toEqual(r.at.slice(3, 8));
  // What it is in the whole record, it is in a part of it.
  expect(part.points[0]).toEqual(all.points[3]);
  expect(part.whole).toEqual(all.whole);
  expect(view(r, {}, { from: START + 900 * DAY, to: null }).chart!.loads).toBe(12);
  for (const tick of part.ticks) {
    expect(tick.at).toBeGreaterThanOrEqual(r.at[3]!);
    expect(tick.at).toBeLessThanOrEqual(r.at[7]!);
  }
});

test('of a long record some points are drawn: its breaks, signals and extremes among them', () => {
  const random = seededRandom(8);
  const mm = Array.from({ length: 20_000 }, () => 0.05 * normalDeviate(random));
  mm[11_111] = 2;
  const { chart } = view(record(mm, { 5000: 'corrected', 15_000: 'event' }), { chart: 'loads' });
  expect(chart!.loads).toBe(20_000);
  expect(chart!.points.length).toBeLessThan(4000);
  expect(chart!.points.find((p) => p.value === 2)!.signal).toBe(true);
  expect(chart!.points.filter((p) => p.anew !== null).map((p) => p.anew)).toEqual(['corrected', 'event']);
  expect(chart!.signals).toBeGreaterThanOrEqual(1);
});

test('without a choice the term that speaks is shown; where none does, the shift across', () => {
  expect(termThatSignals(record(STEADY), 0.4)).toBe('shiftXMm');
  const crept = record(STEADY, { 0: 'corrected' });
  const turn = crept.mm.turnRad.map((mm, i) => mm + (i > 7 ? 0.5 : 0));
  expect(termThatSignals({ ...crept, mm: { ...crept.mm, turnRad: turn } }, 0.4)).toBe('turnRad');
});
