import { DEFAULT_ACUITY_OF_STEP } from '../tolerance';
import type { Station } from '../proof';
import {
  coarseLeavesOpen,
  cutPitchMm,
  pickIntervalMm,
  pickObservation,
  type LinePick,
  type PickedInterval,
} from '../comb';
import type { OffsetAxis } from '../units';

import type { Observation } from '../fit';

/**
 * A pick at a station, and where its coarse cross was read, as everything later needs it. `seenAcuityMm`: what a repeat study
 * saw of the eye; it counts where it is more than what is assumed.
 */
export function passReading(
  station: Station,
  axis: OffsetAxis,
  pick: LinePick,
  coarseMm: number | null = null,
  seenAcuityMm: number | null = null,
): PassReading {
  const comb = axis === 'across' ? station.across : station.along;
  const acuityMm = Math.max(DEFAULT_ACUITY_OF_STEP * comb.stepMm, seenAcuityMm ?? 0);
  return {
    observation: pickObservation(station.id, comb, pick, acuityMm),
    interval: { ...pickIntervalMm(comb, pick), acuityMm },
    lengthMm: cutPitchMm(comb),
    coarseMm,
    // Where every station is cut the same way nobody can tell.
    from: station.fromHigh === undefined ? undefined : station.fromHigh ? 1 : -1,
    lengthsOpen: coarseMm !== null && coarseLeavesOpen(comb, pick, coarseMm),
  };
}

/** A reading as it is kept: the observation, and the interval its pick stands for. */
export interface PassReading {
  readonly observation: Observation;
  readonly interval: PickedInterval;
  /** The comb's length: what a pick is off by when its lengths are miscounted. */
  readonly lengthMm: number;
  /** Where the coarse cross was read, or null when other combs told the lengths. */
  readonly coarseMm: number | null;
  /** Cut from the high side (1) or the low side (-1) of its axis; nothing where nobody knows. */
  readonly from?: 1 | -1 | undefined;
  /** Cross and comb do not agree, or another comb length agrees as well. */
  readonly lengthsOpen: boolean;
}
