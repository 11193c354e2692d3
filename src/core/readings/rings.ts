import { z } from 'zod';

import { accept, refuse } from '../outcome';
import { ringPlace, type RingRowDrawn } from '../proof';
import { OFFSET_AXES } from '../units';
import { above0, coordinate, finite, stationOfSheet, stationPlace, stationsSchema } from './shapes';
import { about, askedBy, keptBy, readingsOf, type Way } from './way';
import type { OffsetAxis } from '../units';
import { intervalEstimate, pickUncertaintyMm, type PickedInterval } from '../comb';
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

const PREFIX = 'R';

/** The name under which a station’s rows of rings are kept. */
export const ringsOf = (stationId: string): string => `${PREFIX}-${stationId}`;

const seenRing = z.object({
  school: z.literal('rings'),
  ring: z.number().int(),
  between: z.boolean(),
  stepMm: z.number().positive(),
  phaseMm: z.number(),
});
export type SeenRing = Readonly<z.output<typeof seenRing>>;

/** Which ring of a row was kept, counted from the middle one in the order of the labels; a half: between two. */
export const ringOf = ({ ring, between }: Pick<SeenRing, 'ring' | 'between'>): number =>
  between ? -ring - 0.5 : -ring;

/** The even ring of a row of the sheet’s own; read again it replaces what was read of that row. */
export const ringsWay = {
  name: 'rings',
  words: 'the even ring',
  kept: keptBy({
    input: z.object({
      stationId: stationOfSheet,
      axis: z.enum(OFFSET_AXES),
      /** Counted from the middle ring, in the order of the labels; a half: between two. */
      ring: finite.multipleOf(0.5, 'A ring, or half-way between two.'),
    }),
    tell: ({ stationId, axis, ring }, { station }) => {
      const row = station?.rings?.find((r) => r.axis === axis);
      if (!row) return refuse({ code: 'not-found', what: 'row of rings' });
      if (Math.abs(ring) > row.half)
        return refuse({
          code: 'invalid-input',
          fields: { ring: `This row has ${2 * row.half + 1} rings: choose one of them.` },
        });
      const name = ringsOf(stationId);
      return accept({ ...ringReading(name, row, ring), instead: [name], axis });
    },
    seen: seenRing,
    /** Half a step each way, seen with the eye’s acuity. */
    interval: (offsetMm, _, { stepMm }) => about(offsetMm, stepMm / 2, DEFAULT_ACUITY_OF_STEP * stepMm),
  }),
  script: askedBy({
    summary: 'Stations from rows of rings with an even border',
    result: 'Stations for /api/fit, and what should be looked at again.',
    request: z.object({
      stations: stationsSchema(
        z.object({
          ...stationPlace,
          rows: z
            .array(
              z.object({
                axis: z.enum(OFFSET_AXES, '“axis” is “across” or “along”.'),
                stepMm: above0('“stepMm”'),
                phaseMm: coordinate,
                acuityMm: z.number().min(0, '“acuityMm” cannot be negative.').max(1000).optional(),
                pick: z.object({
                  ring: z
                    .number('“ring” is the number of the even ring.')
                    .int('“ring” is a whole number.')
                    .min(-1e4)
                    .max(1e4),
                  between: z.boolean('“between” is true or false.').default(false),
                }),
              }),
              '“rows” is a list of {"axis","stepMm","phaseMm","pick"}.',
            )
            .min(1, 'A station needs at least one row.')
            .max(50, 'At most 50 rows at a station.'),
        }),
        '{"id","x","y","rows"}',
      ),
    }),
    answer: ({ stations }) => accept(readRings(stations)),
  }),
} as const satisfies Way;

/** A row of rings on our own sheet, read: the ring `j` that is even, half a ring where it is between two. */
export function ringReading(stationId: string, row: RingRowDrawn, j: number) {
  const between = !Number.isInteger(j);
  // The address for scripts counts the other way: ring k is cut k steps further.
  const pick = { ring: -Math.ceil(j), between };
  const { axis, stepMm, phaseMm } = row;
  const rows = [{ axis, stepMm, phaseMm, pick }];
  const { stations } = readRings([{ id: stationId, ...ringPlace(row, j), rows }]);
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
  const seen = { school: 'rings' as const, ...pick, stepMm, phaseMm };
  return { read: stations.flatMap((s) => readingsOf(s, () => seen)), doubts };
}
