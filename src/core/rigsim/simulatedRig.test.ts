import { loadField, stripField, type SimulatedRig } from '.';

const RIG: SimulatedRig = {
  seed: 3,
  truth: { shiftXMm: 0.4, shiftYMm: -0.2, turnRad: 0.002, scaleAcross: 1.001, scaleAlong: 0.999, leanRad: 0 },
  centre: { x: 500, y: 400 },
  settingsAtTruth: {},
  effects: {},
  loadScatterMm: 0.02,
  roll: { creepMmPerM: { x: -0.05, y: 0.3 }, creepSdMmPerM: { x: 0.02, y: 0.05 }, wanderMm2PerM: 0.004 },
};

const variance = (values: readonly number[]): number => {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (values.length - 1);
};
const LOADS = Array.from({ length: 2000 }, (_, load) => load);

test('a strip lands alike each time it is looked at, in whatever order, and starts with the load’s own shift', () => {
  const [one, two] = [stripField(RIG, {}, 7), stripField(RIG, {}, 7)];
  const far = two(9000);
  for (const yMm of [0, 400, 2500, 9000]) expect(two(yMm)).toEqual(one(yMm));
  expect(one(9000)).toEqual(far);
  const sheet = loadField(RIG, {}, 7);
  expect(one(0).exMm).toBeCloseTo(sheet.exMm, 9);
  expect(one(0)).toMatchObject({ b11: 0, b12: 0, b21: 0, b22: 0 });
});

test('over many loads: creep, its scatter and wander as they were asked for', () => {
  const rise = LOADS.map((load) => {
    const field = stripField(RIG, {}, load);
    return { x: field(4000).exMm - field(0).exMm, y: field(4000).eyMm - field(0).eyMm };
  });
  const mean = (axis: 'x' | 'y') => rise.reduce((sum, r) => sum + r[axis], 0) / rise.length;
  expect(mean('y')).toBeCloseTo(4 * 0.3, 1);
  expect(mean('x')).toBeCloseTo(4 * -0.05, 1);
  // (4 m · 0.05 mm/m)² + 0.004 mm²/m · 4 m
  expect(Math.abs(variance(rise.map((r) => r.y)) / (0.2 ** 2 + 0.016) - 1)).toBeLessThan(0.1);
  expect(Math.abs(variance(rise.map((r) => r.x)) / (0.08 ** 2 + 0.016) - 1)).toBeLessThan(0.1);
});

test('a rig without a roll of its own does not drift', () => {
  const field = stripField({ ...RIG, roll: undefined }, {}, 1);
  expect(field(20_000)).toEqual(field(0));
});
