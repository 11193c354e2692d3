import type { RegistrationScatter, ToldScatter } from '@/core/correction';
import { angleFigure, capital, lengthText, type LengthUnit } from '@/core/units';

/** Which scatter of loads the figures of cuts to come count, and who says so. */
export function scatterWords(
  { from, loads, shiftMm, turnRad }: ToldScatter,
  unit: LengthUnit,
  /** The log told the rig as it is on average, its loads' scatter included. */
  byLog = false,
): string {
  const counted = byLog ? 'counted for the next' : 'counted for the load that was read and for the next';
  const turn = turnRad > 0 ? ` and ${angleFigure(turnRad)} of turn` : '';
  const much = `${lengthText(shiftMm, unit)}${turn}`;
  return from === 'log'
    ? `Sheet-to-sheet spread: ${much}, from ${loads} loads on record. ${capital(counted)}.`
    : `Sheet-to-sheet spread: ${much} assumed until more loads are on record (${loads} so far). ${capital(counted)}.`;
}

/** Of what loads differ by, what reading the marks makes up, and what is left for loading. */
export function registeredWords(
  { sdMm, lowMm, highMm, pairs }: RegistrationScatter,
  shiftMm: number,
  unit: LengthUnit,
): string {
  const loading = Math.sqrt(Math.max(0, shiftMm ** 2 - sdMm ** 2));
  const most = highMm < shiftMm / 2 ? ' Loading is most of it: mind how the sheet is laid in.' : '';
  const marks =
    lowMm > shiftMm / 2 ? ' Reading the marks is most of it: see that they are clean and evenly lit.' : '';
  return `Registered again without unloading, the cut moves by ${lengthText(sdMm, unit)} (${lengthText(lowMm, unit)} to ${lengthText(highMm, unit)}, from ${pairs} sheets registered twice); that leaves ${lengthText(loading, unit)} to loading.${most}${marks}`;
}
