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

const gap = finite
  .min(-50, 'A gap is at most 50 mm; beyond that the cut missed the shape.')
  .max(50, 'A gap is at most 50 mm; beyond that the cut missed the shape.')
  .nullable();
const scriptGap = coordinate.nullable().default(null);
const scriptGaps = z.object({ left: scriptGap, right: scriptGap, near: scriptGap, far: scriptGap });

const bothOfAnAxis = ({ gaps: g }: { readonly gaps: Gaps }): boolean =>
  (g.left !== null && g.right !== null) || (g.near !== null && g.far !== null);

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
      .refine(bothOfAnAxis, {
        path: ['gaps'],
        message: 'Measure both gaps of an axis: left and right, or near and far.',
      })
      .refine(
        (g) =>
          g.stationId !== undefined || (g.x !== undefined && g.y !== undefined && g.nominalMm !== undefined),
        { path: ['x'], message: 'Say where the shape’s middle lies, and how wide its border should be.' },
      ),
    /** Measured again, what was kept of a station’s own shape is replaced. */
    tell: ({ stationId, x, y, nominalMm, gaps, resolutionMm }, { station, taken }) => {
      if (stationId === undefined) {
        const id = freeName(PREFIX, taken);
        const of = { id, x: x!, y: y!, gaps, nominal: alike(nominalMm!), resolutionMm };
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
      /** Left or near, then right or far; mm, positive where the cut lies outside the print. */
      lowMm: z.number(),
      highMm: z.number(),
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
          .refine(bothOfAnAxis, 'A station needs both gaps of an axis: left and right, or near and far.'),
        '{"id","x","y","gaps","resolutionMm"}',
      ),
    }),
    answer: ({ stations }) => accept(readGaps(stations)),
  }),
} as const satisfies Way;

const alike = (mm: number) => ({ left: mm, right: mm, near: mm, far: mm });

/** Readings and doubts of gaps round one shape. */
function gapReadings(typed: GapStation & { readonly nominal: Readonly<Record<Side, number>> }) {
  const { stations, doubts } = readGaps([typed]);
  const { gaps, nominal, resolutionMm } = typed;
  const read = stations.flatMap((s) =>
    readingsOf(s, (axis) => ({
      school: 'gaps' as const,
      lowMm: (axis === 'across' ? gaps.left : gaps.near)!,
      highMm: (axis === 'across' ? gaps.right : gaps.far)!,
      nominalLowMm: axis === 'across' ? nominal.left : nominal.near,
      nominalHighMm: axis === 'across' ? nominal.right : nominal.far,
      resolutionMm,
    })),
  );
  return { read, doubts };
}
