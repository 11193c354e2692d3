import { z } from 'zod';

import {
  DIRECTIONS_OF_KIND,
  EFFECT_DIRECTIONS,
  SETTING_KINDS,
  SETTING_UNITS,
  UNITS_OF_KIND,
} from '@/core/correction';
import { MEDIA_CLASSES } from '@/core/drift';
import { coordinate, finite, MAX_SIDE_MM, point, positive, side, words } from '@/server/base/shapes';
import { fieldSchema } from '@/server/sessions/stored';
import { markKitSchema, rollKitSchema } from '@/shapes/kits';

const recipeWords = z.string().trim().max(60, 'At most 60 characters.').default('');

/** How a media is printed on a rig; empty words mean “not noted”. */
export const recipeSchema = z.object({
  tray: recipeWords,
  face: recipeWords,
  paperType: recipeWords,
  quality: recipeWords,
  borderless: z.boolean().default(false),
  scalePercent: finite.min(10, 'At least 10 %.').max(400, 'At most 400 %.').default(100),
  warmUp: recipeWords,
  room: recipeWords,
});

export type PrintRecipe = z.output<typeof recipeSchema>;

/** The printer's feed compensation as it is typed, in percent. */
export const feedSchema = z
  .number('Type the feed as a number, for example 99.85.')
  .min(50, 'A feed lies between 50 and 200 %.')
  .max(200, 'A feed lies between 50 and 200 %.');

export const simulationSchema = z.object({
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
  settingsAtTruth: z.record(z.string(), finite),
  effects: z.record(z.string(), fieldSchema),
  loadScatterMm: finite.nonnegative(),
  roll: z
    .object({
      creepMmPerM: point,
      creepSdMmPerM: point,
      wanderMm2PerM: finite.nonnegative(),
    })
    .optional(),
});

const settingInput = z
  .object({
    id: z.uuid().optional(),
    name: words('the name the machine uses for it', 40),
    kind: z.enum(SETTING_KINDS).default('offset'),
    unit: z.enum(SETTING_UNITS),
    step: finite.positive('The step is the smallest change the machine takes, for example 0.05.').max(100),
    value: finite.min(-1e4).max(1e4),
    min: finite.nullable(),
    max: finite.nullable(),
    display: z.enum(['signed', 'sign-and-size']),
    direction: z.enum(EFFECT_DIRECTIONS),
    anchorXMm: coordinate.default(0),
    anchorYMm: coordinate.default(0),
    nominalMm: finite
      .positive('The commanded length must be more than 0.')
      .max(MAX_SIDE_MM)
      .nullable()
      .default(null),
  })
  .refine((s) => UNITS_OF_KIND[s.kind].includes(s.unit), {
    path: ['unit'],
    message: 'This unit does not belong to this kind of setting. Choose one of those on offer.',
  })
  .refine((s) => DIRECTIONS_OF_KIND[s.kind].includes(s.direction), {
    path: ['direction'],
    message: 'This direction does not belong to this kind of setting. Choose one of those on offer.',
  })
  .refine((s) => s.kind !== 'length' || s.nominalMm !== null, {
    path: ['nominalMm'],
    message: 'Enter the length that was commanded, for example 300.',
  })
  .refine((s) => s.min === null || s.max === null || s.min < s.max, {
    path: ['max'],
    message: 'The highest value must be above the lowest.',
  })
  .refine((s) => s.min === null || s.value >= s.min, {
    path: ['value'],
    message: 'The current value lies below the lowest value.',
  })
  .refine((s) => s.max === null || s.value <= s.max, {
    path: ['value'],
    message: 'The current value lies above the highest value.',
  });

/** What the operator can change to bring a rig in. */
export const CHANGEABLE = ['settings-and-file', 'settings', 'file', 'machine-page', 'nothing'] as const;

export type Changeable = (typeof CHANGEABLE)[number];

/** A rig as the form gives it; lengths in mm, settings in their own units. */
export const rigInputSchema = z
  .object({
    name: words('a name, for example “Deck-plan desk rig”', 60),
    printer: words('the printer, as you call it', 60),
    cutter: words('the cutter, as you call it', 60),
    media: words('the media, for example “matt paper 160 g”', 60),
    sheetWidthMm: side('The sheet’s width'),
    sheetHeightMm: side('The sheet’s height'),
    marginLeftMm: finite.nonnegative('The margin cannot be negative.'),
    marginNearMm: finite.nonnegative('The margin cannot be negative.'),
    areaWidthMm: side('The work area’s width'),
    areaHeightMm: side('The work area’s height'),
    toleranceMm: finite.min(0.02, 'At least 0.02 mm: no eye sees less.').max(20, 'At most 20 mm.'),
    changeable: z.enum(CHANGEABLE).default('settings-and-file'),
    mediaClass: z.enum(MEDIA_CLASSES).default('film'),
    marks: markKitSchema.nullable().default(null),
    recipe: recipeSchema.prefault({}),
    roll: rollKitSchema.prefault({}),
    settings: z.array(settingInput).max(6, 'At most six settings.'),
  })
  .refine((r) => r.marginLeftMm + r.areaWidthMm <= r.sheetWidthMm + 1e-6, {
    path: ['areaWidthMm'],
    message: 'Left margin and work area are wider than the sheet. Make one of them smaller.',
  })
  .refine((r) => r.marginNearMm + r.areaHeightMm <= r.sheetHeightMm + 1e-6, {
    path: ['areaHeightMm'],
    message: 'Near margin and work area are longer than the sheet. Make one of them smaller.',
  })
  .refine((r) => r.marks === null || r.marks.everyMm === null || r.marks.count === 4, {
    path: ['marks', 'everyMm'],
    message: 'Further marks along the sides need four marks at the corners.',
  })
  .refine((r) => new Set(r.settings.map((s) => s.name.toLowerCase())).size === r.settings.length, {
    path: ['settings'],
    message: 'Two settings have the same name. Give each its own.',
  });

export type RigInput = z.output<typeof rigInputSchema>;

/** What the form or the demo hands in: what has a usual value may be left out. */
export type RigDraft = z.input<typeof rigInputSchema>;

export const eventInputSchema = z.object({
  rigId: z.uuid(),
  kind: z.enum([
    'moved',
    'unplugged',
    'firmware',
    'new-blade',
    'media-change',
    'size-change',
    'long-idle',
    'feed',
    'other',
  ]),
  note: z.string().trim().max(200, 'At most 200 characters.'),
});
