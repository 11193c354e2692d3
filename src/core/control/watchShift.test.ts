import { normalDeviate, seededRandom } from '../random/random';

import { watched, watchShift, type FoundLoad, type Watch, type WatchedLoad } from '.';

const DAY = 86_400_000;
const ALLOWED = 0.4;
/** Loads a week apart that scatter by 0.03 mm about a course; corrected or disturbed before those that are named. */
function loads(
  count: number,
  seed: number,
  course: (i: number) => number,
  anew: Readonly<Record<number, WatchedLoad['anew']>> = {},
): WatchedLoad[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, i) => ({
    at: new Date(7 * i * DAY),
    mm: course(i) + 0.03 * normalDeviate(random),
    anew: anew[i] ?? null,
  }));
}
const CORRECTED = { 1: 'corrected' } as const;
const watch = (all: readonly WatchedLoad[]): Watch | null => watchShift(all, ALLOWED);
const week = (at: Date | null): number | null => (at === null ? null : +at / DAY / 7);
/** The first load after which it was told, from 0; −1 never. */
const told = (all: readonly WatchedLoad[]): number =>
  all.findIndex((_, n) => watch(all.slice(0, n + 1))?.since);

test.each([
  // From 12 weeks on, before it has gone 0.2 mm.
  ['about what was usual', {}, 22, (i: number) => 0.02 * Math.max(0, i - 12)],
  // From the first week, before it has gone 0.25 mm: nothing usual is on record yet.
  ['right after it was corrected', CORRECTED, 12, (i: number) => (i === 0 ? 0.5 : 0.02 * i)],
])('a slow creep of 0.02 mm a week is signalled while it is small: %s', (_, anew, by, course) => {
  let late = 0;
  for (let seed = 1; seed <= 200; seed += 1) {
    const first = told(loads(30, seed, course, anew));
    late += Number(first < 0 || first > by);
  }
  expect(late).toBeLessThanOrEqual(6);
});

test('a jump nobody noted shows at the next load, says which way and since when; noted, it is no signal', () => {
  const jumps = (i: number): number => (i < 15 ? 0 : -0.3);
  const found = watch(loads(20, 3, jumps))!;
  expect([15, 16]).toContain(week(found.since));
  expect(found.byMm).toBeCloseTo(-0.3, 1);
  expect(watch(loads(20, 3, jumps, { 15: 'event' }))).toMatchObject({ since: null });
  // Where it was corrected to land true it does not matter what moved it.
  const moved = watch(loads(20, 3, (i) => (i === 0 ? 1 : jumps(i)), { ...CORRECTED, 15: 'event' }))!;
  expect(week(moved.since)).toBe(15);
});

test.each([
  ['nobody corrected', {}, 0],
  ['corrected', CORRECTED, 1],
])(
  'a rig that stays as it is, %s: a false signal across or along less than once in 200 loads',
  (_, anew, from) => {
    let [signals, seen] = [0, 0];
    for (let seed = 1; seed <= 60; seed += 1) {
      const all = loads(60, seed, (i) => (from === 0 || i < from ? 1.2 : 0), anew);
      let before = false;
      for (let n = 10; n <= 60; n += 1) {
        const now = (watch(all.slice(0, n))?.since ?? null) !== null;
        signals += Number(now && !before);
        before = now;
        seen += 1;
      }
    }
    expect((2 * signals) / seen).toBeLessThan(1 / 200);
  },
);

test('a correction that missed by its own load’s scatter is told only where it matters against what is allowed', () => {
  const share = (toleranceMm: number): number => {
    let signals = 0;
    for (let seed = 1; seed <= 200; seed += 1) {
      const off = 0.03 * normalDeviate(seededRandom(seed + 999));
      const all = loads(20, seed, (i) => (i === 0 ? 1 : off), CORRECTED);
      signals += Number((watchShift(all, toleranceMm)?.since ?? null) !== null);
    }
    return signals / 200;
  };
  expect(share(0.6)).toBeLessThan(0.1);
  expect(share(0.2)).toBeGreaterThan(share(0.6));
});

test.each([
  ['nothing', []],
  ['three loads', loads(3, 1, () => 0)],
  ['two since an event', loads(20, 1, () => 0, { 18: 'event' })],
  ['one since it was corrected', loads(20, 1, () => 0, { 19: 'corrected' })],
])('%s is too little to watch', (_, few) => expect(watch(few)).toBeNull());

test('loads that are all alike are watched by what a comb can be read to', () => {
  const same = loads(8, 1, () => 0).map((l) => ({ ...l, mm: 0.5 }));
  expect(watch(same)).toMatchObject({ since: null, chart: { centre: 0.5, sigma: 0.015 } });
});

const at = (i: number, mm: number, value: number, fileMm = 0): FoundLoad => ({
  at: new Date(7 * i * DAY),
  terms: { shiftXMm: mm, shiftYMm: 0.01 * (i % 2) },
  shown: { x: value },
  fileMm: { x: fileMm, y: 0 },
});

test.each([
  ['a figure was typed', at(1, 0, 0.5)],
  ['a file was corrected', at(1, 0, 0, 0.5)],
])('from where %s it should land true', (_, corrected) => {
  const { shown, fileMm } = corrected;
  const after = (i: number, mm: number): FoundLoad => ({ ...at(i, mm, 0), shown, fileMm });
  const steady = [at(0, 0.5, 0), corrected, ...[2, 3, 4, 5, 6].map((i) => after(i, 0.01 * (i % 3)))];
  expect(watched(steady, [], ALLOWED).map((a) => a.watch?.since)).toEqual([null, null]);
  const crept = [...steady, ...[7, 8, 9, 10].map((i) => after(i, 0.06 * (i - 5)))];
  const [across, along] = watched(crept, [], ALLOWED);
  expect(week(across!.watch!.since)).toBe(7);
  expect(along!.watch!.since).toBeNull();
});
