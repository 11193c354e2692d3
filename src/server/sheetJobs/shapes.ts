import { z } from 'zod';

import { BACKGROUNDS, JOINS } from '@/core/artwork';
import { MOST_PIECES } from '@/core/layout/sheet';
import { LINE_KINDS } from '@/core/sheetJob';
import { finite, point } from '@/server/base/shapes';

/* What is sent of a sheet job, by the form and by scripts alike. */

const between = (what: string, least: number, most: number) =>
  z
    .number(`“${what}” must be a number, in mm.`)
    .min(least, `“${what}” is at least ${least} mm.`)
    .max(most, `“${what}” is at most ${most} mm.`);

export const lineRecipeSchema = z.object(
  {
    size: z.union(
      [
        z.object({ widthMm: between('widthMm', 1, 60_000) }),
        z.object({ heightMm: between('heightMm', 1, 60_000) }),
        z.object({ dpi: finite.min(10).max(10_000) }),
      ],
      '“size” is {"widthMm"}, {"heightMm"} or {"dpi"}.',
    ),
    background: z.enum(['auto', ...BACKGROUNDS]).default('auto'),
    threshold: finite.min(0).max(1).nullable().default(null),
    toleranceMm: between('toleranceMm', 0.005, 1).default(0.05),
    closeMm: between('closeMm', 0, 50).default(1),
    minAreaMm2: finite.min(0).max(1e6).default(4),
    borderMm: between('borderMm', -50, 200).default(2),
    join: z.enum(JOINS).default('round'),
    ignore: z.array(point).max(1000).default([]),
  },
  '“recipe” says at least how large the picture is to be.',
);

export const layoutSchema = z.object({
  copies: z
    .int('“copies” is a whole number.')
    .min(1, 'At least one copy.')
    .max(MOST_PIECES, `At most ${MOST_PIECES} copies.`)
    .nullable()
    .default(null),
  gapMm: between('gapMm', 0, 500).default(3),
  centre: z.boolean().default(false),
  mayTurn: z.boolean().default(true),
  witness: z.boolean().default(true),
});

const nameSchema = z.string().trim().min(1, 'A job needs a name.').max(80, 'A name has at most 80 letters.');

export const newJobSchema = z.object({
  setupId: z.uuid('Choose the setup that prints and cuts it.'),
  name: nameSchema,
  recipe: lineRecipeSchema,
  bleedMm: between('bleedMm', 0, 20).default(0),
  kind: z.enum(LINE_KINDS).default('kiss-cut'),
  layout: layoutSchema.prefault({}),
});
export type NewJob = z.output<typeof newJobSchema>;

/** What may be changed of a draft, one or more of them. */
export const changeJobSchema = z.object({
  name: nameSchema.optional(),
  bleedMm: between('bleedMm', 0, 20).optional(),
  kind: z.enum(LINE_KINDS).optional(),
  layout: layoutSchema.optional(),
});
