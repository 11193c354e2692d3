import fc from 'fast-check';
import { CholeskyDecomposition, Matrix } from 'ml-matrix';

import { normalDeviate, seededRandom } from '../random/random';
import { coverageFactor } from '../statistics';

import { compressNodes } from './compress';
import { estimateDrift } from './estimate';
import { filterDrift, newTrace, stepsBefore, type FilterPrior } from './filter';
import { stepsOf } from './steps';
import { expectAhead, slipInRun } from './follow';
import type { MarkWay, PlaceOnPiece } from './miss';
import { outsideBand } from './mixture';
import { Predictor } from './predict';
import { nelderMead } from './nelderMead';
import { DRIFT_PRIORS } from './priors';
import { estimateWithSlips } from './slips';
import type { DriftNode, DriftNoise, DriftRun } from './types';
import { filmNode, simulateRun, trueNode, type RollTruth } from '@test/rolls';

const NOISE: DriftNoise = {
  wanderMm2PerM: 0.004,
  creepVarMm2PerM2: 0.0025,
  readingVarMm2: 0.0012,
  registrationVarMm2: 0.0009,
};
const PRIOR: FilterPrior = {
  creepMmPerM: 0.2,
  bowMmPerM2: 0.01,
  creepVar: 0.04,
  bowVar: 0.0004,
  creepBowCov: -0.001,
  homeVar: 0.25,
};

/*
 * The same model as one multivariate normal: every covariance written out, one dense factorisation.
 * Independent of the filter's recursions on purpose.
 */
function dense(runs: readonly DriftRun[], noise: DriftNoise, prior: FilterPrior) {
  const all = runs.flatMap((run) =>
    run.readings.map((reading) => {
      const piece = run.registeredAtM.filter((y) => y <= reading.yM).length - 1;
      return { run, reading, piece: Math.max(0, piece), y0: run.registeredAtM[Math.max(0, piece)]! };
    }),
  );
  const rows = all.map(({ reading, y0 }) => [reading.yM - y0, reading.yM ** 2 - y0 ** 2]);
  const v = Matrix.zeros(all.length, all.length);
  all.forEach((a, i) =>
    all.forEach((b, j) => {
      const [ai, bi] = rows[i]!;
      const [aj, bj] = rows[j]!;
      let c =
        ai! * aj! * prior.creepVar + bi! * bj! * prior.bowVar + (ai! * bj! + bi! * aj!) * prior.creepBowCov;
      if (a.run === b.run) {
        c += prior.homeVar + noise.creepVarMm2PerM2 * ai! * aj!;
        if (a.piece === b.piece)
          c +=
            noise.registrationVarMm2 +
            noise.wanderMm2PerM * Math.min(a.reading.yM - a.y0, b.reading.yM - b.y0);
      }
      if (i === j) c += noise.readingVarMm2;
      v.set(i, j, c);
      v.set(j, i, c);
    }),
  );
  const rest = Matrix.columnVector(
    all.map(
      ({ reading }, i) =>
        reading.offsetMm - rows[i]![0]! * prior.creepMmPerM - rows[i]![1]! * prior.bowMmPerM2,
    ),
  );
  const factor = new CholeskyDecomposition(v);
  const weighted = factor.solve(rest);
  const logDet = factor.lowerTriangularMatrix.diagonal().reduce((sum, d) => sum + 2 * Math.log(d), 0);
  return {
    logLikelihood: -0.5 * (logDet + rest.transpose().mmul(weighted).get(0, 0)),
    /** Generalised least squares size and variance of one step. */
    step(run: DriftRun, from: number, ofRegistration: boolean) {
      const piece = all.find((a) => a.run === run && a.reading === run.readings[from])!.piece;
      const s = Matrix.columnVector(
        all.map((a) =>
          Number(
            a.run === run && run.readings.indexOf(a.reading) >= from && (ofRegistration || a.piece === piece),
          ),
        ),
      );
      const information = s.transpose().mmul(factor.solve(s)).get(0, 0);
      return { size: s.transpose().mmul(weighted).get(0, 0) / information, variance: 1 / information };
    },
  };
}

const someRuns = (seed: number): DriftRun[] => {
  const random = seededRandom(seed);
  return Array.from({ length: 3 }, (_, r) => ({
    id: `r${r}`,
    registeredAtM: r === 2 ? [0, 2.1, 4] : [0],
    readings: Array.from({ length: 6 }, (_, k) => ({
      id: `${k}`,
      yM: (k + random()) * 1.1,
      offsetMm: 0.4 * normalDeviate(random),
      uMm: 0.03,
    })),
  }));
};

test('likelihood and steps of the filter are those of the dense normal', () => {
  fc.assert(
    fc.property(fc.nat(100_000), (seed) => {
      const runs = someRuns(seed);
      const steps = stepsOf(runs);
      const trace = newTrace(steps.places.length);
      const reference = dense(runs, NOISE, PRIOR);
      const filtered = filterDrift(steps, NOISE, PRIOR, trace);
      expect(filtered.logLikelihood).toBeCloseTo(reference.logLikelihood, 7);
      const { sizeMm, varianceMm2 } = stepsBefore(steps, trace);
      steps.places.forEach((place, k) => {
        if (place.previousM === null) return;
        const run = runs.find((r) => r.id === place.runId)!;
        const wanted = reference.step(run, place.index, place.registeredBetween);
        expect(sizeMm[k]!).toBeCloseTo(wanted.size, 7);
        expect(varianceMm2[k]! / wanted.variance).toBeCloseTo(1, 6);
      });
    }),
    { numRuns: 60 },
  );
});

test('creep and bow of many readings without wander are those of plain least squares (numpy.polyfit)', () => {
  // y = 1 … 6 m, offsets 0.31 0.58 0.93 1.25 1.66 2.05 mm: polyfit(y, d, 2) = [0.015, 0.24528571, 0.044].
  const offsets = [0.31, 0.58, 0.93, 1.25, 1.66, 2.05];
  const run: DriftRun = {
    id: 'a',
    registeredAtM: [0],
    readings: offsets.map((offsetMm, k) => ({ id: `${k}`, yM: k + 1, offsetMm, uMm: 0.03 })),
  };
  const still = {
    wanderMm2PerM: 1e-12,
    creepVarMm2PerM2: 1e-12,
    readingVarMm2: 1e-6,
    registrationVarMm2: 1e-12,
  };
  const { shared } = filterDrift(stepsOf([run]), still);
  expect(shared.bowMmPerM2).toBeCloseTo(0.015, 5);
  expect(shared.creepMmPerM).toBeCloseTo(0.24528571, 5);
});

test('steady gain of a level with q = R a step is (√5 − 1)/2 (closed form; Durbin & Koopman)', () => {
  const run: DriftRun = {
    id: 'a',
    registeredAtM: [0],
    readings: Array.from({ length: 60 }, (_, k) => ({ id: `${k}`, yM: k + 1, offsetMm: 0, uMm: 0.05 })),
  };
  const noise = { wanderMm2PerM: 0.01, creepVarMm2PerM2: 0, readingVarMm2: 0.01, registrationVarMm2: 0 };
  const flat = { ...PRIOR, creepVar: 0, bowVar: 0, creepBowCov: 0 };
  const trace = newTrace(60);
  filterDrift(stepsOf([run]), noise, flat, trace);
  expect(trace.gain[59 * 5]).toBeCloseTo((Math.sqrt(5) - 1) / 2, 9);
});

const NODE: DriftNode = {
  ...NOISE,
  weight: 1,
  creepMmPerM: 0.3,
  bowMmPerM2: 0.02,
  creepVar: 0,
  bowVar: 0,
  creepBowCov: 0,
};

/** Straight simulation of a piece: a random walk in small steps, registered at one end or at both. */
function simulatedMiss(way: 'start' | 'both-ends', t: number, y0: number, length: number) {
  const random = seededRandom(7);
  const deviate = (variance: number): number => Math.sqrt(variance) * normalDeviate(random);
  const n = 20_000;
  let sum = 0;
  let squares = 0;
  for (let i = 0; i < n; i += 1) {
    const creep = NODE.creepMmPerM + deviate(NODE.creepVarMm2PerM2);
    const at = (y: number, walk: number): number =>
      creep * (y - y0) + NODE.bowMmPerM2 * (y * y - y0 * y0) + walk;
    const walkT = deviate(NODE.wanderMm2PerM * t);
    const walkL = walkT + deviate(NODE.wanderMm2PerM * (length - t));
    const near = deviate(NODE.registrationVarMm2);
    const far = at(y0 + length, walkL) + deviate(NODE.registrationVarMm2);
    const here = at(y0 + t, walkT);
    const miss = way === 'start' ? here + near : here - (near * (1 - t / length) + (far * t) / length);
    sum += miss;
    squares += miss * miss;
  }
  const mean = sum / n;
  return { mean, variance: squares / n - mean * mean };
}

const predicted = (node: DriftNode, way: MarkWay, at: PlaceOnPiece) =>
  new Predictor({ along: [node], across: [node] }, { way, takenOut: false }).moments('along', at);

test.each([
  ['start', 0.7, 0, 2],
  ['start', 1.6, 3, 2],
  ['both-ends', 0.5, 0, 2],
  ['both-ends', 1, 3, 2],
  ['both-ends', 2, 1, 2],
] as const)('registered at %s, %s m along a piece at %s m: as in a simulation', (way, t, y0, length) => {
  const said = predicted(NODE, way, { tM: t, y0M: y0, lengthM: length });
  const seen = simulatedMiss(way, t, y0, length);
  expect(seen.mean).toBeCloseTo(said.mean, 2);
  expect(seen.variance / said.variance).toBeCloseTo(1, 1);
});

test('a bridge without registration noise has variance q·t·(L − t)/L (closed form)', () => {
  const part = predicted({ ...NODE, registrationVarMm2: 0 }, 'both-ends', { tM: 0.5, y0M: 0, lengthM: 2 });
  expect(part.variance).toBeCloseTo((0.004 * 0.5 * 1.5) / 2, 12);
});

const TRUTH: RollTruth = {
  wander: 0.004,
  creepSd: 0.05,
  reading: 0.035,
  registration: 0.03,
  creep: 0.3,
  bow: 0.004,
};
const record = (
  seed: number,
  runs: number,
  slip?: { run: number; before: number; sizeMm: number },
): DriftRun[] => {
  const random = seededRandom(seed);
  return Array.from(
    { length: runs },
    (_, r) => simulateRun(TRUTH, random, { id: `r${r}`, slip: slip?.run === r ? slip : undefined }).run,
  );
};

// The figures that the product promises come from 1,000 and more records: docs/benchmarks.md.
test('slips of 0.6 mm are found where they are, and not where there are none; four runs of twelve sections', () => {
  let right = 0;
  let covered = 0;
  let alarms = 0;
  for (let seed = 0; seed < 14; seed += 1) {
    const slip = { run: seed % 4, before: 1 + (seed % 11), sizeMm: seed % 2 ? 0.6 : -0.6 };
    const { slips } = estimateWithSlips(record(seed, 4, slip), DRIFT_PRIORS.film, seededRandom(seed));
    const hit = slips.find((s) => s.runId === `r${slip.run}` && s.beforeReading === slip.before);
    right += Number(hit !== undefined);
    covered += Number(hit !== undefined && hit.sizeMm.low <= slip.sizeMm && slip.sizeMm <= hit.sizeMm.high);
    alarms += estimateWithSlips(record(seed + 100, 4), DRIFT_PRIORS.film, seededRandom(seed)).slips.length;
  }
  expect(right).toBeGreaterThanOrEqual(13);
  expect(covered).toBeGreaterThanOrEqual(11);
  expect(alarms).toBeLessThanOrEqual(2);
});

test('intervals hold the truth, and the longer record tells more', () => {
  let held = 0;
  for (let seed = 200; seed < 220; seed += 1) {
    const e = estimateDrift(record(seed, 4), DRIFT_PRIORS.film);
    held += Number(e.wander!.low <= TRUTH.wander && TRUTH.wander <= e.wander!.high);
    held += Number(e.creep.low <= TRUTH.creep && TRUTH.creep <= e.creep.high);
  }
  expect(held).toBeGreaterThanOrEqual(34);
  const [short, long] = [
    estimateDrift(record(1, 2), DRIFT_PRIORS.film),
    estimateDrift(record(1, 9), DRIFT_PRIORS.film),
  ];
  expect(short.enough).toBe(false);
  expect(long.enough).toBe(true);
  expect(long.creep.high - long.creep.low).toBeLessThan(short.creep.high - short.creep.low);
});

test('an interval ends where twice the fall of the profile likelihood is F’s, also when hardly any wander is found', () => {
  const still: RollTruth = { ...TRUTH, wander: 0.001, reading: 0.045 };
  const nearNothing = Array.from({ length: 16 }, (_, seed) => {
    const random = seededRandom(seed);
    return Array.from({ length: 4 }, (_, r) => simulateRun(still, random, { id: `r${r}` }).run);
  })
    .map((runs) => ({ steps: stepsOf(runs), estimate: estimateDrift(runs, DRIFT_PRIORS.film) }))
    .filter(({ estimate }) => estimate.wander!.value < 1e-4);
  expect(nearNothing.length).toBeGreaterThan(2);
  for (const { steps, estimate } of nearNothing) {
    const profile = (wanderMm2PerM: number): number =>
      Math.max(
        // From several places: the likelihood has no value where the covariance would be negative.
        ...[0.3, 1, 3].map((times) => {
          const at = (x: readonly number[]): number =>
            filterDrift(steps, {
              wanderMm2PerM,
              creepVarMm2PerM2: 0.0025 * x[0]!,
              readingVarMm2: 0.002 * x[1]!,
              registrationVarMm2: 0.0009,
            }).logLikelihood;
          return -nelderMead((x) => -at(x), [times, times], 0.5, 1e-7).value;
        }),
      );
    const fall = 2 * (profile(1e-8) - profile(estimate.wander!.high));
    // 48 readings less an offset and a creep for each of four runs.
    expect(Math.sqrt(fall)).toBeCloseTo(coverageFactor(0.95, 40), 1);
    expect(estimate.wander!.low).toBe(0);
  }
});

test('without a log the media class speaks, widely', () => {
  const nothing = estimateDrift([], DRIFT_PRIORS.film);
  expect(nothing.likeliest).toBeNull();
  expect(nothing.nodes.reduce((sum, n) => sum + n.weight, 0)).toBeCloseTo(1, 9);
  expect(nothing.creep.high).toBeGreaterThan(0.9);
});

test('fewer nodes predict the same mean and variance everywhere', () => {
  const { nodes } = estimateDrift(record(3, 5), DRIFT_PRIORS.film);
  const few = compressNodes(nodes);
  expect(few.length).toBeLessThanOrEqual(30);
  for (const way of ['start', 'both-ends'] as const)
    for (const place of PLACES) {
      const [a, b] = [nodes, few].map((along) =>
        new Predictor({ along, across: along }, { way, takenOut: true }).moments('along', place),
      );
      expect(b!.mean).toBeCloseTo(a!.mean, 9);
      expect(b!.variance / a!.variance).toBeCloseTo(1, 9);
    }
});

const PLACES = [
  { tM: 0.4, y0M: 0, lengthM: 0.9 },
  { tM: 0.8, y0M: 6, lengthM: 0.9 },
  { tM: 1.5, y0M: 0, lengthM: 3 },
];

test.each([0, 1, 3, 8])(
  'after %i runs a spoiled share keeps its tails, all nodes asked one by one',
  (runs) => {
    const { nodes } = estimateDrift(record(runs, 5), DRIFT_PRIORS.film);
    const one = filmNode({ creepMmPerM: 0, creepVar: 0, creepVarMm2PerM2: 0, wanderMm2PerM: 0 });
    const still = [{ ...one, registrationVarMm2: 1e-8 }];
    const creep = nodes.reduce((sum, n) => sum + n.weight * n.creepMmPerM, 0);
    const bow = nodes.reduce((sum, n) => sum + n.weight * n.bowMmPerM2, 0);
    for (const way of ['start', 'both-ends'] as const)
      for (const place of PLACES)
        for (const toleranceMm of [0.2, 0.4]) {
          const all = nodes.reduce((sum, n) => {
            const left = { ...n, creepMmPerM: n.creepMmPerM - creep, bowMmPerM2: n.bowMmPerM2 - bow };
            const { mean, variance } = predicted(left, way, place);
            return sum + n.weight * outsideBand([{ weight: 1, mean, variance }], toleranceMm);
          }, 0);
          const said = new Predictor({ along: nodes, across: still }, { way, takenOut: true });
          // Down to one item in a hundred thousand.
          if (all > 1e-5) expect(said.spoiledChance(place, toleranceMm, 'rectangle') / all).toBeCloseTo(1, 1);
        }
  },
);

test('following a run: a missing check widens the band, registering narrows it, a slip is called', () => {
  const { run, levelMm } = simulateRun(TRUTH, seededRandom(4), {
    id: 'now',
    slip: { before: 5, sizeMm: 0.6 },
  });
  const nodes = [trueNode(TRUTH)];
  const until = (count: number): DriftRun => ({ ...run, readings: run.readings.slice(0, count) });
  const next = (count: number, sections: number, registeredAtM: number | null = null) =>
    expectAhead(until(count), { yM: (count + sections) * 0.75, registeredAtM }, nodes, 0.035 ** 2);
  expect(next(4, 2).varianceMm2).toBeGreaterThan(next(4, 1).varianceMm2);
  expect(Math.abs(next(5, 1).offsetMm - levelMm[4]! - 0.75 * TRUTH.creep)).toBeLessThan(0.2);
  expect(slipInRun(until(5), nodes, 0.035 ** 2, seededRandom(1))).toBeNull();
  const slip = slipInRun(until(6), nodes, 0.035 ** 2, seededRandom(1));
  expect(slip).toMatchObject({ beforeReading: 5, fromM: 3.75, toM: 4.5 });
  expect(Math.abs(slip!.sizeMm - 0.6)).toBeLessThan(0.25);
  const anew = next(6, 1, 4.5);
  expect(anew.varianceMm2).toBeLessThan(0.1);
});
