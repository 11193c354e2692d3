import type { RollerRoom } from '@/core/layout';
import { plainLength, type LengthUnit } from '@/core/units';

/** What is wrong with the room for the outer rollers, and what would be right. */
export const rollerWarnings = (room: readonly RollerRoom[], rollerMm: number, unit: LengthUnit): string[] =>
  room
    .filter((r) => !r.fits)
    .map(
      ({ side, fromMm, toMm }) =>
        `No roller fits outside the marks on the print’s ${side}: it needs ${plainLength(rollerMm, unit)} and has ${plainLength(Math.max(0, toMm - fromMm), unit)}. Move the marks further in, before anything is printed.`,
    );

/** “3 to 32 mm from the left edge and 3 to 32 mm from the right edge” */
export const rollerPlaces = (room: readonly RollerRoom[], unit: LengthUnit): string =>
  room
    .map(
      (r) =>
        `${plainLength(r.fromMm, unit).split(' ')[0]} to ${plainLength(r.toMm, unit)} from the ${r.side} edge`,
    )
    .join(' and ');
