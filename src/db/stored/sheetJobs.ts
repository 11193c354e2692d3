import { z } from 'zod';

import { BACKGROUNDS, JOINS } from '@/core/artwork';
import { FINDING_CODES } from '@/core/artwork/checks';
import { TURNS } from '@/core/layout/nest';
import { LINE_KINDS, LINE_ROLES, type Cutting, type JobGeometry } from '@/core/sheetJob';

import { codec } from './codec';
import { affine, finite, point, positive, rect } from './pieces';
import { markKit, recipe as printRecipe } from './setups';

/* JSON columns of sheet jobs. */

const recipe = z.object({
  size: z.union([
    z.object({ widthMm: positive }),
    z.object({ heightMm: positive }),
    z.object({ dpi: positive }),
  ]),
  background: z.enum(['auto', ...BACKGROUNDS]),
  threshold: finite.nullable(),
  toleranceMm: positive,
  closeMm: finite,
  minAreaMm2: finite,
  borderMm: finite,
  join: z.enum(JOINS),
  apart: z.boolean().default(false),
  ignore: z.array(point),
});

const path = z.object({ points: z.array(point), areaMm2: finite, hole: z.boolean() });

const geometry: z.ZodType<JobGeometry> = z.object({
  version: z.string(),
  sheet: z.object({
    sheetWidthMm: positive,
    sheetHeightMm: positive,
    area: rect,
    marks: markKit.nullable(),
  }),
  layout: z.object({
    gapMm: finite,
    centre: z.boolean(),
    mayTurn: z.boolean(),
    witness: z.boolean().optional(),
    nudged: z
      .array(z.object({ sheet: z.number(), index: z.number(), dxMm: finite, dyMm: finite }))
      .optional(),
    nested: z
      .array(z.array(z.object({ item: z.string(), turnDeg: z.literal(TURNS), x: finite, y: finite })))
      .optional(),
  }),
  pieces: z.array(
    z.object({
      id: z.string(),
      picture: z.object({ widthMm: positive, heightMm: positive, at: point }),
      ink: z.array(z.array(point)),
      lines: z.array(path),
      bleedMm: finite,
      kind: z.enum(LINE_KINDS),
      second: z.object({ byMm: positive, kind: z.enum(LINE_KINDS), lines: z.array(path) }).optional(),
      copies: z.number().int().nonnegative().nullable(),
    }),
  ),
  sheets: z.array(z.array(z.object({ piece: z.string(), map: affine, box: rect }))),
  label: rect,
  witness: z.array(point.nullable()).optional(),
});

/** How the picture was parted from its background: what the bleed goes by. */
const parted = z.object({ background: z.enum(BACKGROUNDS), threshold: finite });

const frozenAs = z.object({
  rig: z.string(),
  media: z.string(),
  /** Where its code points. */
  address: z.string(),
  /** The date that stands on it. */
  madeOn: z.string(),
  /** How its medium was printed then. */
  recipe: printRecipe,
  /** File → sheet, as its cut files lie; null: as the sheet does. */
  fileMap: affine.nullable(),
  /** How far the print file is moved against where its printer puts it; nothing: not at all. */
  placement: z.object({ xMm: finite, yMm: finite }).optional(),
  /** What was found wrong with it then, and why it was frozen although something stopped it; nothing of a good one. */
  found: z
    .object({
      findings: z.array(
        z.object({
          code: z.enum(FINDING_CODES),
          severity: z.enum(['stop', 'look']),
          message: z.string(),
          times: z.number().int(),
        }),
      ),
      /** Pieces whose pictures could not be looked at. */
      notLooked: z.array(z.string()),
      reason: z.string().nullable(),
    })
    .optional(),
});

const cutting: z.ZodType<Cutting> = z.object({
  kinds: z.array(
    z.object({ piece: z.string(), role: z.enum(LINE_ROLES), kind: z.enum([...LINE_KINDS, 'none']) }),
  ),
  sequence: z.array(z.enum(LINE_KINDS)),
  outerFirst: z.boolean(),
  passes: z.array(z.object({ kind: z.enum(LINE_KINDS), times: z.number().int(), pause: z.boolean() })),
  left: z.array(z.object({ sheet: z.number().int(), index: z.number().int() })),
  tools: z.array(z.object({ kind: z.enum(LINE_KINDS), words: z.string() })),
});

const made = z.object({
  /** T that its lines undo; null: as laid out. */
  correction: affine.nullable(),
  /** The standing correction that it is of. */
  standingId: z.string().nullable(),
  /** The print that it is cut on came out so much larger; nothing: as it should be. */
  printScale: positive.optional(),
  /** What is cut and how; nothing: as laid out. */
  cutting: cutting.optional(),
});

export const jobRecipe = codec('sheet_jobs.recipe', z.object({ line: recipe, parted }));
export const jobGeometry = codec('sheet_jobs.geometry', geometry);
export const jobFrozenAs = codec('sheet_jobs.frozen_as', frozenAs);
export const cutMade = codec('sheet_cuts.made', made);
export type JobRecipe = ReturnType<typeof jobRecipe.read>;
export type JobFrozenAs = ReturnType<typeof jobFrozenAs.read>;
export type CutMade = ReturnType<typeof cutMade.read>;
