/** A known distance measured by steel tape: what it should be and what the tape says, mm, with standard uncertainty. */
export interface TapeLength {
  readonly nominalMm: number;
  readonly measuredMm: number;
  readonly uMm: number;
}

/** How much too long something is, mm per m; negative: too short. */
export interface LengthError {
  readonly perM: number;
  readonly uPerM: number;
}

/**
 * How much too long a print or a cut is, from all its tape measures together.
 *
 * Method   mean weighted by 1/u² of (measured − nominal)/nominal; null without a measure.
 * Units    mm in, mm per m out.
 */
export function lengthError(tapes: readonly TapeLength[]): LengthError | null {
  if (tapes.length === 0) return null;
  let weights = 0;
  let sum = 0;
  for (const { nominalMm, measuredMm, uMm } of tapes) {
    const weight = (nominalMm / (1000 * uMm)) ** 2;
    weights += weight;
    sum += (weight * 1000 * (measuredMm - nominalMm)) / nominalMm;
  }
  return { perM: sum / weights, uPerM: 1 / Math.sqrt(weights) };
}

/** Errors under twice their uncertainty are reading noise: adjusting on them makes things worse. */
export const isReal = (error: LengthError): boolean => Math.abs(error.perM) > 2 * error.uPerM;

/**
 * The feed compensation that makes the print as long as it should be.
 *
 * Method   the print grows in proportion to the feed: new = now · nominal/measured, to 0.01 %.
 * Example  100 % and a print 1.5 mm per m too long → 99.85 %.
 */
export const correctedFeed = (nowPercent: number, error: LengthError): number =>
  Math.round((100 * nowPercent) / (1 + error.perM / 1000)) / 100;

/** Creep of the cut against the print from a tape on each, mm per m: cut minus print, as everywhere. */
export const creepFromTapes = (cut: LengthError, print: LengthError): LengthError => ({
  perM: cut.perM - print.perM,
  uPerM: Math.hypot(cut.uPerM, print.uPerM),
});
