import type { NoiseName } from './noiseLikelihood';
import type { DriftRun } from './types';

/** Registrations inside runs from which the log can tell their scatter from that of the readings. */
const REGISTRATIONS_TO_TELL = 6;

/** The noise that these runs can say anything about; the rest stays at what is assumed. */
export function whatCanBeTold(runs: readonly DriftRun[]): NoiseName[] {
  const readings = runs.reduce((sum, r) => sum + r.readings.length, 0);
  const withRate = runs.filter((r) => r.readings.length >= 2).length;
  const again = runs.reduce((sum, r) => sum + Math.max(0, r.registeredAtM.length - 1), 0);
  const told: NoiseName[] = readings >= 5 ? ['wanderMm2PerM', 'readingVarMm2'] : [];
  if (told.length > 0 && withRate >= 2) told.push('creepVarMm2PerM2');
  if (told.length > 0 && again >= REGISTRATIONS_TO_TELL) told.push('registrationVarMm2');
  return told;
}
