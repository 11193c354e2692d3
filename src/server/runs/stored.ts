import { z } from 'zod';

import { HEADINGS, type SectionFrame } from '@/core/daily';
import type { ExpectedMiss, RollPlan, Strategy } from '@/core/layout';
import { affineSchema } from '@/server/sessions/stored';
import { type PlanRequest, planRequestSchema } from '@/shapes/plan';

import { CHECK_PLACES } from './run';

/** What a section's cut carried: the drift that its file undid, in the section's own frame, and a stretch. */
export const appliedSchema = z.object({
  version: z.string(),
  map: affineSchema,
  /** Length after laminating over length before; the cut is stretched by it. */
  stretch: z.number().positive(),
  r95Mm: z.number().nonnegative(),
});

export type Applied = z.output<typeof appliedSchema>;

const sectionSchema = z.object({
  index: z.int(),
  firstRow: z.int(),
  rows: z.int(),
  copies: z.int(),
  heightMm: z.number(),
  startMm: z.number(),
  endMm: z.number(),
});

const impositionSchema = z.object({
  columns: z.int(),
  columnsPerLane: z.int(),
  rows: z.int(),
  turned: z.boolean(),
  itemWidthMm: z.number(),
  itemHeightMm: z.number(),
  gapMm: z.number(),
  copies: z.int(),
  copiesInLastRow: z.int(),
  leftoverCopies: z.int(),
  usedWidthMm: z.number(),
  columnsAtMm: z.array(z.number()),
  lastRowShiftMm: z.number().default(0),
});

/** A plan as it was frozen. */
export const frozenPlanSchema = z.object({
  version: z.string(),
  driftVersion: z.string(),
  request: planRequestSchema,
  imposition: impositionSchema,
  strategy: z.string(),
  way: z.enum(['start', 'both-ends']),
  everyMm: z.number().nullable(),
  sections: z.array(sectionSchema).min(1),
  forecasts: z.array(z.object({ worstR95Mm: z.number(), spoiled: z.number() })),
  worstR95Mm: z.number(),
  spoiled: z.number(),
  /** By the model that follows the run; null of plans frozen before it was told. */
  expected: z.object({ untilCheckedMm: z.number(), thenMm: z.number().nullable() }).nullable().default(null),
  mediaMm: z.number(),
  markRoomMm: z.number(),
  betweenMm: z.number(),
  /** How its cut files lie; null of plans frozen before a rig said so. */
  frame: z
    .object({
      xRuns: z.enum(HEADINGS),
      yRuns: z.enum(HEADINGS),
      zeroXMm: z.number(),
      zeroYMm: z.number().nullable(),
    })
    .nullable()
    .default(null),
});

export type FrozenPlan = z.output<typeof frozenPlanSchema>;

export const frozen = (
  request: PlanRequest,
  plan: RollPlan,
  strategy: Strategy,
  driftVersion: string,
  expected: ExpectedMiss,
  frame: SectionFrame | null,
): FrozenPlan => ({
  version: plan.version,
  driftVersion,
  request,
  imposition: { ...plan.imposition, columnsAtMm: [...plan.imposition.columnsAtMm] },
  strategy: strategy.name,
  way: strategy.way,
  everyMm: strategy.everyMm,
  sections: strategy.sections.map((s) => ({ ...s })),
  forecasts: strategy.forecasts.map((f) => ({ ...f })),
  worstR95Mm: strategy.worstR95Mm,
  spoiled: strategy.spoiled,
  expected,
  mediaMm: strategy.mediaMm,
  markRoomMm: request.markRoomMm,
  betweenMm: request.betweenMm ?? request.gapMm,
  frame,
});

/** What a closed run came to. */
export const runOutcomeSchema = z.object({
  predictedSpoiled: z.number(),
  spoiled: z.int().nullable(),
  predictedR95Mm: z.number(),
  worstCheckMm: z.number().nullable(),
  checks: z.int(),
  costSpoiled: z.number().nullable(),
  note: z.string(),
  taught: z
    .array(
      z.object({
        axis: z.enum(['along', 'across']),
        creepBefore: z.number(),
        creepAfter: z.number(),
        wanderBefore: z.number().nullable(),
        wanderAfter: z.number().nullable(),
      }),
    )
    .default([]),
});

export type RunOutcome = z.output<typeof runOutcomeSchema>;

export const eventDetailSchema = z.object({
  axis: z.enum(['along', 'across']).optional(),
  sizeMm: z.number().optional(),
  /** Of a slip that was kept: the check after it. */
  section: z.int().optional(),
  place: z.enum(CHECK_PLACES).optional(),
  nominalMm: z.number().optional(),
  measuredMm: z.number().optional(),
  uMm: z.number().optional(),
  stretch: z.number().optional(),
  ticked: z.array(z.string()).optional(),
  note: z.string().optional(),
  /** The event that an undoing takes back. */
  undoes: z.uuid().optional(),
});
