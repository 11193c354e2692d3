import { z } from 'zod';

import {
  CORRECTION_VERSION,
  declaredEffect,
  DIRECTIONS_OF_KIND,
  EFFECT_DIRECTIONS,
  largestMm,
  SETTING_KINDS,
  SETTING_UNITS,
  solveSettings,
  UNITS_OF_KIND,
  type MachineSetting,
} from '@/core/correction';
import { fieldToTransform, transformToField } from '@/core/fit';
import { determinant, rectCentre } from '@/core/geometry';

import { affineSchema, coordinate, rectSchema } from '@/server/base/shapes';

/* POST /api/settings: settings with their effects, T and a work area in; what to type out. */

const figure = z.number('This must be a number.').min(-1e6).max(1e6);
const place = z.object({ x: coordinate, y: coordinate }).default({ x: 0, y: 0 });

const declared = z
  .object({
    kind: z.enum(SETTING_KINDS, `“kind” is ${SETTING_KINDS.join(', ')}.`),
    unit: z.enum(SETTING_UNITS, `“unit” is ${SETTING_UNITS.join(', ')}.`),
    direction: z.enum(EFFECT_DIRECTIONS, `“direction” is ${EFFECT_DIRECTIONS.join(', ')}.`),
    anchor: place,
    nominalMm: z.number().positive().max(1e6).nullable().default(null),
  })
  .refine((e) => UNITS_OF_KIND[e.kind].includes(e.unit), {
    path: ['unit'],
    message: 'This unit does not belong to this kind of setting.',
  })
  .refine((e) => DIRECTIONS_OF_KIND[e.kind].includes(e.direction), {
    path: ['direction'],
    message: 'This direction does not belong to this kind of setting.',
  })
  .refine((e) => e.kind !== 'length' || e.nominalMm !== null, {
    path: ['nominalMm'],
    message: 'A length setting needs “nominalMm”, the length that was commanded.',
  })
  .transform(declaredEffect);

/** What +1 does, written out: d = B·(p − anchor) + (dxMm, dyMm). */
const measured = z
  .object({
    kind: z.undefined().optional(),
    dxMm: figure.default(0),
    dyMm: figure.default(0),
    b11: figure.default(0),
    b12: figure.default(0),
    b21: figure.default(0),
    b22: figure.default(0),
    anchor: place,
  })
  .strict()
  .transform(({ dxMm, dyMm, anchor, b11, b12, b21, b22 }) => ({
    ...{ b11, b12, b21, b22 },
    origin: anchor,
    exMm: dxMm,
    eyMm: dyMm,
  }));

const setting = z
  .object({
    id: z.string('A setting needs an “id”.').min(1).max(64),
    value: figure,
    step: z
      .number('“step” is the smallest change the machine takes.')
      .positive('The step must be more than 0.')
      .max(1e6),
    min: figure.nullable().default(null),
    max: figure.nullable().default(null),
    effect: z.discriminatedUnion(
      'kind',
      [declared, measured],
      '“effect” is {"kind","unit","direction",…} or {"dxMm","dyMm","b11",…}.',
    ),
  })
  .refine((s) => s.min === null || s.max === null || s.min < s.max, {
    path: ['max'],
    message: 'The highest value must be above the lowest.',
  });

const settingsShape = z.object({
  settings: z
    .array(setting, '“settings” is a list.')
    .min(1, 'Give at least one setting.')
    .max(8, 'At most eight settings.')
    .refine((list) => new Set(list.map((s) => s.id)).size === list.length, 'Two settings have the same id.'),
  map: affineSchema.refine(
    (m) => determinant(m) > 0.25 && determinant(m) < 4,
    'The map folds the sheet over or stretches it out of all measure.',
  ),
  workArea: rectSchema,
});

/** A step of a setting moves the cut by at least this somewhere on the work area, mm: else typing it does nothing. */
const LEAST_MOVE_MM = 1e-9;

export const settingsRequestSchema = settingsShape.superRefine(({ settings, workArea }, context) => {
  const at = settings.findIndex(
    // An effect that was refused has its own sentence and is no field yet.
    (s) => 'origin' in s.effect && largestMm(s.effect, workArea) * s.step < LEAST_MOVE_MM,
  );
  if (at >= 0)
    context.addIssue({
      code: 'custom',
      path: ['settings', at, 'effect'],
      message: `A step of “${settings[at]!.id}” moves the cut nowhere on the work area: give what +1 on it does, or leave it out.`,
    });
});

export type SettingsRequest = z.output<typeof settingsRequestSchema>;

/** New values, what each does, and what is left over: T after typing. */
export function settingsForScript({ settings, map, workArea }: SettingsRequest) {
  const centre = rectCentre(workArea);
  const list = settings.map((s): MachineSetting => ({ ...s, name: s.id }));
  const solved = solveSettings(transformToField(map, centre), list, workArea);
  return {
    version: CORRECTION_VERSION,
    changes: solved.changes.map(({ settingId, ...rest }) => ({ id: settingId, ...rest })),
    leftOver: {
      map: fieldToTransform(solved.leftOver),
      rmsMm: Math.sqrt(solved.meanSquareAfter),
      largestMm: largestMm(solved.leftOver, workArea),
    },
    before: {
      rmsMm: Math.sqrt(solved.meanSquareBefore),
      largestMm: largestMm(transformToField(map, centre), workArea),
    },
  };
}
