import { z } from 'zod';

import { finite, point, positive, rect } from '@/server/base/shapes';
import { markKitSchema } from '@/shapes/kits';

export const affineSchema = z.object({
  a11: finite,
  a12: finite,
  a21: finite,
  a22: finite,
  tx: finite,
  ty: finite,
});

export const fieldSchema = z.object({
  origin: point,
  b11: finite,
  b12: finite,
  b21: finite,
  b22: finite,
  exMm: finite,
  eyMm: finite,
});

const combSchema = z.object({
  axis: z.enum(['across', 'along']),
  centre: point,
  stepMm: positive,
  halfLines: z.number().int().positive(),
  phaseMm: finite,
});

const specSchema = z.object({
  sheetWidthMm: positive,
  sheetHeightMm: positive,
  workArea: rect,
  marks: markKitSchema.nullable().default(null),
  columns: z.number().int().positive(),
  rows: z.number().int().positive(),
  secondSet: z.boolean(),
  unit: z.enum(['mm', 'in']),
  stepMm: positive,
  seed: z.number().int(),
});

export const stationSchema = z.object({
  id: z.string(),
  set: z.union([z.literal(1), z.literal(2)]),
  centre: point,
  across: combSchema,
  along: combSchema,
  scaleCentre: point,
});

export const proofSheetSchema = z
  .object({
    version: z.string(),
    spec: specSchema,
    layoutArea: rect.optional(),
    bars: z.object({ across: positive, along: positive }).optional(),
    stations: z.array(stationSchema).min(1),
    fileMap: affineSchema.nullable().optional(),
  })
  // Sheets of before the marks were laid out over the whole work area.
  .transform((s) => ({ ...s, layoutArea: s.layoutArea ?? s.spec.workArea }));

export const settingsAtCutSchema = z.record(z.string(), finite);

export const settingChangesSchema = z.array(
  z.object({
    settingId: z.string(),
    from: finite,
    to: finite,
    movesXMm: finite,
    movesYMm: finite,
    clamped: z.boolean(),
    questioned: z.boolean().default(false),
  }),
);

export const pickSchema = z.object({
  line: z.number().int().min(-20).max(20),
  between: z.boolean(),
  lengths: z.number().int().min(-40).max(40),
});

/** What was seen another way than by a comb. */
export const otherPickSchema = z.discriminatedUnion('school', [
  z.object({
    school: z.literal('gaps'),
    lowMm: finite,
    highMm: finite,
    nominalLowMm: finite,
    nominalHighMm: finite,
    resolutionMm: positive,
  }),
  z.object({ school: z.literal('table') }),
]);

export const anyPickSchema = z.union([pickSchema, otherPickSchema]);
