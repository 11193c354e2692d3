import { z } from 'zod';

import { BACKGROUNDS, JOINS } from '@/core/artwork';
import { TURNS } from '@/core/layout/nest';
import { MOST_PIECES, MOST_SHEETS } from '@/core/layout/sheet';
import { CUT_ORDER, LINE_KINDS, LINE_ROLES, MOST_PASSES } from '@/core/sheetJob';
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
    apart: z.boolean().default(false),
    ignore: z.array(point).max(1000).default([]),
  },
  '“recipe” says at least how large the picture is to be.',
);

/** The letter of a piece. */
export const pieceIdSchema = z.string().regex(/^[A-Z]$/, 'A piece goes by its letter.');

/** More pieces than this take longer to look through than others should wait. */
const MOST_NESTED = 600;

const copiesSchema = z
  .int('“copies” is a whole number.')
  .min(0, 'No fewer than none.')
  .max(MOST_PIECES, `At most ${MOST_PIECES} copies.`)
  .nullable();

export const layoutSchema = z.object({
  gapMm: between('gapMm', 0, 500).default(3),
  centre: z.boolean().default(false),
  mayTurn: z.boolean().default(true),
  witness: z.boolean().default(true),
  nudged: z
    .array(
      z.object({
        sheet: z.int().min(0).max(MOST_SHEETS),
        index: z.int().min(0).max(MOST_PIECES),
        dxMm: between('dxMm', -5000, 5000),
        dyMm: between('dyMm', -5000, 5000),
      }),
    )
    .max(500, 'At most 500 pieces are moved by hand.')
    .default([]),
  nested: z
    .array(
      z
        .array(
          z.object({
            item: pieceIdSchema,
            turnDeg: z.literal(TURNS),
            x: between('x', -60_000, 60_000),
            y: between('y', -60_000, 60_000),
          }),
        )
        .max(MOST_NESTED),
    )
    .max(MOST_SHEETS)
    .refine((sheets) => sheets.flat().length <= MOST_NESTED, `At most ${MOST_NESTED} pieces are nested.`)
    .optional(),
});

const nameSchema = z.string().trim().min(1, 'A job needs a name.').max(80, 'A name has at most 80 letters.');

const bleedSchema = between('bleedMm', 0, 20);
const secondSchema = z.object({ byMm: between('byMm', 0.1, 100), kind: z.enum(LINE_KINDS) }).nullable();

/** A piece of artwork: its line, and what is done to it. */
const pieceFields = {
  recipe: lineRecipeSchema,
  copies: copiesSchema.default(null),
  bleedMm: bleedSchema.default(0),
  kind: z.enum(LINE_KINDS).default('kiss-cut'),
};

export const newJobSchema = z.object({
  setupId: z.uuid('Choose the setup that prints and cuts it.'),
  name: nameSchema,
  ...pieceFields,
  layout: layoutSchema.prefault({}),
});

/** A piece more; with `lineOf` it has the line and the size of another one, and no recipe. */
export const newPieceSchema = z.union(
  [
    z.object({ ...pieceFields, recipe: z.undefined().optional(), lineOf: pieceIdSchema }),
    z.object({ ...pieceFields, lineOf: z.undefined().optional() }),
  ],
  '“piece” has a “recipe”, or “lineOf”: the letter of the piece whose line it has.',
);

/** What may be changed of a draft, one or more of them. */
export const changeJobSchema = z.object({
  name: nameSchema.optional(),
  setupId: z.uuid('Choose the setup that prints and cuts it.').optional(),
  layout: layoutSchema.optional(),
  pieces: z
    .array(
      z.object({
        id: pieceIdSchema,
        copies: copiesSchema.optional(),
        bleedMm: bleedSchema.optional(),
        kind: z.enum(LINE_KINDS).optional(),
        second: secondSchema.optional(),
      }),
    )
    .max(26)
    .default([]),
});

/** What is cut of a frozen job, and how. */
export const cuttingSchema = z.object({
  kinds: z
    .array(
      z.object({ piece: pieceIdSchema, role: z.enum(LINE_ROLES), kind: z.enum([...LINE_KINDS, 'none']) }),
    )
    .max(26 * LINE_ROLES.length)
    .default([]),
  sequence: z
    .array(z.enum(LINE_KINDS))
    .max(LINE_KINDS.length)
    .default([...CUT_ORDER]),
  outerFirst: z.boolean().default(false),
  passes: z
    .array(
      z.object({
        kind: z.enum(LINE_KINDS),
        times: z
          .int('Passes are a whole number.')
          .min(1, 'At least one pass.')
          .max(MOST_PASSES, `At most ${MOST_PASSES} passes.`),
        pause: z.boolean().default(false),
      }),
    )
    .max(LINE_KINDS.length)
    .default([]),
  left: z
    .array(z.object({ sheet: z.int().min(0).max(MOST_SHEETS), index: z.int().min(0).max(MOST_PIECES) }))
    .max(MOST_PIECES)
    .default([]),
  tools: z
    .array(z.object({ kind: z.enum(LINE_KINDS), words: z.string().trim().max(120, 'At most 120 letters.') }))
    .max(LINE_KINDS.length)
    .default([]),
});
