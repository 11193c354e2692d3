import { ADVANCE, BEGIN, type DriftSteps, REGISTER, REGISTER_SLIPPED, SLIP } from './steps';
import type { DriftNoise, SharedDrift } from './types';

/** Less information than this tells no step. */
const NO_INFORMATION = 1e-12;

/*
 * A linear Gaussian state space for all runs of a rig, one axis.
 *
 * State    0 level (mm) at the current place, 1 creep of this run (mm/m), 2 bow (mm/m²), 3 creep that runs share,
 *          4 offset (mm) of this run’s registrations.
 * Source   Durbin & Koopman, Time Series Analysis by State Space Methods, 2nd ed.: filter 4.3, disturbance
 *          smoothing 4.5, auxiliary residuals 7.5. With wide priors on 2, 3 and 4 the likelihood is the restricted
 *          one (REML) up to a constant, and the states 2 and 3 are the generalised least squares estimates.
 * Differs  the wide priors are proper and physical instead of limits to infinity.
 */

const STATES = 5;

const LEVEL = 0;

const CREEP = 1;

const BOW = 2;

const SHARED_CREEP = 3;

const HOME = 4;

/** What is known of creep, bow and the run’s own offset before its readings. */
export interface FilterPrior extends SharedDrift {
  readonly homeVar: number;
}

/** No rig is this far out before it is noticed by eye. */
export const WIDE: FilterPrior = {
  creepMmPerM: 0,
  bowMmPerM2: 0,
  creepVar: 5 ** 2,
  bowVar: 0.5 ** 2,
  creepBowCov: 0,
  homeVar: 10 ** 2,
};

/** A slip is taken to be of any size up to some cm. */
const SLIP_VAR_MM2 = 10 ** 2;

export interface Filtered {
  /** Restricted log-likelihood, up to a constant that no noise changes. */
  readonly logLikelihood: number;
  readonly shared: SharedDrift;
  /** Level and its variance after the last step. */
  readonly levelMm: number;
  readonly levelVarMm2: number;
}

/** What the backward pass needs of each reading. */
export interface Trace {
  readonly innovation: Float64Array;
  readonly variance: Float64Array;
  /** Gain, STATES long for each reading. */
  readonly gain: Float64Array;
}

export const newTrace = (readings: number): Trace => ({
  innovation: new Float64Array(readings),
  variance: new Float64Array(readings),
  gain: new Float64Array(readings * STATES),
});

// One switch over the kinds of step, on state that they all share: parts of it say less than the whole.
/* eslint-disable max-lines-per-function */

/** One pass forward over all steps. `offsets`, when given, stand in for the readings. */
export function filterDrift(
  steps: DriftSteps,
  noise: DriftNoise,
  prior: FilterPrior = WIDE,
  trace: Trace | null = null,
  offsets: Float64Array | null = null,
): Filtered {
  const { kinds, first, second, reading } = steps;
  const x = new Float64Array(STATES);
  const p = new Float64Array(STATES * STATES);
  const at = (i: number, j: number): number => i * STATES + j;
  x[BOW] = prior.bowMmPerM2;
  x[SHARED_CREEP] = prior.creepMmPerM;
  p[at(BOW, BOW)] = prior.bowVar;
  p[at(SHARED_CREEP, SHARED_CREEP)] = prior.creepVar;
  p[at(BOW, SHARED_CREEP)] = p[at(SHARED_CREEP, BOW)] = prior.creepBowCov;
  let logLikelihood = 0;

  /** State i becomes a copy of state j, plus independent noise. */
  const copy = (i: number, j: number, variance: number): void => {
    x[i] = x[j]!;
    for (let c = 0; c < STATES; c += 1) p[at(i, c)] = p[at(j, c)]!;
    for (let r = 0; r < STATES; r += 1) p[at(r, i)] = p[at(r, j)]!;
    p[at(i, i)] = p[at(j, j)]! + variance;
  };
  const forget = (i: number, variance: number): void => {
    x[i] = 0;
    for (let c = 0; c < STATES; c += 1) p[at(i, c)] = p[at(c, i)] = 0;
    p[at(i, i)] = variance;
  };

  for (let s = 0; s < kinds.length; s += 1) {
    switch (kinds[s]) {
      case BEGIN:
        copy(CREEP, SHARED_CREEP, noise.creepVarMm2PerM2);
        forget(HOME, prior.homeVar);
        break;
      case REGISTER_SLIPPED:
        p[at(HOME, HOME)]! += SLIP_VAR_MM2;
        copy(LEVEL, HOME, noise.registrationVarMm2);
        break;
      case REGISTER:
        copy(LEVEL, HOME, noise.registrationVarMm2);
        break;
      case ADVANCE: {
        const dy = first[s]!;
        const dy2 = second[s]!;
        x[LEVEL] = x[LEVEL]! + dy * x[CREEP]! + dy2 * x[BOW]!;
        for (let c = 0; c < STATES; c += 1)
          p[at(LEVEL, c)] = p[at(LEVEL, c)]! + dy * p[at(CREEP, c)]! + dy2 * p[at(BOW, c)]!;
        for (let r = 0; r < STATES; r += 1)
          p[at(r, LEVEL)] = p[at(r, LEVEL)]! + dy * p[at(r, CREEP)]! + dy2 * p[at(r, BOW)]!;
        p[at(LEVEL, LEVEL)]! += noise.wanderMm2PerM * dy;
        break;
      }
      case SLIP:
        p[at(LEVEL, LEVEL)]! += SLIP_VAR_MM2;
        break;
      default: {
        const n = reading[s]!;
        const variance = p[at(LEVEL, LEVEL)]! + noise.readingVarMm2 * second[s]!;
        const innovation = (offsets === null ? first[s]! : offsets[n]!) - x[LEVEL]!;
        // A variance below zero was asked for that these readings cannot have.
        if (!(variance > 0)) return NOT_POSSIBLE;
        logLikelihood -= 0.5 * (Math.log(variance) + (innovation * innovation) / variance);
        const gain = [0, 0, 0, 0, 0];
        for (let i = 0; i < STATES; i += 1) gain[i] = p[at(i, LEVEL)]! / variance;
        for (let i = 0; i < STATES; i += 1) {
          x[i] = x[i]! + gain[i]! * innovation;
          for (let j = 0; j < STATES; j += 1) p[at(i, j)] = p[at(i, j)]! - gain[i]! * gain[j]! * variance;
        }
        if (trace !== null) {
          trace.innovation[n] = innovation;
          trace.variance[n] = variance;
          for (let i = 0; i < STATES; i += 1) trace.gain[n * STATES + i] = gain[i]!;
        }
      }
    }
  }
  return {
    logLikelihood,
    shared: {
      creepMmPerM: x[SHARED_CREEP]!,
      bowMmPerM2: x[BOW]!,
      creepVar: p[at(SHARED_CREEP, SHARED_CREEP)]!,
      bowVar: p[at(BOW, BOW)]!,
      creepBowCov: p[at(BOW, SHARED_CREEP)]!,
    },
    levelMm: x[LEVEL]!,
    levelVarMm2: p[at(LEVEL, LEVEL)]!,
  };
}

const NOT_POSSIBLE: Filtered = {
  logLikelihood: -Infinity,
  shared: WIDE,
  levelMm: Number.NaN,
  levelVarMm2: Number.NaN,
};

/** A step before a reading: its generalised least squares size and variance; null where none can be told. */
export interface StepAt {
  readonly sizeMm: Float64Array;
  /** NaN where no step can be told. */
  readonly varianceMm2: Float64Array;
}

/**
 * The best size of a single step before each reading, all in one pass backward (de Jong & Penzer 1998).
 * Where the cutter registered between two readings, the step is one of the registration.
 */
export function stepsBefore(steps: DriftSteps, trace: Trace): StepAt {
  const { kinds, first, second, reading, places } = steps;
  const sizeMm = new Float64Array(places.length);
  const varianceMm2 = new Float64Array(places.length).fill(Number.NaN);
  const r = new Float64Array(STATES);
  const n = new Float64Array(STATES * STATES);
  const at = (i: number, j: number): number => i * STATES + j;
  /** State j took the part of state i too: Tᵀ of a copy i ← j. */
  const fold = (i: number, j: number): void => {
    r[j] = r[j]! + r[i]!;
    r[i] = 0;
    for (let c = 0; c < STATES; c += 1) n[at(c, j)] = n[at(c, j)]! + n[at(c, i)]!;
    for (let c = 0; c < STATES; c += 1) n[at(j, c)] = n[at(j, c)]! + n[at(i, c)]!;
    for (let c = 0; c < STATES; c += 1) n[at(c, i)] = n[at(i, c)] = 0;
  };
  const note = (k: number, state: number): void => {
    const information = n[at(state, state)]!;
    if (!(information > NO_INFORMATION)) return;
    sizeMm[k] = r[state]! / information;
    varianceMm2[k] = 1 / information;
  };
  let waiting = -1;
  for (let s = kinds.length - 1; s >= 0; s -= 1) {
    switch (kinds[s]) {
      case BEGIN:
        fold(CREEP, SHARED_CREEP);
        r[HOME] = 0;
        for (let c = 0; c < STATES; c += 1) n[at(c, HOME)] = n[at(HOME, c)] = 0;
        waiting = -1;
        break;
      case REGISTER:
      case REGISTER_SLIPPED:
        fold(LEVEL, HOME);
        if (waiting >= 0 && places[waiting]!.registeredBetween) note(waiting, HOME);
        waiting = -1;
        break;
      case ADVANCE: {
        const dy = first[s]!;
        const dy2 = second[s]!;
        r[CREEP] = r[CREEP]! + dy * r[LEVEL]!;
        r[BOW] = r[BOW]! + dy2 * r[LEVEL]!;
        for (let c = 0; c < STATES; c += 1) {
          n[at(c, CREEP)] = n[at(c, CREEP)]! + dy * n[at(c, LEVEL)]!;
          n[at(c, BOW)] = n[at(c, BOW)]! + dy2 * n[at(c, LEVEL)]!;
        }
        for (let c = 0; c < STATES; c += 1) {
          n[at(CREEP, c)] = n[at(CREEP, c)]! + dy * n[at(LEVEL, c)]!;
          n[at(BOW, c)] = n[at(BOW, c)]! + dy2 * n[at(LEVEL, c)]!;
        }
        break;
      }
      case SLIP:
        break;
      default: {
        const k = reading[s]!;
        const variance = trace.variance[k]!;
        const gain = trace.gain.subarray(k * STATES, (k + 1) * STATES);
        // L = I − gain·zᵀ with z the level: Lᵀr changes only the level’s entry.
        let along = 0;
        for (let i = 0; i < STATES; i += 1) along += gain[i]! * r[i]!;
        r[LEVEL] = r[LEVEL]! - along + trace.innovation[k]! / variance;
        const ng = [0, 0, 0, 0, 0];
        for (let i = 0; i < STATES; i += 1) {
          let sum = 0;
          for (let j = 0; j < STATES; j += 1) sum += n[at(i, j)]! * gain[j]!;
          ng[i] = sum;
        }
        let gng = 0;
        for (let i = 0; i < STATES; i += 1) gng += gain[i]! * ng[i]!;
        for (let i = 0; i < STATES; i += 1) {
          n[at(LEVEL, i)] = n[at(LEVEL, i)]! - ng[i]!;
          n[at(i, LEVEL)] = n[at(i, LEVEL)]! - ng[i]!;
        }
        n[at(LEVEL, LEVEL)]! += gng + 1 / variance;
        const place = places[k]!;
        if (place.previousM !== null && !place.registeredBetween && place.yM > place.previousM)
          note(k, LEVEL);
        waiting = k;
      }
    }
  }
  return { sizeMm, varianceMm2 };
}
