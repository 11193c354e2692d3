import { chiSquareQuantile } from '../statistics';

/** Two sets cut of one load, each registered by itself: how far the second lies from where the first leads to expect it. */
export interface RegisteredTwice {
  readonly xMm: number;
  readonly yMm: number;
  /** What reading both, and what was typed in between, leave open: a variance per axis, mm². */
  readonly varMm2: number;
}

/** What reading the marks again adds by itself: part of what loads differ by. */
export interface RegistrationScatter {
  /** Standard deviation per axis, mm; never below nought. */
  readonly sdMm: number;
  /** 95 % interval. */
  readonly lowMm: number;
  readonly highMm: number;
  readonly pairs: number;
}

/** Pairs from which it is told. */
const PAIRS_TO_TELL = 2;

/**
 * How much reading the marks scatters, from sheets that were registered twice without unloading: what loading adds is the rest
 * of what loads differ by.
 *
 * Method   mean square of the differences, an axis, less what reading them leaves open, halved: two registrations differ by
 *          √2 of one. Interval: χ² of that mean square with two degrees of freedom a pair, the reading's part taken as known.
 */
export function registrationScatter(pairs: readonly RegisteredTwice[]): RegistrationScatter | null {
  if (pairs.length < PAIRS_TO_TELL) return null;
  const dof = 2 * pairs.length;
  const square = pairs.reduce((sum, p) => sum + p.xMm ** 2 + p.yMm ** 2, 0) / dof;
  const reading = pairs.reduce((sum, p) => sum + p.varMm2, 0) / pairs.length;
  const sdOf = (meanSquare: number): number => Math.sqrt(Math.max(0, meanSquare - reading) / 2);
  return {
    sdMm: sdOf(square),
    lowMm: sdOf((dof * square) / chiSquareQuantile(0.975, dof)),
    highMm: sdOf((dof * square) / chiSquareQuantile(0.025, dof)),
    pairs: pairs.length,
  };
}
