import type { OffsetAxis } from '../units';
import { intervalEstimate, pickUncertaintyMm, type PickedInterval } from '../readings';
import { DEFAULT_ACUITY_OF_STEP } from '../tolerance';

import { stationOf, type ReadingDoubt, type SchoolReadings, type StationReading } from './station';

/** No eye is sharper; keeps the likelihood smooth. */
const LEAST_ACUITY_MM = 1e-6;

/*
 * The school of the even border: a row of printed shapes, shape k cut with a commanded step of k·s + φ; the one whose
 * border is even all round says that the offset is −(k·s + φ).
 */

export interface RingRow {
  readonly axis: OffsetAxis;
  /** s: how much further each ring of the row is cut, mm. */
  readonly stepMm: number;
  /** φ: by how much the whole row is staggered, mm. */
  readonly phaseMm: number;
  readonly acuityMm?: number | undefined;
  /** The even one, or the place between it and the next higher. */
  readonly pick: { readonly ring: number; readonly between: boolean };
}

export interface RingStation {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly rows: readonly RingRow[];
}

/** The offset that a row says, mm. */
export const ringOffsetMm = ({
  stepMm,
  phaseMm,
  pick,
}: Pick<RingRow, 'stepMm' | 'phaseMm' | 'pick'>): number =>
  -((pick.ring + (pick.between ? 0.5 : 0)) * stepMm + phaseMm);

const acuityOf = ({ stepMm, acuityMm }: RingRow): number => acuityMm ?? DEFAULT_ACUITY_OF_STEP * stepMm;

const intervalOf = (row: RingRow): PickedInterval => {
  const mm = ringOffsetMm(row);
  return {
    loMm: mm - row.stepMm / 2,
    hiMm: mm + row.stepMm / 2,
    acuityMm: Math.max(LEAST_ACUITY_MM, acuityOf(row)),
  };
};

/**
 * Stations from rows of rings. Rows of one axis at one station are joined by the product of their pick likelihoods; where
 * they contradict each other, their mean is taken and it is said.
 *
 * Units   mm; u² = s²/12 + σ_a², resolution by JCGM 100:2008 F.2.2.1, the eye's acuity 0.2 s unless given.
 */
export function readRings(stations: readonly RingStation[]): SchoolReadings {
  const doubts: ReadingDoubt[] = [];
  const read = stations.flatMap((s): StationReading[] => {
    const axis = (name: OffsetAxis) => {
      const rows = s.rows.filter((r) => r.axis === name);
      if (rows.length === 0) return null;
      const joined = joinedOf(rows);
      if (joined.contradict)
        doubts.push({
          station: s.id,
          code: 'rows-disagree',
          message: `The rows ${name === 'across' ? 'across' : 'along'} at ${s.id} say ${rows.map((r) => `${ringOffsetMm(r).toFixed(2)} mm`).join(' and ')}: read them again.`,
        });
      return joined;
    };
    const station = stationOf(s, axis('across'), axis('along'));
    return station ? [station] : [];
  });
  return { stations: read, doubts };
}

function joinedOf(rows: readonly RingRow[]) {
  const [only] = rows;
  if (rows.length === 1)
    return {
      mm: ringOffsetMm(only!),
      u: pickUncertaintyMm(only!.stepMm, acuityOf(only!)),
      contradict: false,
    };
  const estimate = intervalEstimate(rows.map(intervalOf));
  const us = rows.map((r) => pickUncertaintyMm(r.stepMm, acuityOf(r)));
  const mean = rows.reduce((sum, r) => sum + ringOffsetMm(r), 0) / rows.length;
  const apart = Math.max(...rows.map((r) => Math.abs(ringOffsetMm(r) - mean)));
  const contradict = !estimate || apart > 3 * Math.max(...us);
  return contradict || !estimate
    ? { mm: mean, u: Math.max(...us, apart), contradict }
    : { mm: estimate.meanMm, u: estimate.sdMm, contradict };
}
