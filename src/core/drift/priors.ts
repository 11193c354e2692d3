import type { DriftNoise } from './types';

/**
 * What is assumed of a media before its own log says more. Medians and spreads of log-normal priors.
 * Common practice, no source: orders of magnitude that people at roll machines report.
 */
export interface DriftPrior {
  readonly median: DriftNoise;
  /** Variances of the creep (mm/m)² and the bow (mm/m²)² that runs share. */
  readonly creepVar: number;
  readonly bowVar: number;
  /** Standard deviation of the natural logarithm of each variance: wider ones plan sections that nobody needs. */
  readonly spread: DriftNoise;
}

export const MEDIA_CLASSES = ['film', 'paper', 'transfer'] as const;
export type MediaClass = (typeof MEDIA_CLASSES)[number];

const prior = (wander: number, creepSd: number): DriftPrior => ({
  creepVar: 0.5 ** 2,
  bowVar: 0.03 ** 2,
  median: {
    wanderMm2PerM: wander,
    creepVarMm2PerM2: creepSd ** 2,
    readingVarMm2: 0.035 ** 2,
    registrationVarMm2: 0.03 ** 2,
  },
  spread: {
    wanderMm2PerM: 1,
    creepVarMm2PerM2: 1.2,
    readingVarMm2: 0.7,
    registrationVarMm2: 1,
  },
});

export const DRIFT_PRIORS: Readonly<Record<MediaClass, DriftPrior>> = {
  film: prior(0.004, 0.055),
  paper: prior(0.01, 0.1),
  transfer: prior(0.006, 0.08),
};
