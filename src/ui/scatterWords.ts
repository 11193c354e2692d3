import type { ToldScatter } from '@/core/correction';
import { angleFigure, lengthText, type LengthUnit } from '@/core/units';

/** Which scatter of loads the figures of cuts to come count, and who says so. */
export function scatterWords({ from, loads, shiftMm, turnRad }: ToldScatter, unit: LengthUnit): string {
  const turn = turnRad > 0 ? ` and ${angleFigure(turnRad)} of turn` : '';
  const much = `${lengthText(shiftMm, unit)}${turn}`;
  return from === 'log'
    ? `Loads differ by ${much}, from ${loads} loads on record: counted for the load that was read and for the next.`
    : `Loads are assumed to differ by ${much} until more of this rig are on record (${loads} so far): counted for the load that was read and for the next.`;
}
