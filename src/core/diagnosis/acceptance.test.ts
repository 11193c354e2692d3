import { shiftScatter, type RigPrediction } from '../correction';
import { normalDeviate, seededRandom } from '../random/random';

import { acceptance } from '.';

const AT = { x: 100, y: 100 };
const TOLERANCE = 0.4;

/** What a proof told of a rig at one place: its offset with the doubt of the readings, and what loads differ by. */
const told = (exMm: number, eyMm: number, uMm: number, loadMm: number): RigPrediction => ({
  bias: { origin: AT, b11: 0, b12: 0, b21: 0, b22: 0, exMm, eyMm },
  covariance: Array.from({ length: 6 }, (_, i) =>
    Array.from({ length: 6 }, (__, j) => (i === j && i > 3 ? uMm ** 2 : 0)),
  ),
  load: shiftScatter(loadMm),
});
const of = (p: RigPrediction, stations = 9) => acceptance(p, AT, TOLERANCE, stations);

test('how far it may be off: closed forms of Rayleigh and of a line', () => {
  // 95 of 100 of a centred round scatter lie within 2.4477 σ (Rayleigh): such a rig may not be off at all.
  const none = of(told(0, 0, 0.001, TOLERANCE / 2.4478));
  expect(none.mayBeOffMm).toBeLessThan(0.01);
  expect(of(told(0, 0, 0.001, TOLERANCE / 2.4))).toMatchObject({
    says: 'failed',
    mayBeOffMm: null,
    outChance: 1,
  });
  // Far off against its scatter the edge is all but straight: one side of a normal, z of 0.95 is 1.6449.
  expect(of(told(0, 0, 0.001, 0.005)).mayBeOffMm).toBeCloseTo(TOLERANCE - 1.6449 * 0.005, 3);
});

test.each([
  ['true and well read', [0.02, 0, 0.01, 0.03], 'proved'],
  ['far off', [0.6, 0.1, 0.02, 0.03], 'failed'],
  ['at the edge', [0.3, 0, 0.02, 0.05], 'open'],
] as const)('%s is %3$s', (_, [ex, ey, u, load], says) => {
  expect(of(told(ex, ey, u, load)).says).toBe(says);
});

test('the chance is that of a plain trial: true rigs drawn about what was told, their loads counted', () => {
  const random = seededRandom(11);
  for (const [ex, ey, u, load] of [
    [0.2, 0.1, 0.05, 0.05],
    [0.3, 0, 0.03, 0.03],
    [0.1, 0.1, 0.1, 0.08],
  ] as const) {
    const sd = Math.hypot(u, load);
    let out = 0;
    for (let rig = 0; rig < 400; rig += 1) {
      const [x, y] = [ex + sd * normalDeviate(random), ey + sd * normalDeviate(random)];
      let within = 0;
      for (let i = 0; i < 400; i += 1)
        within += Number(
          Math.hypot(x + load * normalDeviate(random), y + load * normalDeviate(random)) <= TOLERANCE,
        );
      out += Number(within < 0.95 * 400);
    }
    expect(Math.abs(of(told(ex, ey, u, load)).outChance - out / 400)).toBeLessThan(0.08);
  }
});

test('of the proofs that pass, few are of rigs that are truly out, wherever rigs stand', () => {
  const random = seededRandom(5);
  const [u, load] = [0.02, 0.04];
  const { mayBeOffMm } = of(told(0, 0, u, load));
  let [passed, wrong, failed, wronged] = [0, 0, 0, 0];
  for (let rig = 0; rig < 800; rig += 1) {
    const [x, y] = [random() - 0.5, random() - 0.5];
    const sd = Math.hypot(u, load);
    const said = of(told(x + sd * normalDeviate(random), y + sd * normalDeviate(random), u, load));
    const out = Math.hypot(x, y) > mayBeOffMm!;
    passed += Number(said.says === 'proved');
    wrong += Number(said.says === 'proved' && out);
    failed += Number(said.says === 'failed');
    wronged += Number(said.says === 'failed' && !out);
  }
  expect(passed).toBeGreaterThan(100);
  expect(wrong / passed).toBeLessThan(0.05);
  expect(wronged / failed).toBeLessThan(0.05);
});

test('what would decide it: more stations where reading is in doubt, more loads where loads differ', () => {
  const coarse = of(told(0.25, 0, 0.12, 0.01), 4);
  expect(coarse.says).toBe('open');
  expect(coarse.wouldDecide.stations).not.toBeNull();
  const { stations } = coarse.wouldDecide;
  expect(of(told(0.25, 0, 0.12 * Math.sqrt(4 / (4 + stations!)), 0.01)).says).toBe('proved');
  expect(of(told(0.25, 0, 0.12 * Math.sqrt(4 / (3 + stations!)), 0.01)).says).toBe('open');
  const loose = of(told(0.18, 0, 0.005, 0.09));
  expect(loose.says).toBe('open');
  expect(loose.wouldDecide.stations).toBeNull();
  expect(loose.wouldDecide.loads).toBeGreaterThanOrEqual(1);
});
