import { COARSE_BLUR_MM, COARSE_GRADUATION_MM } from '../tolerance';

import { cutPitchMm, type LineComb } from '../comb/comb';
import { pickOffsetMm, type LinePick } from './linePick';

/** Something that says roughly where the offset is. */
export interface RoughOffset {
  readonly offsetMm: number;
  readonly uMm: number;
}

/** A coarse reading: rounding to half a graduation each way (rectangular, JCGM 100:2008 F.2.2.1). */
export const coarseOffset = (readMm: number): RoughOffset => ({
  offsetMm: readMm,
  uMm: COARSE_GRADUATION_MM / Math.sqrt(12),
});

const SURE = 3;

/** Whether what other combs say is sure enough to tell which whole number of comb lengths a fine pick belongs to. */
export const tellsLengths = (comb: LineComb, rough: RoughOffset): boolean =>
  SURE * rough.uMm < cutPitchMm(comb) / 2;

/** The whole number of comb lengths that brings the pick nearest to the rough offset. */
export const nearestLengths = (comb: LineComb, line: number, between: boolean, rough: RoughOffset): number =>
  Math.round((rough.offsetMm - pickOffsetMm(comb, { line, between, lengths: 0 })) / cutPitchMm(comb));

/** The furthest an honest coarse reading may be from the offset: half a graduation and the eye's blur. */
const COARSE_REACH_OF_TRUTH_MM = COARSE_GRADUATION_MM / 2 + COARSE_BLUR_MM;

/**
 * Whether a coarse reading leaves the comb's lengths open: the offset of the pick is further from it than an honest eye
 * would be, or that of the next comb length is as near as that.
 */
export function coarseLeavesOpen(comb: LineComb, pick: LinePick, coarseMm: number): boolean {
  const apart = Math.abs(pickOffsetMm(comb, pick) - coarseMm);
  return apart > COARSE_REACH_OF_TRUTH_MM || cutPitchMm(comb) - apart < COARSE_REACH_OF_TRUTH_MM;
}
