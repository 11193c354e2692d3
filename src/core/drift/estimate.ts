import { mixtureQuantile } from './mixture';
import { driftNodes } from './nodes';
import { maximise, profileInterval, withReadings } from './noiseLikelihood';
import type { DriftPrior } from './priors';
import { medianSquareU, stepsOf } from './steps';
import type { DriftNode, DriftNoise, DriftRun, Interval } from './types';
import { whatCanBeTold } from './whatIsTold';

/** Kept with every stored estimate and plan. */
export const DRIFT_VERSION = 'drift-4';

/** Readings that about four runs of twelve sections leave. */
export const READINGS_OF_A_RECORD = 48;

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
