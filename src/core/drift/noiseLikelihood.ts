import { coverageFactor } from '../statistics';

import { filterDrift } from './filter';
import { type DriftSteps, medianSquareU } from './steps';
import { nelderMead } from './nelderMead';
import type { DriftPrior } from './priors';
import type { DriftNoise, DriftRun, Interval } from './types';

/** How finely the search tells logarithms of variances apart. */
const LOG_STEP = 1e-4;

export type NoiseName = keyof DriftNoise;

export const NOISE_NAMES = [
  'wanderMm2PerM',
  'creepVarMm2PerM2',
  'readingVarMm2',
  'registrationVarMm2',
] as const satisfies readonly NoiseName[];

/** ln of a variance is looked for between these: from a thousandth of a micrometre squared to a cm². */
const LOWEST = Math.log(1e-10);

const HIGHEST = Math.log(100);

/** The noise with the named variances set from their logarithms. */
export function withLogs(base: DriftNoise, names: readonly NoiseName[], logs: readonly number[]): DriftNoise {
  const noise = { ...base } as Record<NoiseName, number>;
  names.forEach((name, i) => {
    noise[name] = Math.exp(Math.min(HIGHEST, Math.max(LOWEST, logs[i]!)));
  });
  return noise;
}

export const logsOf = (noise: DriftNoise, names: readonly NoiseName[]): number[] =>
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

export function maximise(
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
    LOG_STEP,
  );
  return { noise: noiseAt(found.x), logLikelihood: -found.value };
}

const SCALE_END = 14;

/** Where twice the fall of the profile likelihood reaches its limit. */
export function profileInterval(
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

export const logPrior = (prior: DriftPrior, noise: DriftNoise, names: readonly NoiseName[]): number =>
  names.reduce((sum, n) => sum - 0.5 * (Math.log(noise[n] / prior.median[n]) / prior.spread[n]) ** 2, 0);

/** The prior with the readings’ own uncertainty for their variance: it is known, more or less, from how they were read. */
export function withReadings(prior: DriftPrior, runs: readonly DriftRun[]): DriftPrior {
  return { ...prior, median: { ...prior.median, readingVarMm2: medianSquareU(runs) } };
}
