import { z } from 'zod';

import { HEADINGS } from '@/core/daily';
import { MEDIA_CLASSES } from '@/core/drift';
import { STRATEGIES } from '@/core/layout';
import { CHECK_PLACES } from '@/core/setup';

import { before, codec } from './codec';
import { affine } from './pieces';

/* JSON columns of runs, their sections, events and files. */

/** What a section's cut carried: the drift that its file undid, in the section's own frame, and a stretch. */
const applied = z.object({
  version: z.string(),
  map: affine,
  /** Length after laminating over length before; the cut is stretched by it. */
  stretch: z.number().positive(),
  r95Mm: z.number().nonnegative(),
  /** T of the setup that the file undid first, in the section's frame; null of files that carried none. */
  standing: affine.nullable().default(null),
  /** Where across its witness strip stood; null without one; not told of files of before. */
  stripXMm: z.number().nullable().optional(),
});

export type Applied = z.output<typeof applied>;

const axisDrift = z.object({
  creepMmPerM: z.number(),
  bowMmPerM2: z.number(),
  creepSe: z.number(),
  bowSe: z.number(),
  wanderMm2PerM: z.number(),
  creepSpreadMmPerM: z.number(),
  readingSdMm: z.number(),
  registrationSdMm: z.number(),
});

/** What the plan was asked, as it was when it was frozen. */
const request = z.object({
  item: z.object({ widthMm: z.number(), heightMm: z.number() }),
  copies: z.int(),
  gapMm: z.number().default(0),
  printableWidthMm: z.number(),
  rowsPerSection: z.int().optional(),
  toleranceMm: z.number().default(0.5),
  promise: z.number().default(0.01),
  outline: z.enum(['rectangle', 'round']).default('rectangle'),
  mayTurn: z.boolean().default(false),
  lanes: z.int().default(1),
  laneGapMm: z.number().default(0),
  centreLastRow: z.boolean().default(false),
  markRoomMm: z.number().default(0),
  betweenMm: z.number().optional(),
  leadMm: z.number().default(0),
  tailMm: z.number().default(0),
  rollLeftMm: z.number().optional(),
  cutLengthMm: z.number().optional(),
  speeds: z
    .object({
      printMmPerHour: z.number().default(10_000),
      cutMmPerS: z.number().default(200),
      registerS: z.number().default(60),
      waitS: z.number().default(0),
    })
    .prefault({}),
  oneMachine: z.boolean().default(false),
  correctCreep: z.boolean().default(false),
  marks: z
    .object({
      registers: z.boolean().default(true),
      bothEnds: z.boolean().default(true),
      longestMm: z.number().nullable().default(null),
      everyMm: z.number().nullable().default(null),
    })
    .prefault({}),
  mediaClass: z.enum(MEDIA_CLASSES).default('film'),
  drift: z.object({ along: axisDrift, across: axisDrift.optional(), sectionsOnRecord: z.int() }).optional(),
  strategy: z.enum(STRATEGIES).optional(),
});

const section = z.object({
  index: z.int(),
  firstRow: z.int(),
  rows: z.int(),
  copies: z.int(),
  heightMm: z.number(),
  startMm: z.number(),
  endMm: z.number(),
});

const imposition = z.object({
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
const frozenPlan = z.object({
  version: z.string(),
  driftVersion: z.string(),
  request,
  imposition,
  strategy: z.string(),
  way: z.enum(['start', 'both-ends']),
  everyMm: z.number().nullable(),
  sections: z.array(section).min(1),
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
      zeroYFrom: z.enum(['start', 'middle', 'end']),
      zeroYMm: z.number(),
    })
    .nullable()
    .default(null),
  /** What stood for its setup, and T of it in the sections' frame; null of plans frozen before their files carried it. */
  standing: z.object({ id: z.uuid(), map: affine.nullable() }).nullable().default(null),
});

/** Before a zero was told by the section's end: from its start, or (null) its middle. */
const frozenPlanOfStart = frozenPlan.extend({
  frame: z.object({
    xRuns: z.enum(HEADINGS),
    yRuns: z.enum(HEADINGS),
    zeroXMm: z.number(),
    zeroYMm: z.number().nullable(),
  }),
});

export type FrozenPlan = z.output<typeof frozenPlan>;

/** What a closed run came to. */
const outcome = z.object({
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

export type RunOutcome = z.output<typeof outcome>;

const detail = z.object({
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
  /** Of a standing correction that was replaced meanwhile: which, whether the files to come carry it, and its T. */
  standingId: z.uuid().optional(),
  taken: z.boolean().optional(),
  map: affine.nullable().optional(),
  /** The event that an undoing takes back. */
  undoes: z.uuid().optional(),
});

export type EventDetail = z.output<typeof detail>;

export const frozenPlanOf = codec('runs.plan', frozenPlan, [
  before(frozenPlanOfStart, ({ frame: { zeroYMm, ...frame }, ...plan }): FrozenPlan => ({
    ...plan,
    frame: { ...frame, zeroYFrom: zeroYMm === null ? 'middle' : 'start', zeroYMm: zeroYMm ?? 0 },
  })),
]);
export const outcomeOf = codec('runs.outcome', outcome);
export const sectionApplied = codec('run_sections.applied', applied);
export const fileApplied = codec('run_files.applied', applied);
export const eventDetail = codec('run_events.detail', detail);
