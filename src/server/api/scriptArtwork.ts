import { z } from 'zod';

import { BACKGROUNDS, JOINS, offsetPaths, READS_LIKE, TURNED_OVER, twoSides } from '@/core/artwork';
import type { Point } from '@/core/geometry';
import { coordinate } from '@/server/base/shapes';

/* POST /api/trace, /api/offset, /api/two-sides; shapes in docs/api.md. */

const length = (what: string, least: number, most: number) =>
  z
    .number(`“${what}” must be a number, in mm.`)
    .min(least, `“${what}” is at least ${least} mm.`)
    .max(most, `“${what}” is at most ${most} mm.`);

const MOST_CORNERS = 500_000;

/** A closed line of pairs. */
const closedLineSchema = z.object({
  points: z
    .array(z.tuple([coordinate, coordinate], 'A point is [x, y], in mm.'), '“points” is a list of [x, y].')
    .min(3, 'A closed line needs at least three points.'),
});

export const offsetRequestSchema = z
  .object({
    paths: z
      .array(closedLineSchema, '“paths” is a list of {"points"}.')
      .min(1, '“paths” is empty: give at least one closed line.')
      .max(20_000, 'At most 20 000 lines.'),
    distanceMm: length('distanceMm', -10_000, 10_000),
    join: z.enum(JOINS, `“join” is one of ${JOINS.join(', ')}.`),
    mitreLimit: z
      .number('“mitreLimit” must be a number.')
      .min(1, '“mitreLimit” is at least 1.')
      .max(100)
      .default(2),
    toleranceMm: length('toleranceMm', 0.0005, 10).default(0.01),
  })
  .refine(({ paths }) => paths.reduce((sum, p) => sum + p.points.length, 0) <= MOST_CORNERS, {
    path: ['paths'],
    message: `At most ${MOST_CORNERS} points in all.`,
  });

export const pairs = (points: readonly Point[]): [number, number][] => points.map((p) => [p.x, p.y]);

export const offsetForScript = ({ paths, ...spec }: z.output<typeof offsetRequestSchema>) => ({
  paths: offsetPaths(
    paths.map((p) => p.points.map(([x, y]) => ({ x, y }))),
    spec,
  ).map(({ points, areaMm2, hole }) => ({ points: pairs(points), areaMm2, hole })),
});

export const twoSidesRequestSchema = z.object({
  sheet: z.object(
    { widthMm: length('widthMm', 1, 60_000), heightMm: length('heightMm', 1, 60_000) },
    '“sheet” is {"widthMm","heightMm"}.',
  ),
  turnedOver: z.enum(TURNED_OVER, '“turnedOver” is “long-edge” or “short-edge”.'),
  readsLike: z.enum(READS_LIKE, '“readsLike” is “book” or “calendar”.'),
});

export const twoSidesForScript = ({ sheet, turnedOver, readsLike }: z.output<typeof twoSidesRequestSchema>) =>
  twoSides(sheet, turnedOver, readsLike);

export const traceOptionsSchema = z
  .object({
    widthMm: length('widthMm', 0.5, 60_000).optional(),
    heightMm: length('heightMm', 0.5, 60_000).optional(),
    dpi: z
      .number('“dpi” must be a number.')
      .min(1, '“dpi” is at least 1.')
      .max(20_000, '“dpi” is at most 20 000.')
      .optional(),
    background: z
      .enum(['auto', ...BACKGROUNDS], `“background” is one of auto, ${BACKGROUNDS.join(', ')}.`)
      .default('auto'),
    threshold: z
      .number('“threshold” must be a number.')
      .min(0, '“threshold” goes from 0, the background, to 1.')
      .max(1, '“threshold” goes from 0, the background, to 1.')
      .optional(),
    toleranceMm: length('toleranceMm', 0.001, 10).default(0.05),
    smoothMm: length('smoothMm', 0, 100).default(0),
    minAreaMm2: z
      .number('“minAreaMm2” must be a number.')
      .min(0, '“minAreaMm2” cannot be negative.')
      .max(1e9)
      .default(1),
    islands: z.enum(['keep', 'drop'], '“islands” is “keep” or “drop”.').default('keep'),
  })
  .refine((o) => [o.widthMm, o.heightMm, o.dpi].filter((v) => v !== undefined).length <= 1, {
    path: ['widthMm'],
    message: 'Give one of “widthMm”, “heightMm” and “dpi”: the others follow.',
  });
