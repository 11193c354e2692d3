import { z } from 'zod';

import { RUN_START_FROM, START_SD_MM } from '@/core/drift';

import { codec } from './codec';

/* What a rig's log says about its drift: gathered from runs, roll proofs and pairs of marks, worked out once. */

export type DriftAxis = 'along' | 'across';

const finite = z.number();

const interval = z.object({ value: finite, low: finite, high: finite });

const node = z.object({
  weight: finite,
  wanderMm2PerM: finite,
  creepVarMm2PerM2: finite,
  readingVarMm2: finite,
  registrationVarMm2: finite,
  creepMmPerM: finite,
  bowMmPerM2: finite,
  creepVar: finite,
  bowVar: finite,
  creepBowCov: finite,
});

const axisSchema = z.object({
  runs: z.int(),
  readings: z.int(),
  enough: z.boolean(),
  wander: interval.nullable(),
  creepVar: interval.nullable(),
  readingVar: interval.nullable(),
  registrationVar: interval.nullable(),
  creep: interval,
  bow: interval,
  unitVarMm2: finite,
  /** How far out a run starts, before its first check. */
  startSdMm: finite.default(START_SD_MM),
  /** Who says so; not kept with the oldest estimates. */
  startFrom: z.enum(RUN_START_FROM).optional(),
  nodes: z.array(node).min(1),
  slips: z.array(
    z.object({
      runId: z.string(),
      beforeReading: z.int(),
      fromM: finite,
      toM: finite,
      sizeMm: interval,
      ofRegistration: z.boolean(),
      statistic: finite,
      limit: finite,
    }),
  ),
});

const driftResult = z.object({ along: axisSchema, across: axisSchema });

export type AxisKnowledge = z.output<typeof axisSchema>;

export type DriftResult = z.output<typeof driftResult>;

export const driftEstimate = codec('drift_estimates.result', driftResult);
export const runKnowledge = codec('runs.knowledge', driftResult);
export const driftNode = codec('a node of drift_estimates.result', node);
