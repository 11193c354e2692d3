/*
 * Drift along a roll, one axis at a time. Distances y in m along the feed from the run's first registration,
 * offsets in mm (cut minus print), variances in mm². See docs/maths.md, “Long rolls”.
 */

/** One offset read at a distance along a run; `uMm` weighs it against the other readings. */
export interface DriftReading {
  readonly id: string;
  readonly yM: number;
  readonly offsetMm: number;
  readonly uMm: number;
}

/** The readings of one axis of one run, with what happened on the way. */
export interface DriftRun {
  readonly id: string;
  /** Where the cutter found its marks; the first is where the run began. */
  readonly registeredAtM: readonly number[];
  /** In order of distance. */
  readonly readings: readonly DriftReading[];
  /** Indices of readings before which the media is taken to have slipped. */
  readonly slipsBefore?: readonly number[];
}

/** What sets the size of the random part. */
export interface DriftNoise {
  /** Variance of the wander per metre, mm²/m: a random walk. */
  readonly wanderMm2PerM: number;
  /** Variance of the creep from run to run, (mm/m)². */
  readonly creepVarMm2PerM2: number;
  /** Variance of a reading of average weight, mm². */
  readonly readingVarMm2: number;
  /** Variance of one registration, mm². */
  readonly registrationVarMm2: number;
}

/** Creep and bow that all runs share, with their covariance. */
export interface SharedDrift {
  readonly creepMmPerM: number;
  readonly bowMmPerM2: number;
  readonly creepVar: number;
  readonly bowVar: number;
  readonly creepBowCov: number;
}

/** One point of the posterior over the noise, with what the log says about creep and bow if it were true. */
export interface DriftNode extends DriftNoise, SharedDrift {
  readonly weight: number;
}

export interface Interval {
  readonly value: number;
  readonly low: number;
  readonly high: number;
}

/** A sudden slip of the media. */
export interface SlipFound {
  readonly runId: string;
  /** Index of the first reading after it. */
  readonly beforeReading: number;
  readonly fromM: number;
  readonly toM: number;
  /** 95 of 100 intervals hold the true size. */
  readonly sizeMm: Interval;
  /** Whether registering anew leaves it in place: then it is the registration that moved. */
  readonly ofRegistration: boolean;
  /** Size over its standard error, and the simulated limit that wander alone passes 5 times in 100. */
  readonly statistic: number;
  readonly limit: number;
}
