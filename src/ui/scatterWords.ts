import type { ToldScatter } from '@/core/correction';
import { angleFigure, lengthText, type LengthUnit } from '@/core/units';

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
    ? `Loads differ by ${much}, from ${loads} loads on record: ${counted}.`
    : `Loads are assumed to differ by ${much} until more of this rig are on record (${loads} so far): ${counted}.`;
}
