import type { Side } from '../marks';

import { stationOf, type ReadingDoubt, type SchoolReadings, type StationReading } from './station';

/* The school of the gaps: how far the cut lies outside the print on each side of a shape, by ruler, loupe or caliper. */

/** A gap on each side, mm, positive where the cut lies outside the print; null where it was not read. */
export type Gaps = Readonly<Record<Side, number | null>>;

export interface GapStation {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly gaps: Gaps;
  /** What the gaps would be if the cut lay where it was meant; 0 each when not given. */
  readonly nominal?: Gaps | undefined;
  /** What the ruler is read to. */
  readonly resolutionMm: number;
}

export interface GapReading extends StationReading {
  /** How much larger the cut is than it should be. */
  readonly sizeXMm: number | null;
  readonly sizeYMm: number | null;
}

/** A cut that is by more than this larger or smaller than drawn is no cut of that shape; no source. */
const IMPOSSIBLE_SIZE_MM = 1;

interface AxisGaps {
  readonly mm: number;
  readonly u: number;
  readonly sizeMm: number;
}

/**
 * dx = (gRight − gLeft)/2 and dy = (gFar − gNear)/2, beyond the nominal gaps; the sums are size errors.
 *
 * Units   mm; u of a gap is r/√12 (JCGM 100:2008 F.2.2.1). With equal nominal gaps both round alike and the offset is no
 *         surer than one gap; where they differ by no whole number of steps the two round differently: u/√2.
 */
export function readGaps(stations: readonly GapStation[]): SchoolReadings<GapReading> {
  const doubts: ReadingDoubt[] = [];
  const read = stations.flatMap((s): GapReading[] => {
    const across = axisOf(s, 'left', 'right');
    const along = axisOf(s, 'near', 'far');
    const station = stationOf(s, across, along);
    for (const [words, axis] of [
      ['wide', across],
      ['long', along],
    ] as const)
      if (axis && Math.abs(axis.sizeMm) > IMPOSSIBLE_SIZE_MM + 2 * s.resolutionMm)
        doubts.push({
          station: s.id,
          code: 'impossible-size',
          message: `By these gaps the cut at ${s.id} is ${Math.abs(axis.sizeMm).toFixed(2)} mm too ${axis.sizeMm > 0 ? words : words === 'wide' ? 'narrow' : 'short'}: measure them again, or say what they should be.`,
        });
    return station ? [{ ...station, sizeXMm: across?.sizeMm ?? null, sizeYMm: along?.sizeMm ?? null }] : [];
  });
  return { stations: read, doubts };
}

function axisOf({ gaps, nominal, resolutionMm }: GapStation, before: Side, after: Side): AxisGaps | null {
  const [low, high] = [gaps[before], gaps[after]];
  if (low === null || high === null) return null;
  const [lowN, highN] = [nominal?.[before] ?? 0, nominal?.[after] ?? 0];
  const u = resolutionMm / Math.sqrt(12);
  return {
    mm: (high - highN - (low - lowN)) / 2,
    u: roundAlike(lowN, highN, resolutionMm) ? u : u / Math.SQRT2,
    sizeMm: high - highN + (low - lowN),
  };
}

/** Equal borders, or ones that differ by whole steps of the ruler, carry one rounding between them. */
function roundAlike(a: number, b: number, stepMm: number): boolean {
  const steps = (b - a) / stepMm;
  return Math.abs(steps - Math.round(steps)) < 0.02;
}
