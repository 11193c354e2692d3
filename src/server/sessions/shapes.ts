import { z } from 'zod';

import { COMB_STEPS, READ_BY, RING_STEPS, ringChoice } from '@/core/proof';
import { toMm } from '@/core/units';
import { finite } from '@/server/base/shapes';

export const sheetOptionsSchema = z
  .object({
    columns: z.coerce.number().int().min(1).max(12),
    rows: z.coerce.number().int().min(1).max(12),
    secondSet: z.boolean(),
    unit: z.enum(['mm', 'in']),
    step: z.coerce.number(),
    /** Every other station cut from the other side, to tell backlash. */
    bothWays: z.boolean().default(false),
    /** How it is mostly read. */
    readBy: z.enum(READ_BY, 'Choose one of the ways on offer.').default('comb'),
    /** Step of the rings beside the combs; nothing: none. */
    ringStep: z.coerce.number().nullable().default(null),
  })
  .refine((o) => COMB_STEPS[o.unit].includes(o.step), {
    path: ['step'],
    message: 'Choose one of the steps on offer.',
  })
  .refine((o) => o.ringStep === null || RING_STEPS[o.unit].includes(o.ringStep), {
    path: ['ringStep'],
    message: 'Choose one of the steps on offer, or no rings.',
  })
  .refine((o) => o.readBy !== 'rings' || o.ringStep !== null, {
    path: ['ringStep'],
    message: 'To read by rings, choose how far apart they are.',
  })
  // A short sheet is one station, twice.
  .transform((o) =>
    o.readBy === 'short'
      ? { ...o, columns: 1, rows: 1, secondSet: true, bothWays: false, ringStep: null }
      : o,
  )
  .transform((o) => ({
    ...o,
    /** Somebody said so: the setup remembers it. */
    chosen: true,
    stepMm: toMm(o.step, o.unit),
    rings: o.ringStep === null ? null : ringChoice(o.ringStep, o.unit),
  }));

const pickSchema = z.object({
  line: z.number().int().min(-20).max(20),
  between: z.boolean(),
  lengths: z.number().int().min(-40).max(40),
});
const coarseSchema = finite.min(-7).max(7).nullable();

/** Both combs of a short sheet, as they were picked. */
export const shortPicksSchema = z.object({
  across: z.object({ pick: pickSchema, coarseMm: coarseSchema }),
  along: z.object({ pick: pickSchema, coarseMm: coarseSchema }),
});
export type ShortPicks = z.output<typeof shortPicksSchema>;

export type SheetOptions = z.output<typeof sheetOptionsSchema>;

export const readingInputSchema = z.object({
  passId: z.uuid(),
  stationId: z.string().min(1).max(8),
  axis: z.enum(['across', 'along']),
  pick: pickSchema,
  coarseMm: coarseSchema,
});

/** A check bar as measured with a rule: within a tenth of what it should be. */
export const barSchema = finite
  .min(40, 'A check bar is 50 or 100 mm long (2 or 4 in); enter what the rule says.')
  .max(120, 'A check bar is 50 or 100 mm long (2 or 4 in); enter what the rule says.');
