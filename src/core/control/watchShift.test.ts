import { normalDeviate, seededRandom } from '../random/random';

import { watchShift, type WatchedLoad } from '.';

const DAY = 86_400_000;
/** Loads a week apart that scatter by 0.03 mm about a course. */
function loads(
  count: number,
  seed: number,
  course: (i: number) => number,
  events: readonly number[] = [],
): WatchedLoad[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, i) => ({
    at: new Date(7 * i * DAY),
    mm: course(i) + 0.03 * normalDeviate(random),
    afterEvent: events.includes(i),
  }));
}
const week = (at: Date | null): number | null => (at === null ? null : +at / DAY / 7);

test('a slow creep is signalled while it is small: 0.02 mm a week from week 12 on, before it has gone 0.2 mm', () => {
  let late = 0;
  for (let seed = 1; seed <= 200; seed += 1) {
    const all = loads(30, seed, (i) => 0.02 * Math.max(0, i - 12));
    const first = Array.from({ length: 30 }, (_, n) => watchShift(all.slice(0, n + 1))).findIndex(
      (w) => w?.since,
    );
    late += Number(first < 0 || first > 22);
  }
  expect(late).toBeLessThanOrEqual(4);
});

test('a jump nobody noted shows at the next load, says which way and since when; noted, it is no signal', () => {
  const jumps = (i: number): number => (i < 15 ? 0 : -0.3);
  const told = watchShift(loads(20, 3, jumps))!;
  expect([15, 16]).toContain(week(told.since));
  expect(told.towards).toBe(-1);
  expect(watchShift(loads(20, 3, jumps, [15]))).toMatchObject({ since: null });
});

test('across and along of a rig that stays as it is: a false signal less than once in 200 loads', () => {
  let [signals, watched] = [0, 0];
  for (let seed = 1; seed <= 60; seed += 1) {
    const all = loads(60, seed, () => 1.2);
    let before = false;
    for (let n = 10; n <= 60; n += 1) {
      const now = watchShift(all.slice(0, n))!.since !== null;
      signals += Number(now && !before);
      before = now;
      watched += 1;
    }
  }
  expect((2 * signals) / watched).toBeLessThan(1 / 200);
});

test.each([
  ['nothing', []],
  ['three loads', loads(3, 1, () => 0)],
  ['two since an event', loads(20, 1, () => 0, [18])],
])('%s is too little to watch', (_, few) => expect(watchShift(few)).toBeNull());

test('loads that are all alike are watched by what a comb can be read to', () => {
  const same = loads(8, 1, () => 0).map((l) => ({ ...l, mm: 0.5 }));
  expect(watchShift(same)).toMatchObject({ since: null, chart: { centre: 0.5, sigma: 0.015 } });
});
