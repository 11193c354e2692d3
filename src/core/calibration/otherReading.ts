import { readGaps } from '../schools/gaps';
import type { StationReading } from '../schools/station';
import type { OffsetAxis } from '../units';

import type { PassReading } from './assess';

/** The gaps of one axis round a shape as they were measured: what a ruler said, nothing worked out. */
export interface GapPick {
  readonly school: 'gaps';
  /** Left or near, then right or far; mm, positive where the cut lies outside the print. */
  readonly lowMm: number;
  readonly highMm: number;
  /** What they would be if the cut lay where it was meant. */
  readonly nominalLowMm: number;
  readonly nominalHighMm: number;
  readonly resolutionMm: number;
}

/** A figure that came with a table, as it came. */
export interface TablePick {
  readonly school: 'table';
}

/** A reading that is no comb’s: what was seen of one axis at any place. */
export type OtherPick = GapPick | TablePick;

/** One axis at a place, read another way than from a comb. */
export interface OtherReading {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly xMm: number;
  readonly yMm: number;
  readonly offsetMm: number;
  readonly uMm: number;
  readonly pick: OtherPick;
}

/** The readings that a school’s station stands for, one for each axis that was read. */
export function otherReadings(
  station: StationReading,
  pickOf: (axis: OffsetAxis) => OtherPick,
): OtherReading[] {
  return (['across', 'along'] as const).flatMap((axis) => {
    const [offsetMm, uMm] = axis === 'across' ? [station.dx, station.ux] : [station.dy, station.uy];
    if (offsetMm === null || uMm === null) return [];
    return [
      { stationId: station.id, axis, xMm: station.x, yMm: station.y, offsetMm, uMm, pick: pickOf(axis) },
    ];
  });
}

/**
 * The same as everything after Read needs it. A ruler’s rounding is an interval of ± √3 u in which the gap lies anywhere; a
 * table’s u is taken as normal.
 */
export function otherPassReading({
  stationId,
  axis,
  xMm,
  yMm,
  offsetMm,
  uMm,
  pick,
}: OtherReading): PassReading {
  const half = pick.school === 'gaps' ? Math.sqrt(3) * uMm : 0;
  return {
    observation: { stationId, axis, xMm, yMm, offsetMm, uMm },
    interval: {
      loMm: offsetMm - half,
      hiMm: offsetMm + half,
      acuityMm: pick.school === 'gaps' ? uMm / 10 : uMm,
    },
    lengthMm: 0,
    coarseMm: null,
    lengthsOpen: false,
  };
}

/** Gaps round one shape, as they are typed; null where a side was not read. */
export interface TypedGaps {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly gaps: Readonly<Record<'left' | 'right' | 'near' | 'far', number | null>>;
  readonly nominalMm: number;
  readonly resolutionMm: number;
}

/** Readings and doubts of gaps round a shape whose border is meant to be equally wide all round. */
export function gapReadings({ nominalMm, resolutionMm, ...typed }: TypedGaps) {
  const nominal = { left: nominalMm, right: nominalMm, near: nominalMm, far: nominalMm };
  const { stations, doubts } = readGaps([{ ...typed, nominal, resolutionMm }]);
  const { left, right, near, far } = typed.gaps;
  return {
    readings: stations.flatMap((s) =>
      otherReadings(s, (axis) => ({
        school: 'gaps',
        lowMm: (axis === 'across' ? left : near)!,
        highMm: (axis === 'across' ? right : far)!,
        nominalLowMm: nominalMm,
        nominalHighMm: nominalMm,
        resolutionMm,
      })),
    ),
    doubts,
  };
}
