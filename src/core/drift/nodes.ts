import { EigenvalueDecomposition, Matrix } from 'ml-matrix';

import { whatCanBeTold } from './whatIsTold';
import { filterDrift, type FilterPrior, WIDE } from './filter';
import { type DriftSteps, stepsOf } from './steps';
import { nelderMead } from './nelderMead';
import { logPrior, logsOf, NOISE_NAMES, type NoiseName, withLogs, withReadings } from './noiseLikelihood';
import type { DriftPrior } from './priors';
import type { DriftNode, DriftNoise, DriftRun } from './types';

/** How finely the search tells logarithms of variances apart. */
const LOG_STEP = 1e-4;

/** Grid spacing in standard deviations; sums over it are as good as exact for bells (Trefethen & Weideman 2014). */
const NODE_STRIDE = 1.25;

/** Nodes with less than this share of the best one’s density are left out. */
const LEAST_DENSITY = 2e-3;

/** Creep and bow as the media class has them before its own runs speak. */
const sharedPrior = (prior: DriftPrior): FilterPrior => ({
  ...WIDE,
  creepVar: prior.creepVar,
  bowVar: prior.bowVar,
});

/** Where the posterior of the noise is highest. */
interface Mode {
  readonly names: readonly NoiseName[];
  readonly logs: readonly number[];
  readonly noise: DriftNoise;
  readonly density: (logs: readonly number[]) => number;
}

function posteriorMode(steps: DriftSteps, prior: DriftPrior, told: readonly NoiseName[]): Mode {
  // A scatter that these runs cannot tell does not touch their likelihood; see `driftNodes`.
  const names = NOISE_NAMES.filter((name) => told.includes(name) || !ALONE.includes(name));
  const density = (logs: readonly number[]): number => {
    const noise = withLogs(prior.median, names, logs);
    return filterDrift(steps, noise, sharedPrior(prior)).logLikelihood + logPrior(prior, noise, names);
  };
  const top = nelderMead((logs) => -density(logs), logsOf(prior.median, names), 1, LOG_STEP);
  return { names, logs: top.x, noise: withLogs(prior.median, names, top.x), density };
}

/** Told by their own readings or not at all. */
const ALONE: readonly NoiseName[] = ['readingVarMm2', 'registrationVarMm2'];

/** The most likely noise under the prior. */
export const likeliestNoise = (runs: readonly DriftRun[], prior: DriftPrior): DriftNoise =>
  posteriorMode(stepsOf(runs), withReadings(prior, runs), whatCanBeTold(runs)).noise;

/** The posterior over the noise on a grid, with what these runs say about creep and bow at each point. */
export function driftNodes(runs: readonly DriftRun[], prior: DriftPrior): DriftNode[] {
  const steps = stepsOf(runs);
  const told = whatCanBeTold(runs);
  const known = withReadings(prior, runs);
  const mode = posteriorMode(steps, known, told);
  const peak = mode.density(mode.logs);
  const axes = spreadAxes(mode.density, mode.logs);
  const found: { logs: number[]; weight: number }[] = [];
  const seen = new Set<string>();
  const queue: number[][] = [mode.names.map(() => 0)];
  while (queue.length > 0 && found.length < MOST_NODES) {
    const step = queue.shift()!;
    const key = step.join();
    if (seen.has(key)) continue;
    seen.add(key);
    const logs = mode.logs.map(
      (v, i) => v + axes.reduce((sum, a, j) => sum + a[i]! * step[j]! * NODE_STRIDE, 0),
    );
    const weight = Math.exp(mode.density(logs) - peak);
    if (weight < LEAST_DENSITY) continue;
    found.push({ logs, weight });
    for (let j = 0; j < mode.names.length; j += 1)
      for (const by of [-1, 1]) queue.push(step.map((v, i) => (i === j ? v + by : v)));
  }
  const total = found.reduce((sum, f) => sum + f.weight, 0);
  const registrations = told.includes('registrationVarMm2')
    ? [{ share: 1, log: 0 }]
    : GAUSS_HERMITE.map(({ share, at }) => ({ share, log: at * prior.spread.registrationVarMm2 }));
  return found.flatMap(({ logs, weight }) => {
    const noise = withLogs(known.median, mode.names, logs);
    const { shared } = filterDrift(steps, noise, sharedPrior(prior));
    return registrations.map(({ share, log }) => ({
      ...noise,
      registrationVarMm2: noise.registrationVarMm2 * Math.exp(log),
      ...shared,
      weight: (weight * share) / total,
    }));
  });
}

const MOST_NODES = 300;

/** Three points that stand for a normal (Abramowitz & Stegun 25.4.46, n = 3). */
const GAUSS_HERMITE = [
  { share: 1 / 6, at: -Math.sqrt(3) },
  { share: 2 / 3, at: 0 },
  { share: 1 / 6, at: Math.sqrt(3) },
] as const;

/** Columns of the square root of the inverse curvature at the mode: one standard deviation each. */
function spreadAxes(density: (logs: readonly number[]) => number, mode: readonly number[]): number[][] {
  const n = mode.length;
  const h = 0.15;
  const at = (moves: readonly (readonly [number, number])[]): number => {
    const x = [...mode];
    for (const [i, by] of moves) x[i] = x[i]! + by;
    return density(x);
  };
  const middle = density(mode);
  const curvature = Matrix.zeros(n, n);
  for (let i = 0; i < n; i += 1)
    for (let j = 0; j <= i; j += 1) {
      const value =
        i === j
          ? (at([[i, h]]) - 2 * middle + at([[i, -h]])) / h ** 2
          : (at([
              [i, h],
              [j, h],
            ]) -
              at([
                [i, h],
                [j, -h],
              ]) -
              at([
                [i, -h],
                [j, h],
              ]) +
              at([
                [i, -h],
                [j, -h],
              ])) /
            (4 * h ** 2);
      curvature.set(i, j, -value);
      curvature.set(j, i, -value);
    }
  const eigen = new EigenvalueDecomposition(curvature, { assumeSymmetric: true });
  return eigen.realEigenvalues.map((value, j) => {
    // A direction that is nearly flat still ends: the prior is at most two wide.
    const sd = 1 / Math.sqrt(Math.max(value, 0.15));
    return Array.from({ length: n }, (_, i) => sd * eigen.eigenvectorMatrix.get(i, j));
  });
}
