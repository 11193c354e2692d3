import { nextStation } from '.';

const AREA = { x0: 0, y0: 0, x1: 200, y1: 280 };
const STATIONS = [20, 100, 180].flatMap((x, c) =>
  [20, 140, 260].map((y, r) => ({ id: `${'ABC'[c]}${r + 1}`, centre: { x, y } })),
);
const U = 0.035;
const read = (ids: readonly string[], uMm = U) =>
  ids.flatMap((stationId) =>
    (['across', 'along'] as const).map((axis) => ({
      ...{ stationId, axis, uMm },
      at: STATIONS.find((s) => s.id === stationId)!.centre,
    })),
  );
const next = (ids: readonly string[], loadSdMm = 0.02, uMm = U) =>
  nextStation(STATIONS, read(ids, uMm), AREA, uMm, loadSdMm);

/** The order that it proposes, from the corner where the desk starts. */
function proposed(count: number, loadSdMm = 0.02): string[] {
  const ids = ['A1'];
  while (ids.length < count) ids.push(next(ids, loadSdMm).stationId!);
  return ids;
}

test('what it says of a station is what is so once that is read', () => {
  for (let n = 1; n < 8; n += 1) {
    const ids = proposed(n);
    const { stationId, thenMm } = next(ids);
    expect(next([...ids, stationId!]).nowMm).toBeCloseTo(thenMm, 9);
  }
});

test('with many readings it is the straight sum over the area of least squares (σ²·leverage, closed form)', () => {
  // A full grid of equal readings: variance at p is u²(1/n + dx²/Σdx² + dy²/Σdy²), prior all but forgotten.
  const { nowMm } = next(STATIONS.map((s) => s.id));
  const [sxx, syy] = [6 * 80 ** 2, 6 * 120 ** 2];
  const steps = [0, 0.25, 0.5, 0.75, 1];
  const sum = steps.flatMap((a) =>
    steps.map((b) => {
      const v = U ** 2 * (1 / 9 + (200 * a - 100) ** 2 / sxx + (280 * b - 140) ** 2 / syy);
      return 2.4477 * Math.sqrt(v + 2 * 0.02 ** 2);
    }),
  );
  expect(nowMm).toBeCloseTo(sum.reduce((s, v) => s + v) / 25, 3);
});

test.each([2, 3, 4, 5, 6])('%d stations one by one come within 6 % of the best of all choices', (count) => {
  const greedy = next(proposed(count)).nowMm;
  const ids = STATIONS.map((s) => s.id);
  let best = Infinity;
  for (let mask = 1; mask < 512; mask += 2) {
    const chosen = ids.filter((_, i) => mask & (1 << i));
    if (chosen.length === count) best = Math.min(best, next(chosen).nowMm);
  }
  expect(greedy / best).toBeLessThan(1.06);
});

test('corners come before the middle, a half-read station may be finished', () => {
  expect(
    proposed(5)
      .slice(1)
      .every((id) => id !== 'B2'),
  ).toBe(true);
  const half = read(['A1', 'C3', 'A3', 'C1']).filter((r) => !(r.stationId === 'C1' && r.axis === 'along'));
  expect(nextStation(STATIONS, half, AREA, U, 0.02).stationId).toBe('C1');
});

test('enough: soon where loads differ far more than readings, never after one', () => {
  const until = (loadSdMm: number): number => {
    for (let n = 1; n < 9; n += 1) if (next(proposed(n, loadSdMm), loadSdMm).enough) return n;
    return 9;
  };
  expect(next(['A1']).enough).toBe(false);
  expect(until(0.2)).toBeLessThan(until(0.005));
  expect(until(0.2)).toBeGreaterThanOrEqual(3);
  expect(next(STATIONS.map((s) => s.id))).toMatchObject({ stationId: null, enough: true });
});
