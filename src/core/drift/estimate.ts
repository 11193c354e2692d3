import { EigenvalueDecomposition, Matrix } from 'ml-matrix';

import { coverageFactor } from '../statistics';

import { filterDrift, medianSquareU, stepsOf, WIDE, type DriftSteps, type FilterPrior } from './filter';
import { mixtureQuantile } from './mixture';
import { nelderMead } from './nelderMead';
import type { DriftPrior } from './priors';
import type { DriftNode, DriftNoise, DriftRun, Interval } from './types';

/** Kept with every stored estimate and plan. */
export const DRIFT_VERSION = 'drift-4';

/** Registrations inside runs from which the log can tell their scatter from that of the readings. */
const REGISTRATIONS_TO_TELL = 6;

/** Readings that about four runs of twelve sections leave. */
export const READINGS_OF_A_RECORD = 48;

type NoiseName = keyof DriftNoise;

const NOISE_NAMES = [
  'wanderMm2PerM',
  'creepVarMm2PerM2',
  'readingVarMm2',
  'registrationVarMm2',
] as const satisfies readonly NoiseName[];

/** ln of a variance is looked for between these: from a thousandth of a micrometre squared to a cm². */
const LOWEST = Math.log(1e-10);
const HIGHEST = Math.log(100);

export interface DriftEstimate {
  readonly version: string;
  readonly runs: number;
  readonly readings: number;
  /** Whether the log is long enough to stand on its own: about four runs of twelve sections. */
  readonly enough: boolean;
  /** Restricted maximum likelihood; null with too few readings to tell anything. */
  readonly likeliest: DriftNoise | null;
  /** Profile-likelihood intervals, 95 %; null for what the log cannot tell. */
  readonly wander: Interval | null;
  readonly creepVar: Interval | null;
  readonly readingVar: Interval | null;
  readonly registrationVar: Interval | null;
  /** Creep that runs share, mm/m, integrated over the noise. */
  readonly creep: Interval;
  /** mm/m². */
  readonly bow: Interval;
  readonly nodes: readonly DriftNode[];
  /** Variance of a reading of weight 1, as the readings’ own uncertainties have it. */
  readonly unitVarMm2: number;
}

/**
 * What a rig’s runs say about its drift on one axis.
 *
 * Method   restricted maximum likelihood for the noise, profile likelihood for its intervals; creep and bow by
 *          generalised least squares, their intervals integrated over the noise on a grid about its mode
 *          (Rue, Martino & Chopin 2009, 6.5), with the media class’s prior on the noise.
 * Units    m along, mm off; variances in mm².
 */
export function estimateDrift(runs: readonly DriftRun[], prior: DriftPrior): DriftEstimate {
  const read = runs.filter((r) => r.readings.length > 0);
  const steps = stepsOf(read);
  const readings = steps.places.length;
  const told = whatCanBeTold(read);
  const nodes = driftNodes(read, prior);
  const unit = withReadings(prior, read).median;
  const reml = told.length > 0 ? maximise(steps, unit, unit, told) : null;
  const intervals = new Map(
    reml ? told.map((name) => [name, profileInterval(steps, unit, reml, name, told)] as const) : [],
  );
  return {
    version: DRIFT_VERSION,
    runs: read.length,
    readings,
    enough: readings >= READINGS_OF_A_RECORD,
    likeliest: reml && aboveZero(reml.noise),
    wander: intervals.get('wanderMm2PerM') ?? null,
    creepVar: intervals.get('creepVarMm2PerM2') ?? null,
    readingVar: intervals.get('readingVarMm2') ?? null,
    registrationVar: intervals.get('registrationVarMm2') ?? null,
    creep: interval(nodes, (n) => ({ mean: n.creepMmPerM, variance: n.creepVar })),
    bow: interval(nodes, (n) => ({ mean: n.bowMmPerM2, variance: n.bowVar })),
    nodes,
    unitVarMm2: medianSquareU(read),
  };
}

/** The noise that these runs can say anything about; the rest stays at what is assumed. */
function whatCanBeTold(runs: readonly DriftRun[]): NoiseName[] {
  const readings = runs.reduce((sum, r) => sum + r.readings.length, 0);
  const withRate = runs.filter((r) => r.readings.length >= 2).length;
  const again = runs.reduce((sum, r) => sum + Math.max(0, r.registeredAtM.length - 1), 0);
  const told: NoiseName[] = readings >= 5 ? ['wanderMm2PerM', 'readingVarMm2'] : [];
  if (told.length > 0 && withRate >= 2) told.push('creepVarMm2PerM2');
  if (told.length > 0 && again >= REGISTRATIONS_TO_TELL) told.push('registrationVarMm2');
  return told;
}

const aboveZero = (noise: DriftNoise): DriftNoise => ({
  ...noise,
  creepVarMm2PerM2: Math.max(0, noise.creepVarMm2PerM2),
  readingVarMm2: Math.max(0, noise.readingVarMm2),
});

const interval = (
  nodes: readonly DriftNode[],
  of: (node: DriftNode) => { readonly mean: number; readonly variance: number },
): Interval => {
  const parts = nodes.map((n) => ({ weight: n.weight, ...of(n) }));
  return {
    value: parts.reduce((sum, p) => sum + p.weight * p.mean, 0),
    low: mixtureQuantile(parts, 0.025),
    high: mixtureQuantile(parts, 0.975),
  };
};

/** The noise with the named variances set from their logarithms. */
function withLogs(base: DriftNoise, names: readonly NoiseName[], logs: readonly number[]): DriftNoise {
  const noise = { ...base } as Record<NoiseName, number>;
  names.forEach((name, i) => {
    noise[name] = Math.exp(Math.min(HIGHEST, Math.max(LOWEST, logs[i]!)));
  });
  return noise;
}

const logsOf = (noise: DriftNoise, names: readonly NoiseName[]): number[] =>
  names.map((name) => Math.log(noise[name]));

/**
 * Variances that restricted maximum likelihood may find below zero, as long as the readings’ own covariance allows
 * it. Held above zero they would take from the wander on average what chance adds to them; shown, they stop at 0.
 */
const SIGNED: readonly NoiseName[] = ['creepVarMm2PerM2', 'readingVarMm2'];

/** A variance on the scale of the search: its logarithm, or for those that may fall below zero sinh⁻¹ of it. */
const toScale = (name: NoiseName, value: number, unit: DriftNoise): number =>
  SIGNED.includes(name) ? Math.asinh(value / unit[name]) : Math.log(value);
const fromScale = (name: NoiseName, at: number, unit: DriftNoise): number =>
  SIGNED.includes(name) ? unit[name] * Math.sinh(at) : Math.exp(at);

interface Maximum {
  readonly noise: DriftNoise;
  readonly logLikelihood: number;
}

function maximise(
  steps: DriftSteps,
  unit: DriftNoise,
  base: DriftNoise,
  free: readonly NoiseName[],
): Maximum {
  const noiseAt = (at: readonly number[]): DriftNoise => {
    const noise = { ...base } as Record<NoiseName, number>;
    free.forEach((name, i) => {
      noise[name] = fromScale(name, Math.min(SCALE_END, Math.max(-SCALE_END, at[i]!)), unit);
    });
    return noise;
  };
  // Beyond the limits the likelihood is flat; a slope leads back.
  const outside = (at: readonly number[]): number =>
    at.reduce((sum, v) => sum + Math.max(0, -SCALE_END - v, v - SCALE_END), 0);
  const found = nelderMead(
    (at) => outside(at) - filterDrift(steps, noiseAt(at)).logLikelihood,
    free.map((name) => toScale(name, base[name], unit)),
    0.7,
    1e-4,
  );
  return { noise: noiseAt(found.x), logLikelihood: -found.value };
}

const SCALE_END = 14;

/** Where twice the fall of the profile likelihood reaches its limit. */
function profileInterval(
  steps: DriftSteps,
  unit: DriftNoise,
  top: Maximum,
  name: NoiseName,
  told: readonly NoiseName[],
): Interval {
  const others = told.filter((n) => n !== name);
  // F instead of chi-square, with what the readings leave beyond each run's offset and creep: short records need it.
  const runs = new Set(steps.places.map((p) => p.runId)).size;
  const freedom = Math.max(3, steps.places.length - 2 * runs);
  const allowed = coverageFactor(0.95, freedom) ** 2 / 2;
  const peak = toScale(name, top.noise[name], unit);
  const edge = (direction: -1 | 1): number => {
    let from = top.noise;
    const miss = (at: number): number => {
      const fixed = { [name]: fromScale(name, at, unit) };
      // Not every start has a covariance at every value: what was found beyond may not hold here.
      const [start] = [from, top.noise, unit]
        .map((noise) => ({ ...noise, ...fixed }))
        .map((noise) => ({ noise, height: filterDrift(steps, noise).logLikelihood }))
        .sort((a, b) => b.height - a.height);
      const found = maximise(steps, unit, start!.noise, others);
      from = found.noise;
      return top.logLikelihood - found.logLikelihood - allowed;
    };
    let inside = peak;
    let stride = 0.7;
    let outside = peak + direction * stride;
    while (miss(outside) < 0) {
      inside = outside;
      stride *= 1.6;
      outside += direction * stride;
      if (outside <= -SCALE_END) return 0;
      if (outside >= SCALE_END) return fromScale(name, SCALE_END, unit);
    }
    for (let i = 0; i < 12 && Math.abs(outside - inside) > 0.01; i += 1) {
      const middle = (inside + outside) / 2;
      if (miss(middle) < 0) inside = middle;
      else outside = middle;
    }
    return fromScale(name, (inside + outside) / 2, unit);
  };
  const shown = (value: number): number => Math.max(0, value);
  return { value: shown(top.noise[name]), low: shown(edge(-1)), high: shown(edge(1)) };
}

const logPrior = (prior: DriftPrior, noise: DriftNoise, names: readonly NoiseName[]): number =>
  names.reduce((sum, n) => sum - 0.5 * (Math.log(noise[n] / prior.median[n]) / prior.spread[n]) ** 2, 0);

/** The prior with the readings’ own uncertainty for their variance: it is known, more or less, from how they were read. */
function withReadings(prior: DriftPrior, runs: readonly DriftRun[]): DriftPrior {
  return { ...prior, median: { ...prior.median, readingVarMm2: medianSquareU(runs) } };
}

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
  const top = nelderMead((logs) => -density(logs), logsOf(prior.median, names), 1, 1e-4);
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
