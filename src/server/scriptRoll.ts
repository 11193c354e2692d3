import { z } from 'zod';

import {
  DRIFT_PRIORS,
  estimateDrift,
  estimateWithSlips,
  FOLLOW_VERSION,
  MEDIA_CLASSES,
  sectionOutlook,
  START_SD_MM,
  type AxisOutlook,
  type DriftEstimate,
  type DriftKnowledge,
  type DriftNode,
  type DriftRun,
  type MediaClass,
  type SlipFound,
} from '@/core/drift';
import {
  planRefusalText,
  planRoll,
  rollYield,
  SECTIONS_OF_A_RECORD,
  STRATEGIES,
  type RollJob,
} from '@/core/layout';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { seededRandom } from '@/core/random/random';

/* POST /api/plan/roll, /api/drift and /api/run/next. */

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
const offset = z
  .number('An offset must be a number, in mm.')
  .min(-100, 'An offset is at least −100 mm.')
  .max(100, 'An offset is at most 100 mm.');
const distance = z
  .number('A distance along the run must be a number, in m.')
  .min(0, 'A distance along the run cannot be negative.')
  .max(1000, 'A run is at most 1 000 m long.');
const variance = z.number().min(0, 'A variance cannot be negative.').max(1e4);
const uncertainty = z
  .number('“u” is the standard uncertainty of a reading, in mm.')
  .positive('“u” must be more than 0 mm.')
  .max(100);

const axisDriftSchema = z.object({
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

const driftSchema = z.object({
  along: axisDriftSchema.default(axisDriftSchema.parse({})),
  across: axisDriftSchema.optional(),
  sectionsOnRecord: z.int().min(0).max(1e6).default(SECTIONS_OF_A_RECORD),
});

/** A drift given in figures, as a posterior of one point. A little registration noise keeps it from being exact. */
function nodeOf(d: AxisDrift): DriftNode {
  return {
    weight: 1,
    wanderMm2PerM: d.wanderMm2PerM,
    creepVarMm2PerM2: d.creepSpreadMmPerM ** 2,
    readingVarMm2: Math.max(1e-8, d.readingSdMm ** 2),
    registrationVarMm2: Math.max(1e-12, d.registrationSdMm ** 2),
    creepMmPerM: d.creepMmPerM,
    bowMmPerM2: d.bowMmPerM2,
    creepVar: d.creepSe ** 2,
    bowVar: d.bowSe ** 2,
    creepBowCov: 0,
  };
}

/** Nothing is known of drift across: it wanders and registers as along, without creep and bow. */
const sideways = (along: AxisDrift): AxisDrift => ({
  ...along,
  creepMmPerM: 0,
  bowMmPerM2: 0,
  creepSe: 0,
  bowSe: 0,
  creepSpreadMmPerM: 0,
});

const mediaClass = z.enum(MEDIA_CLASSES, `A media class is one of ${MEDIA_CLASSES.join(', ')}.`);

function assumedKnowledge(media: MediaClass): DriftKnowledge {
  const { nodes } = estimateDrift([], DRIFT_PRIORS[media]);
  return { along: nodes, across: nodes };
}

/* POST /api/plan/roll --------------------------------------------------------------------------------- */

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

/** A roll plan. The sections are those of the strategy asked for, or of sections when rows are given, or of the recommended one. */
export function planForScript(
  request: PlanRequest,
): Outcome<object, { readonly code: string; readonly message: string }> {
  const { drift } = request;
  const knowledge = drift
    ? { along: [nodeOf(drift.along)], across: [nodeOf(drift.across ?? sideways(drift.along))] }
    : assumedKnowledge(request.mediaClass);
  const job = jobOf(request);
  const onRecord = drift?.sectionsOnRecord ?? 0;
  const planned = planRoll(job, knowledge, onRecord, request.marks);
  if (!planned.ok) return refuse({ code: planned.refusal.code, message: planRefusalText(planned.refusal) });
  const { imposition, strategies, recommended, version, plannedShare } = planned.value;
  const name = request.strategy ?? (request.rowsPerSection ? 'sections' : recommended);
  const chosen = strategies.find((s) => s.name === name)!;
  return accept({
    version,
    driftFrom: drift ? 'request' : `assumed for ${request.mediaClass}`,
    columns: imposition.columns,
    rows: imposition.rows,
    turned: imposition.turned,
    copiesInLastRow: imposition.copiesInLastRow,
    leftoverCopies: imposition.leftoverCopies,
    usedWidthMm: imposition.usedWidthMm,
    strategy: chosen.name,
    rowsPerSection: chosen.rowsPerSection,
    sections: chosen.sections.map((s, i) => ({
      index: s.index,
      rows: s.rows,
      copies: s.copies,
      heightMm: s.heightMm,
      startMm: s.startMm,
      endMm: s.endMm,
      worstR95Mm: chosen.forecasts[i]!.worstR95Mm,
      expectedSpoiled: chosen.forecasts[i]!.spoiled,
    })),
    sectionHeightMm: chosen.sections[0]!.heightMm,
    totalLengthMm: chosen.printedMm,
    mediaMm: chosen.mediaMm,
    ...(job.rollLeftMm === null
      ? {}
      : {
          fromRoll: rollYield(
            job,
            knowledge,
            onRecord,
            request.marks,
            chosen.name,
            imposition.turned,
            job.rollLeftMm,
          ),
        }),
    waste: chosen.waste,
    recommended,
    plannedShare,
    strategies: strategies.map((s) => ({
      name: s.name,
      possible: s.missing === null,
      missing: s.missing,
      rowsPerSection: s.rowsPerSection,
      sections: s.sections.length,
      worstR95Mm: s.worstR95Mm,
      expectedSpoiled: s.spoiled,
      expectedSpoiledShare: s.spoiledShare,
      keepsPromise: s.keepsPromise,
      totalLengthMm: s.printedMm,
      mediaMm: s.mediaMm,
      fitsRoll: s.fitsRoll,
      seconds: s.time.totalS,
    })),
  });
}

/* POST /api/drift ------------------------------------------------------------------------------------- */

const MOST_READINGS = 1000;
const MOST_REGISTRATIONS = 2000;

const readingSchema = z
  .object({
    y: distance,
    dx: offset.optional(),
    dy: offset.optional(),
    u: uncertainty.default(0.035),
  })
  .refine((r) => r.dx !== undefined || r.dy !== undefined, 'A reading needs “dx”, “dy” or both.');

const runSchema = z.object({
  id: z.union([z.string().min(1).max(64), z.number()], 'A run needs an “id”.').transform(String),
  registeredAt: z.array(distance).min(1, 'A run is registered at least once.').max(2000).default([0]),
  readings: z.array(readingSchema, '“readings” is a list of {"y","dx","dy","u"}.').max(MOST_READINGS),
});

export const driftRequestSchema = z
  .object({
    runs: z
      .array(runSchema, '“runs” is a list of {"id","readings"}.')
      .min(1, '“runs” is empty: give at least one.')
      .max(400, 'At most 400 runs.'),
    mediaClass: mediaClass.default('film'),
  })
  .refine(
    ({ runs }) => runs.reduce((sum, r) => sum + r.readings.length, 0) <= MOST_READINGS,
    `At most ${MOST_READINGS} readings at a time.`,
  )
  .refine(
    ({ runs }) => runs.reduce((sum, r) => sum + r.registeredAt.length, 0) <= MOST_REGISTRATIONS,
    `At most ${MOST_REGISTRATIONS} registrations at a time.`,
  )
  .refine(
    ({ runs }) => new Set(runs.map((r) => r.id)).size === runs.length,
    'Two runs have the same id. Give every run its own.',
  );

export type DriftRequest = z.output<typeof driftRequestSchema>;
type RunRequest = z.output<typeof runSchema>;

const axisRun = (run: RunRequest, axis: 'dx' | 'dy'): DriftRun => ({
  id: run.id,
  registeredAtM: run.registeredAt,
  readings: run.readings
    .flatMap((r, i) => (r[axis] === undefined ? [] : [{ id: `${i}`, yM: r.y, offsetMm: r[axis], uMm: r.u }]))
    .sort((a, b) => a.yM - b.yM),
});

/** Drift of runs on both axes; an axis that nobody read is null. */
export function driftForScript({ runs, mediaClass: media }: DriftRequest) {
  const answer = (axis: 'dx' | 'dy') => {
    const read = runs.map((run) => axisRun(run, axis));
    if (!read.some((r) => r.readings.length > 0)) return null;
    const { estimate, slips } = estimateWithSlips(read, DRIFT_PRIORS[media], seededRandom(1));
    return axisAnswer(estimate, slips);
  };
  return { along: answer('dy'), across: answer('dx') };
}

const axisAnswer = (e: DriftEstimate, slips: readonly SlipFound[]) => ({
  version: e.version,
  runs: e.runs,
  readings: e.readings,
  enoughOnRecord: e.enough,
  creepMmPerM: e.creep,
  bowMmPerM2: e.bow,
  wanderMm2PerM: e.wander,
  creepVarianceMm2PerM2: e.creepVar,
  readingVarianceMm2: e.readingVar,
  registrationVarianceMm2: e.registrationVar,
  steps: slips.map((s) => ({
    run: s.runId,
    afterM: s.fromM,
    beforeM: s.toM,
    sizeMm: s.sizeMm,
    ofRegistration: s.ofRegistration,
    statistic: s.statistic,
    limit: s.limit,
  })),
});

/* POST /api/run/next ---------------------------------------------------------------------------------- */

export const nextRequestSchema = z.object({
  drift: driftSchema.optional(),
  mediaClass: mediaClass.default('film'),
  run: runSchema.omit({ id: true }).default({ registeredAt: [0], readings: [] }),
  /** A further reading; the same as the last of `run.readings`. */
  reading: readingSchema.optional(),
  next: z
    .object(
      { startM: distance, endM: distance, registers: z.boolean().default(false) },
      '“next” is {"startM","endM","registers"}.',
    )
    .refine((n) => n.endM > n.startM, { path: ['endM'], message: 'The section ends after it starts.' }),
  toleranceMm: z.number().min(0.01).max(50).default(0.5),
  /** Standard deviation of the run's offset before its first reading. */
  startSdMm: z.number().min(0.001).max(30).default(START_SD_MM),
});

export type NextRequest = z.output<typeof nextRequestSchema>;

/** What the next section’s cut file has to undo, from this run’s checks. */
export function nextForScript(request: NextRequest) {
  const { drift, next } = request;
  const known = drift
    ? { along: [nodeOf(drift.along)], across: [nodeOf(drift.across ?? sideways(drift.along))] }
    : assumedKnowledge(request.mediaClass);
  const readings = request.reading ? [...request.run.readings, request.reading] : request.run.readings;
  const run: RunRequest = { ...request.run, id: 'now', readings };
  const axis = (name: 'dx' | 'dy', nodes: readonly DriftNode[]) => ({
    run: axisRun(run, name),
    nodes,
    unitVarMm2: nodes[0]!.readingVarMm2,
    startSdMm: request.startSdMm,
  });
  const ahead = { ...next, registers: next.registers ? ('start' as const) : ('no' as const) };
  const outlook = sectionOutlook(axis('dy', known.along), axis('dx', known.across), ahead, seededRandom(1));
  const answer = ({ atStart, atEnd, slip }: AxisOutlook) => ({
    atStartMm: atStart.offsetMm,
    atEndMm: atEnd.offsetMm,
    sdAtStartMm: Math.sqrt(atStart.varianceMm2),
    sdAtEndMm: Math.sqrt(atEnd.varianceMm2),
    slip: slip && { afterM: slip.fromM, beforeM: slip.toM, sizeMm: slip.sizeMm, uMm: slip.uMm },
  });
  const slipped = outlook.along.slip !== null || outlook.across.slip !== null;
  return {
    version: FOLLOW_VERSION,
    along: answer(outlook.along),
    across: answer(outlook.across),
    map: outlook.map,
    r95Mm: outlook.r95Mm,
    r95AsDrawnMm: outlook.r95AsDrawnMm,
    go: !slipped && outlook.r95Mm <= request.toleranceMm,
  };
}
