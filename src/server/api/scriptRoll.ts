import { z } from 'zod';

import {
  DRIFT_PRIORS,
  estimateDrift,
  estimateWithSlips,
  FOLLOW_VERSION,
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
import { planRefusalText, planRoll, rollYield } from '@/core/layout';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { seededRandom } from '@/core/random/random';
import { driftSchema, jobOf, mediaClass, type AxisDrift, type PlanRequest } from '@/core/layout/planShape';

/** The filter needs some of each: a tenth of a micrometre and less. */
const LEAST_READING_VAR_MM2 = 1e-8;
const LEAST_REGISTRATION_VAR_MM2 = 1e-12;

/* POST /api/plan/roll, /api/drift and /api/run/next. */

const offset = z
  .number('An offset must be a number, in mm.')
  .min(-100, 'An offset is at least −100 mm.')
  .max(100, 'An offset is at most 100 mm.');
const distance = z
  .number('A distance along the run must be a number, in m.')
  .min(0, 'A distance along the run cannot be negative.')
  .max(1000, 'A run is at most 1 000 m long.');
const uncertainty = z
  .number('“u” is the standard uncertainty of a reading, in mm.')
  .positive('“u” must be more than 0 mm.')
  .max(100);

/** A drift given in figures, as a posterior of one point. A little registration noise keeps it from being exact. */
function nodeOf(d: AxisDrift): DriftNode {
  return {
    weight: 1,
    wanderMm2PerM: d.wanderMm2PerM,
    creepVarMm2PerM2: d.creepSpreadMmPerM ** 2,
    readingVarMm2: Math.max(LEAST_READING_VAR_MM2, d.readingSdMm ** 2),
    registrationVarMm2: Math.max(LEAST_REGISTRATION_VAR_MM2, d.registrationSdMm ** 2),
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

function assumedKnowledge(media: MediaClass): DriftKnowledge {
  const { nodes } = estimateDrift([], DRIFT_PRIORS[media]);
  return { along: nodes, across: nodes };
}

/* POST /api/plan/roll --------------------------------------------------------------------------------- */

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
