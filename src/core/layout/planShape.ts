import { z } from 'zod';

import { MEDIA_CLASSES } from '@/core/drift';
import { SECTIONS_OF_A_RECORD, STRATEGIES, type RollJob } from '@/core/layout';

import '../shapeWords';

/* What a roll is planned from: read from the plan form in the browser, and from scripts by the server. */

const length = (what: string, most = 100_000) =>
  z
    .number(`${what} must be a number, in mm.`)
    .positive(`${what} must be more than 0 mm.`)
    .max(most, `${what} can be at most ${most} mm.`);
const atLeastZero = (what: string, most = 100_000) =>
  z
    .number(`${what} must be a number, in mm.`)
    .min(0, `${what} cannot be negative.`)
    .max(most, `${what} can be at most ${most} mm.`);
const variance = z.number().min(0, 'A variance cannot be negative.').max(1e4);
export const axisDriftSchema = z.object({
  creepMmPerM: z.number('“creepMmPerM” must be a number.').min(-100).max(100).default(0),
  bowMmPerM2: z.number().min(-10).max(10).default(0),
  creepSe: z.number().min(0).max(100).default(0),
  bowSe: z.number().min(0).max(10).default(0),
  wanderMm2PerM: variance.default(0),
  /** Standard deviation of the creep from run to run. */
  creepSpreadMmPerM: z.number().min(0).max(100).default(0),
  readingSdMm: z.number().min(0).max(100).default(0.035),
  registrationSdMm: z.number().min(0).max(100).default(0),
});

export type AxisDrift = z.output<typeof axisDriftSchema>;

export const driftSchema = z.object({
  along: axisDriftSchema.default(axisDriftSchema.parse({})),
  across: axisDriftSchema.optional(),
  sectionsOnRecord: z.int().min(0).max(1e6).default(SECTIONS_OF_A_RECORD),
});

export const mediaClass = z.enum(MEDIA_CLASSES, `A media class is one of ${MEDIA_CLASSES.join(', ')}.`);

export const planRequestSchema = z.object({
  item: z.object(
    { widthMm: length('The item’s width', 60_000), heightMm: length('The item’s height', 60_000) },
    '“item” is {"widthMm","heightMm"}.',
  ),
  copies: z
    .int('“copies” is a whole number.')
    .min(1, 'Plan at least one copy.')
    .max(1_000_000, 'At most 1 000 000 copies.'),
  gapMm: atLeastZero('The gap', 10_000).default(0),
  printableWidthMm: length('The printable width', 60_000),
  rowsPerSection: z
    .int('“rowsPerSection” is a whole number.')
    .min(1, 'A section has at least one row.')
    .max(20_000)
    .optional(),
  toleranceMm: z
    .number('“toleranceMm” must be a number.')
    .min(0.01, 'At least 0.01 mm: nobody sees less.')
    .max(50, 'At most 50 mm.')
    .default(0.5),
  promise: z
    .number()
    .min(0.0001, 'Promise at least 0.0001: one item in ten thousand.')
    .max(0.5, 'Promise at most 0.5: every other item.')
    .default(0.01),
  outline: z.enum(['rectangle', 'round'], '“outline” is rectangle or round.').default('rectangle'),
  mayTurn: z.boolean().default(false),
  lanes: z.int().min(1, 'At least one lane.').max(20, 'At most twenty lanes.').default(1),
  laneGapMm: atLeastZero('The gap between lanes', 10_000).default(0),
  centreLastRow: z.boolean().default(false),
  markRoomMm: atLeastZero('The room for marks', 5000).default(0),
  betweenMm: atLeastZero('The room between sections', 5000).optional(),
  leadMm: atLeastZero('The lead', 10_000).default(0),
  tailMm: atLeastZero('The tail', 10_000).default(0),
  rollLeftMm: length('What is left on the roll', 1e6).optional(),
  cutLengthMm: length('The cut line of an item', 1e6).optional(),
  speeds: z
    .object({
      printMmPerHour: z.number().min(1).max(1e7).default(10_000),
      cutMmPerS: z.number().min(0.1).max(10_000).default(200),
      registerS: z.number().min(0).max(36_000).default(60),
      waitS: z.number().min(0).max(1e7).default(0),
    })
    .prefault({}),
  oneMachine: z.boolean().default(false),
  correctCreep: z.boolean().default(false),
  marks: z
    .object({
      registers: z.boolean().default(true),
      bothEnds: z.boolean().default(true),
      longestMm: z.number().min(50).max(60_000).nullable().default(null),
      everyMm: z.number().min(20, 'Marks stand at least 20 mm apart.').max(60_000).nullable().default(null),
    })
    .prefault({}),
  mediaClass: mediaClass.default('film'),
  drift: driftSchema.optional(),
  strategy: z.enum(STRATEGIES, `A strategy is one of ${STRATEGIES.join(', ')}.`).optional(),
});

export type PlanRequest = z.output<typeof planRequestSchema>;

/** The job of a request as it is planned. */
export const jobOf = (r: PlanRequest): RollJob => ({
  itemWidthMm: r.item.widthMm,
  itemHeightMm: r.item.heightMm,
  copies: r.copies,
  gapMm: r.gapMm,
  printableWidthMm: r.printableWidthMm,
  mayTurn: r.mayTurn,
  lanes: r.lanes,
  laneGapMm: r.laneGapMm,
  centreLastRow: r.centreLastRow,
  outline: r.outline,
  toleranceMm: r.toleranceMm,
  promise: r.promise,
  rowsPerSection: r.rowsPerSection ?? null,
  markRoomMm: r.markRoomMm,
  betweenMm: r.betweenMm ?? r.gapMm,
  leadMm: r.leadMm,
  tailMm: r.tailMm,
  rollLeftMm: r.rollLeftMm ?? null,
  cutLengthMm: r.cutLengthMm ?? null,
  speeds: r.speeds,
  oneMachine: r.oneMachine,
  correctCreep: r.correctCreep,
});
