import { z } from 'zod';

import { HEADINGS } from '@/core/daily';
import { NEW_ROLL_KIT } from '@/core/layout';
import { EVENT_KINDS } from '@/core/setup';
import { CORNERS, LAID_BY, LEAD_SIGNS, MARK_SHAPES, SIDES } from '@/core/marks';

import { codec } from './codec';
import { affine, field, finite, point, positive, values } from './pieces';

/* JSON columns of machines, rigs, setups and standing corrections. */

export const markKit = z.object({
  count: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)]),
  shape: z.enum(MARK_SHAPES),
  sizeMm: positive,
  lineMm: positive,
  colour: z.string(),
  insetLeftMm: finite,
  insetRightMm: finite,
  insetNearMm: finite,
  insetFarMm: finite,
  shapes: z.partialRecord(z.enum(CORNERS), z.enum(MARK_SHAPES)).optional(),
  clearMm: finite,
  clearSidesMm: z.partialRecord(z.enum(SIDES), finite).optional(),
  frame: z.boolean().optional(),
  laidBy: z.enum(LAID_BY).optional(),
  leading: z.enum(CORNERS),
  leadSign: z.enum(LEAD_SIGNS),
  everyMm: positive.nullable(),
  printerEdgeMm: finite,
  sensorEdgeMm: finite,
});

const rollKit = z.object({
  leadMm: finite.default(NEW_ROLL_KIT.leadMm),
  tailMm: finite.default(NEW_ROLL_KIT.tailMm),
  rollerMm: finite.default(NEW_ROLL_KIT.rollerMm),
  rollerEdgeMm: finite.default(NEW_ROLL_KIT.rollerEdgeMm),
  longestMm: positive.nullable().default(null),
  testCutTurned: z.boolean().default(false),
});

const word = z.string().default('');

export const recipe = z.object({
  tray: word,
  face: word,
  paperType: word,
  quality: word,
  borderless: z.boolean().default(false),
  scalePercent: positive.default(100),
  warmUp: word,
  room: word,
});

const fileFrame = z.object({
  xRuns: z.enum(HEADINGS),
  yRuns: z.enum(HEADINGS),
  zero: z.discriminatedUnion('at', [
    z.object({ at: z.literal('corner'), corner: z.enum(CORNERS) }),
    z.object({ at: z.literal('mark') }),
    z.object({ at: z.literal('middle') }),
    z.object({ at: z.literal('typed'), xMm: finite, yMm: finite }),
  ]),
});

const machineWords = z.object({ there: word, keys: word, state: word, notFirst: word, after: word });

const simulation = z.object({
  seed: z.number().int(),
  truth: z.object({
    shiftXMm: finite,
    shiftYMm: finite,
    turnRad: finite,
    scaleAcross: positive,
    scaleAlong: positive,
    leanRad: finite,
  }),
  centre: point,
  settingsAtTruth: values,
  effects: z.record(z.string(), field),
  loadScatterMm: finite.nonnegative(),
  roll: z
    .object({ creepMmPerM: point, creepSdMmPerM: point, wanderMm2PerM: finite.nonnegative() })
    .optional(),
});

export const setupMarks = codec('setups.marks', markKit);
export const setupRecipe = codec('setups.recipe', recipe);
export const setupRoll = codec('setups.roll', rollKit);
export const setupSimulation = codec('setups.simulation', simulation);
const checkPolicy = z.object({
  events: z.array(z.enum(EVENT_KINDS)),
  idleDays: z.number().int().positive().nullable(),
  signals: z.boolean(),
});

export const rigCheckAfter = codec('rigs.check_after', checkPolicy);
export const rigFileFrame = codec('rigs.file_frame', fileFrame);
export const settingWords = codec('machine_settings.words', machineWords);
export const standingSettings = codec('standing_corrections.settings', values);
export const standingFile = codec('standing_corrections.file_transform', affine);
export const passRecipe = codec('passes.recipe', recipe);
