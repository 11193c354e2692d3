import { z } from 'zod';

import {
  DIRECTIONS_OF_KIND,
  EFFECT_DIRECTIONS,
  SETTING_KINDS,
  SETTING_UNITS,
  UNITS_OF_KIND,
} from '@/core/correction';
import { MEDIA_CLASSES } from '@/core/drift';
import { CHANGEABLE, EVENT_KINDS, GRIPS, KEPT, MACHINE_ROLES, type MachineWords } from '@/core/setup';
import { coordinate, finite, MAX_SIDE_MM, side, words } from '@/server/base/shapes';
import { fileFrameSchema } from '@/core/daily/fileFrameShape';
import { markKitSchema, rollKitSchema } from '@/core/setup/kitShapes';

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

const ownWords = z.string().trim().max(200, 'At most 200 characters.').default('');

export const machineWordsSchema = z.object({
  there: ownWords,
  keys: ownWords,
  state: ownWords,
  notFirst: ownWords,
  after: ownWords,
}) satisfies z.ZodType<MachineWords>;

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
    kept: z.enum(KEPT).default('one'),
    on: z.enum(MACHINE_ROLES).default('cutter'),
    words: machineWordsSchema.prefault({}),
    direction: z.enum(EFFECT_DIRECTIONS),
    /** False while nobody knows: then it is pushed once before anything is typed into it. */
    directionKnown: z.boolean().default(true),
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

const rigFields = z.object({
  name: words('a name, for example “Deck-plan desk rig”', 60),
  printer: words('the printer, as you call it', 60),
  cutter: words('the cutter, as you call it', 60),
  changeable: z.enum(CHANGEABLE).default('settings-and-file'),
  fileFrame: fileFrameSchema.nullable().default(null),
  settings: z.array(settingInput).max(6, 'At most six settings.'),
});

const setupFields = z.object({
  media: words('the media, for example “matt paper 160 g”', 60),
  label: z.string().trim().max(60, 'At most 60 characters.').default(''),
  sheetWidthMm: side('The sheet’s width'),
  sheetHeightMm: side('The sheet’s height'),
  marginLeftMm: finite.nonnegative('The margin cannot be negative.'),
  marginNearMm: finite.nonnegative('The margin cannot be negative.'),
  areaWidthMm: side('The work area’s width'),
  areaHeightMm: side('The work area’s height'),
  toleranceMm: finite.min(0.02, 'At least 0.02 mm: no eye sees less.').max(20, 'At most 20 mm.'),
  mediaClass: z.enum(MEDIA_CLASSES).default('film'),
  toolId: z.uuid().nullable().default(null),
  matId: z.uuid().nullable().default(null),
  grip: z.enum(GRIPS).nullable().default(null),
  mirrored: z.boolean().default(false),
  driverWidthMm: side('The driver’s page').nullable().default(null),
  driverHeightMm: side('The driver’s page').nullable().default(null),
  marks: markKitSchema.nullable().default(null),
  recipe: recipeSchema.prefault({}),
  roll: rollKitSchema.prefault({}),
});

type RigPart = z.output<typeof rigFields>;
type SetupPart = z.output<typeof setupFields>;

interface Complaint {
  readonly path: string[];
  readonly message: string;
}

/** What of a rig or a setup does not go together; what is wrong with one field, the field says. */
function* wrongWithRig(r: RigPart): Generator<Complaint> {
  if (new Set(r.settings.map((s) => s.name.toLowerCase())).size < r.settings.length)
    yield { path: ['settings'], message: 'Two settings have the same name. Give each its own.' };
}

function* wrongWithSetup(s: SetupPart): Generator<Complaint> {
  if (s.marginLeftMm + s.areaWidthMm > s.sheetWidthMm + SIZE_SLACK_MM)
    yield {
      path: ['areaWidthMm'],
      message: 'Left margin and work area are wider than the sheet. Make one of them smaller.',
    };
  if (s.marginNearMm + s.areaHeightMm > s.sheetHeightMm + SIZE_SLACK_MM)
    yield {
      path: ['areaHeightMm'],
      message: 'Near margin and work area are longer than the sheet. Make one of them smaller.',
    };
  if ((s.driverWidthMm === null) !== (s.driverHeightMm === null))
    yield {
      path: [s.driverWidthMm === null ? 'driverWidthMm' : 'driverHeightMm'],
      message: 'Enter both sides of the driver’s page, or neither.',
    };
  if (s.marks !== null && s.marks.frame && s.marks.count !== 4)
    yield { path: ['marks', 'count'], message: 'A closed frame has four corners. Choose four.' };
  if (s.marks !== null && s.marks.everyMm !== null && s.marks.count !== 4)
    yield {
      path: ['marks', 'everyMm'],
      message: 'Further marks along the sides need four marks at the corners.',
    };
}

/** Sums of typed lengths are not exact. */
const SIZE_SLACK_MM = 1e-6;

const tellAll =
  <T>(...wrongs: ((given: T) => Generator<Complaint>)[]) =>
  (given: T, ctx: z.core.$RefinementCtx<T>): void => {
    for (const wrong of wrongs)
      for (const { path, message } of wrong(given))
        ctx.addIssue({ code: 'custom', path, message, input: given });
  };

/** A rig as its form gives it: machines, what can be changed, and the figures they take, in their own units. */
export const rigInputSchema = rigFields.superRefine(tellAll<RigPart>(wrongWithRig));
export type RigInput = z.output<typeof rigInputSchema>;

/** A medium and size on a rig; lengths in mm. */
export const setupInputSchema = setupFields.superRefine(tellAll<SetupPart>(wrongWithSetup));
export type SetupInput = z.output<typeof setupInputSchema>;

/** Another medium or size on a rig: of settings kept one for each medium, what the machine shows for this one. */
export const anotherSetupSchema = setupFields
  .extend({ values: z.record(z.uuid(), finite.min(-1e4).max(1e4)).default({}) })
  .superRefine(tellAll<SetupPart>(wrongWithSetup));

/** A new rig with its first medium. */
export const newRigSchema = z
  .object({ ...rigFields.shape, ...setupFields.shape })
  .superRefine(tellAll<RigPart & SetupPart>(wrongWithRig, wrongWithSetup));

/** What the form or the demo hands in: what has a usual value may be left out. */
export type RigDraft = z.input<typeof newRigSchema>;

export const eventInputSchema = z.object({
  setupId: z.uuid(),
  kind: z.enum(EVENT_KINDS),
  note: z.string().trim().max(200, 'At most 200 characters.'),
});
