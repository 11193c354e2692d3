import { DEFAULT_ACUITY_OF_STEP } from '../tolerance';
import type { Observation } from '../fit';

import { cutLineMm, cutPitchMm, lineLabelMm, type LineComb } from '../comb/comb';

/** What a person saw: printed line `line` runs straight through, or the place between it and the next. */
export interface LinePick {
  readonly line: number;
  readonly between: boolean;
  /** m: whole comb lengths to add, from the coarse scale or from what the fit predicts. */
  readonly lengths: number;
}

/** The offset of a pick, before its uncertainty; mm. */
export const pickOffsetMm = (comb: LineComb, pick: LinePick): number =>
  lineLabelMm(comb, pick.line) + (pick.between ? comb.stepMm / 2 : 0) + pick.lengths * cutPitchMm(comb);

/** The interval the offset lies in, given the pick; mm. */
export function pickIntervalMm(
  comb: LineComb,
  pick: LinePick,
): { readonly loMm: number; readonly hiMm: number } {
  const offset = pickOffsetMm(comb, pick);
  return { loMm: offset - comb.stepMm / 2, hiMm: offset + comb.stepMm / 2 };
}

/**
 * Standard uncertainty of one pick: u² = δ²/12 + σ_a².
 * Source: resolution, JCGM 100:2008 (GUM) F.2.2.1 (0.29 δ); σ_a is the acuity of the eye, 0.2 δ by default.
 */
export const pickUncertaintyMm = (stepMm: number, acuityMm = DEFAULT_ACUITY_OF_STEP * stepMm): number =>
  Math.sqrt(stepMm ** 2 / 12 + acuityMm ** 2);

/**
 * A pick as an observation, at the place where the cut line was commanded.
 * The place matters: with scale in play a pair near the comb's end is read some millimetres off centre.
 */
export function pickObservation(
  stationId: string,
  comb: LineComb,
  pick: LinePick,
  acuityMm?: number,
): Observation {
  const half = pick.between ? 0.5 : 0;
  const commandedMm = cutLineMm(comb, pick.line + half - pick.lengths);
  return {
    stationId,
    axis: comb.axis,
    xMm: comb.centre.x + (comb.axis === 'across' ? commandedMm : 0),
    yMm: comb.centre.y + (comb.axis === 'along' ? commandedMm : 0),
    offsetMm: pickOffsetMm(comb, pick),
    uMm: pickUncertaintyMm(comb.stepMm, acuityMm),
  };
}

/** The pick nearest to an offset: what the comb would look like there. */
export function pickNearest(comb: LineComb, offsetMm: number, allowBetween = false): LinePick {
  const grain = allowBetween ? 2 : 1;
  const steps = Math.round(((offsetMm - comb.phaseMm) / comb.stepMm) * grain) / grain;
  return pickFromSteps(comb, steps);
}

/** Steps counted through whole comb lengths; the arrow keys add and subtract on this. */
export const pickSteps = (comb: LineComb, pick: LinePick): number =>
  pick.line + (pick.between ? 0.5 : 0) + pick.lengths * (2 * comb.halfLines + 1);

export function pickFromSteps(comb: LineComb, steps: number): LinePick {
  const period = 2 * comb.halfLines + 1;
  const whole = Math.floor(steps);
  const lengths = Math.floor((whole + comb.halfLines) / period);
  return { line: whole - lengths * period, between: steps !== whole, lengths };
}
