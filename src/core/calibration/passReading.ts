import { DEFAULT_ACUITY_OF_STEP } from '../tolerance';
import type { Station } from '../proof';
import { pickIntervalMm, pickObservation, type LinePick } from '../readings';
import type { OffsetAxis } from '../units';

import type { PassReading } from './assess';

/** A pick at a station, as everything later needs it. */
export function passReading(station: Station, axis: OffsetAxis, pick: LinePick): PassReading {
  const comb = axis === 'across' ? station.across : station.along;
  return {
    observation: pickObservation(station.id, comb, pick),
    interval: { ...pickIntervalMm(comb, pick), acuityMm: DEFAULT_ACUITY_OF_STEP * comb.stepMm },
  };
}
