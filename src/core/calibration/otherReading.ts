import type { Point } from '../geometry';
import type { Side } from '../marks';
import { ringPlace, STATION, type RingRowDrawn } from '../proof';
import { readRings } from '../schools/evenBorder';
import { readGaps } from '../schools/gaps';
import type { ReadingDoubt, StationReading } from '../schools/station';
import { DEFAULT_ACUITY_OF_STEP } from '../tolerance';
import { OFFSET_AXES, type OffsetAxis } from '../units';

import type { PassReading } from './passReading';

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

/** The even ring of a row, or the place between it and the next higher, as the school of rings counts them. */
export interface RingPick {
  readonly school: 'rings';
  readonly ring: number;
  readonly between: boolean;
  readonly stepMm: number;
  readonly phaseMm: number;
}

/** Every station's ring looked even all round at once: the cut is off by no more than an eye sees. */
export interface EvenPick {
  readonly school: 'even';
  readonly withinMm: number;
}

/** A reading that is no comb’s: what was seen of one axis at any place. */
export type OtherPick = GapPick | TablePick | RingPick | EvenPick;

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
 * ring’s is half a step each way, seen with the eye’s acuity; a table’s u is taken as normal.
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
  return {
    observation: { stationId, axis, xMm, yMm, offsetMm, uMm },
    interval: intervalOf(offsetMm, uMm, pick),
    lengthMm: 0,
    coarseMm: null,
    lengthsOpen: false,
  };
}

function intervalOf(offsetMm: number, uMm: number, pick: OtherPick): PassReading['interval'] {
  const about = (half: number, acuityMm: number) => ({
    ...{ loMm: offsetMm - half, hiMm: offsetMm + half, acuityMm },
  });
  switch (pick.school) {
    case 'gaps':
      return about(Math.sqrt(3) * uMm, uMm / 10);
    case 'rings':
      return about(pick.stepMm / 2, DEFAULT_ACUITY_OF_STEP * pick.stepMm);
    case 'even':
      return about(pick.withinMm, pick.withinMm / 10);
    case 'table':
      return about(0, uMm);
    default:
      return pick satisfies never;
  }
}

/** A row of rings on our own sheet, read: the ring `j` that is even, half a ring where it is between two. */
export function ringReading(stationId: string, row: RingRowDrawn, j: number) {
  const between = !Number.isInteger(j);
  // The school counts the other way: ring k is cut k steps further.
  const pick = { ring: -Math.ceil(j), between };
  const place = ringPlace(row, j);
  const { axis, stepMm, phaseMm } = row;
  const { stations } = readRings([
    { id: stationId, x: place.x, y: place.y, rows: [{ axis, stepMm, phaseMm, pick }] },
  ]);
  const doubts: ReadingDoubt[] =
    Math.abs(j) < row.half
      ? []
      : [
          {
            station: stationId,
            code: 'end-of-row',
            message: `The last ring ${axis} at ${stationId} is the even one: the cut may be further off than the rings reach. Read the comb there too, or take a wider step.`,
          },
        ];
  return {
    readings: stations.flatMap((s) =>
      otherReadings(s, () => ({ school: 'rings', ...pick, stepMm, phaseMm })),
    ),
    doubts,
  };
}

/**
 * A border that is a tenth wider than the other still looks even: of the border round a station's hole that is so much off
 * (common practice, no source; a fifth is seen at a glance).
 */
export const EVEN_WITHIN_MM = 0.1 * (STATION.discRadiusMm - STATION.windowRadiusMm);

/**
 * Every ring of a set even all round: nought at each station, off by no more than an eye sees. One look at all of them rounds
 * all of them alike, so that together they are no surer than one.
 */
export function evenReadings(
  stations: readonly { readonly id: string; readonly centre: Point }[],
): OtherReading[] {
  const uMm = (EVEN_WITHIN_MM / Math.sqrt(3)) * Math.sqrt(stations.length);
  return stations.flatMap(({ id, centre }) =>
    OFFSET_AXES.map((axis) => ({
      ...{ stationId: `${EVEN_PREFIX}-${id}`, axis, xMm: centre.x, yMm: centre.y, offsetMm: 0, uMm },
      pick: { school: 'even' as const, withinMm: EVEN_WITHIN_MM },
    })),
  );
}

/** Names of what the quick look said, apart from those of the sheet's stations. */
const EVEN_PREFIX = 'E';

/** Which ring of the row was kept, as `ringReading` counts them. */
export const ringOf = ({ ring, between }: Pick<RingPick, 'ring' | 'between'>): number =>
  between ? -ring - 0.5 : -ring;

/** Gaps round one shape, as they are typed; null where a side was not read. */
export interface TypedGaps {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly gaps: Readonly<Record<Side, number | null>>;
  /** The border that was meant: equally wide all round, or of its own on each side. */
  readonly nominalMm: number | Readonly<Record<Side, number>>;
  readonly resolutionMm: number;
}

/** Readings and doubts of gaps round a shape. */
export function gapReadings({ nominalMm: of, resolutionMm, ...typed }: TypedGaps) {
  const nominal = typeof of === 'number' ? { left: of, right: of, near: of, far: of } : of;
  const { stations, doubts } = readGaps([{ ...typed, nominal, resolutionMm }]);
  const { left, right, near, far } = typed.gaps;
  return {
    readings: stations.flatMap((s) =>
      otherReadings(s, (axis) => ({
        school: 'gaps',
        lowMm: (axis === 'across' ? left : near)!,
        highMm: (axis === 'across' ? right : far)!,
        nominalLowMm: axis === 'across' ? nominal.left : nominal.near,
        nominalHighMm: axis === 'across' ? nominal.right : nominal.far,
        resolutionMm,
      })),
    ),
    doubts,
  };
}
