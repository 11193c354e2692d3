import { z } from 'zod';

import { accept, refuse } from '../outcome';
import { above0, coordinate, finite, place, stationOfSheet, stationPlace, stationsSchema } from './shapes';
import { about, askedBy, freeName, keptBy, readingsOf, type Way } from './way';
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

/**
 * How much larger or smaller than drawn a cut shape usually is at one side, mm: what one gap cannot tell from an offset
 * (common practice, no source).
 */
const SIDE_SIZE_SD_MM = 0.05;

interface AxisGaps {
  readonly mm: number;
  readonly u: number;
  /** Null where one side alone was measured. */
  readonly sizeMm: number | null;
}

/**
 * dx = (gRight − gLeft)/2 and dy = (gFar − gNear)/2, beyond the nominal gaps; the sums are size errors. Where the border as
 * designed is told one gap is enough: it is the offset, less sure by what the shape's own size may be out.
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
      if (axis?.sizeMm != null && Math.abs(axis.sizeMm) > IMPOSSIBLE_SIZE_MM + 2 * s.resolutionMm)
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
  const u = resolutionMm / Math.sqrt(12);
  if (low === null || high === null) {
    const [side, sign] = high === null ? [before, -1] : [after, 1];
    const [alone, should] = [gaps[side], nominal?.[side] ?? null];
    if (alone === null || should === null) return null;
    return { mm: sign * (alone - should), u: Math.hypot(u, SIDE_SIZE_SD_MM), sizeMm: null };
  }
  const [lowN, highN] = [nominal?.[before] ?? 0, nominal?.[after] ?? 0];
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

const gap = finite
  .min(-50, 'A gap is at most 50 mm; beyond that the cut missed the shape.')
  .max(50, 'A gap is at most 50 mm; beyond that the cut missed the shape.')
  .nullable();
const scriptGap = coordinate.nullable().default(null);
const scriptGaps = z.object({ left: scriptGap, right: scriptGap, near: scriptGap, far: scriptGap });

/** Each axis that was measured at one side only has to say how wide the border there should be. */
const enough = (g: Gaps, told: (side: Side) => boolean): boolean => {
  const axes = [
    ['left', 'right'],
    ['near', 'far'],
  ] as const;
  const sides = axes.map((axis) => axis.filter((side) => g[side] !== null));
  return sides.some((s) => s.length > 0) && sides.every((s) => s.length !== 1 || told(s[0]!));
};

const PREFIX = 'G';

/** The name under which gaps round a station’s own shape are kept. */
export const gapsOf = (stationId: string): string => `${PREFIX}-${stationId}`;

/** Gaps round a shape: one of the sheet’s own, which knows where it is and what its borders should be, or any other. */
export const gapsWay = {
  name: 'gaps',
  words: 'gaps round a shape',
  kept: keptBy({
    input: z
      .object({
        stationId: stationOfSheet.optional(),
        x: place.optional(),
        y: place.optional(),
        nominalMm: finite.min(-50, 'At most 50 mm.').max(50, 'At most 50 mm.').optional(),
        gaps: z.object({ left: gap, right: gap, near: gap, far: gap }),
        resolutionMm: finite
          .min(0.005, 'A ruler is read to at least 0.005 mm.')
          .max(2, 'A ruler is read to 2 mm at most.'),
      })
      .refine(
        ({ gaps, stationId, nominalMm }) =>
          enough(gaps, () => stationId !== undefined || nominalMm !== undefined),
        {
          path: ['gaps'],
          message: 'Measure at least one gap; with one of an axis alone, say how wide the border should be.',
        },
      )
      .refine((g) => g.stationId !== undefined || (g.x !== undefined && g.y !== undefined), {
        path: ['x'],
        message: 'Say where the shape’s middle lies.',
      }),
    /** Measured again, what was kept of a station’s own shape is replaced. */
    tell: ({ stationId, x, y, nominalMm, gaps, resolutionMm }, { station, taken }) => {
      if (stationId === undefined) {
        const id = freeName(PREFIX, taken);
        const of = {
          id,
          x: x!,
          y: y!,
          gaps,
          nominal: nominalMm === undefined ? undefined : alike(nominalMm),
          resolutionMm,
        };
        return accept({ ...gapReadings(of), instead: [] });
      }
      const shape = station?.gapShape;
      if (!shape) return refuse({ code: 'not-found', what: 'shape for gaps at this station' });
      const id = gapsOf(stationId);
      const { centre, borders } = shape;
      return accept({
        ...gapReadings({ id, ...centre, gaps, nominal: borders, resolutionMm }),
        instead: [id],
      });
    },
    seen: z.object({
      school: z.literal('gaps'),
      /** Left or near, then right or far; mm, positive where the cut lies outside the print; null: not measured. */
      lowMm: z.number().nullable(),
      highMm: z.number().nullable(),
      /** What they would be if the cut lay where it was meant. */
      nominalLowMm: z.number(),
      nominalHighMm: z.number(),
      resolutionMm: z.number().positive(),
    }),
    /** A ruler’s rounding is an interval of ± √3 u in which the gap lies anywhere. */
    interval: (offsetMm, uMm) => about(offsetMm, Math.sqrt(3) * uMm, uMm / 10),
  }),
  script: askedBy({
    summary: 'Stations from gaps round a shape',
    result: 'Stations for /api/fit with size errors, and what should be looked at again.',
    request: z.object({
      stations: stationsSchema(
        z
          .object({
            ...stationPlace,
            gaps: scriptGaps,
            nominal: scriptGaps.optional(),
            resolutionMm: above0('“resolutionMm”'),
          })
          .refine(
            ({ gaps, nominal }) => enough(gaps, (side) => nominal?.[side] != null),
            'A station needs both gaps of an axis, or one with its “nominal”.',
          ),
        '{"id","x","y","gaps","resolutionMm"}',
      ),
    }),
    answer: ({ stations }) => accept(readGaps(stations)),
  }),
} as const satisfies Way;

const alike = (mm: number) => ({ left: mm, right: mm, near: mm, far: mm });

/** Readings and doubts of gaps round one shape. */
function gapReadings(typed: GapStation) {
  const { stations, doubts } = readGaps([typed]);
  const { gaps, nominal, resolutionMm } = typed;
  const should = (side: Side): number => nominal?.[side] ?? 0;
  const read = stations.flatMap((s) =>
    readingsOf(s, (axis) => ({
      school: 'gaps' as const,
      lowMm: axis === 'across' ? gaps.left : gaps.near,
      highMm: axis === 'across' ? gaps.right : gaps.far,
      nominalLowMm: should(axis === 'across' ? 'left' : 'near'),
      nominalHighMm: should(axis === 'across' ? 'right' : 'far'),
      resolutionMm,
    })),
  );
  return { read, doubts };
}
