import type { Random } from '../random/random';

import { filterDrift, type FilterPrior } from './filter';
import { stepsOf, type PlaceAhead } from './steps';
import { mixtureMoments, type NormalPart } from './mixture';
import { largestStep, modeOf, simulatedLimit } from './slips';
import type { DriftNode, DriftRun } from './types';

/** Standard deviation of a run’s offset before its first check when the log does not tell: calibrated, not long ago. */
export const START_SD_MM = 0.3;

/** Chance that one look at a run calls wander a slip; a run is looked at after every section. */
const FALSE_ALARMS_A_LOOK = 0.01;
/** Enough that the limit hardly depends on the dice: without a log its tail is long. */
const SIMULATIONS_A_LOOK = 2000;

/** Chance that the media slips between two checks, and how far, before anything is read. Common practice, no source. */
const SLIP_CHANCE = 0.02;
const SLIP_SD_MM = 0.4;
/** Steps smaller than so many of their standard errors are wander. */
const UNSURE_FROM = 2;

const priorOf = (node: DriftNode, startSdMm: number): FilterPrior => ({ ...node, homeVar: startSdMm ** 2 });
/** The same about zero: what a step is judged against. */
const spreadOf = (node: DriftNode, startSdMm: number): FilterPrior => ({
  ...priorOf(node, startSdMm),
  creepMmPerM: 0,
  bowMmPerM2: 0,
});

/** What a cut at a place ahead is expected to miss by, uncorrected. */
export interface Expected {
  readonly offsetMm: number;
  readonly varianceMm2: number;
}

/**
 * Expected offset at a place ahead in a run, from the log and this run’s checks.
 *
 * Method   Kalman filter with level and creep (and bow and the run’s registration offset) in the state, the noise
 *          averaged over its posterior, each node weighed by how well it foretold this run’s checks. A step that may be
 *          a slip is followed both ways, each by its chance.
 * Units    m along, mm off.
 */
export function expectAhead(
  run: DriftRun,
  ahead: PlaceAhead,
  nodes: readonly DriftNode[],
  unitVarMm2: number,
  startSdMm = START_SD_MM,
  maybe: PossibleSlip | null = null,
): Expected {
  const parts = (of: DriftRun, share: number): NormalPart[] => {
    const steps = stepsOf([of], unitVarMm2, ahead);
    const filtered = nodes.map((node) => filterDrift(steps, node, priorOf(node, startSdMm)));
    const best = Math.max(...filtered.map((f) => f.logLikelihood));
    const weights = nodes.map((node, i) => node.weight * Math.exp(filtered[i]!.logLikelihood - best));
    const total = weights.reduce((a, b) => a + b, 0);
    return filtered.map((f, i) => ({
      weight: (share * weights[i]!) / total,
      mean: f.levelMm,
      variance: f.levelVarMm2,
    }));
  };
  const slipped = maybe && { ...run, slipsBefore: [...(run.slipsBefore ?? []), maybe.beforeReading] };
  const { mean, variance } = mixtureMoments([
    ...parts(run, 1 - (maybe?.chance ?? 0)),
    ...(slipped ? parts(slipped, maybe.chance) : []),
  ]);
  return { offsetMm: mean, varianceMm2: variance };
}

/** A step between two checks that may be a slip and may be wander. */
export interface PossibleSlip {
  readonly beforeReading: number;
  readonly fromM: number;
  readonly toM: number;
  readonly sizeMm: number;
  readonly statistic: number;
  /** That it is a slip. */
  readonly chance: number;
}

/**
 * The most significant step in a run so far, with the chance that it is a slip; null when there is none to speak of.
 *
 * Method   posterior odds: the size found with variance v, under slips of N(0, σ²) against none (Kass & Raftery 1995;
 *          from memory).
 */
export function possibleSlip(
  run: DriftRun,
  nodes: readonly DriftNode[],
  unitVarMm2: number,
  startSdMm = START_SD_MM,
): PossibleSlip | null {
  if (run.readings.length < 2) return null;
  const mode = modeOf(nodes);
  const best = largestStep(stepsOf([run], unitVarMm2), mode, undefined, null, priorOf(mode, startSdMm));
  if (best === null || best.statistic < UNSURE_FROM) return null;
  const share = SLIP_SD_MM ** 2 / (best.varianceMm2 + SLIP_SD_MM ** 2);
  const odds =
    (SLIP_CHANCE / (1 - SLIP_CHANCE)) * Math.sqrt(1 - share) * Math.exp((best.statistic ** 2 * share) / 2);
  return {
    beforeReading: best.index,
    fromM: run.readings[best.index - 1]!.yM,
    toM: run.readings[best.index]!.yM,
    sizeMm: best.sizeMm,
    statistic: best.statistic,
    chance: odds === Infinity ? 1 : odds / (1 + odds),
  };
}

/** A slip in the run that is going on. */
export interface SlipNow {
  readonly beforeReading: number;
  readonly fromM: number;
  readonly toM: number;
  readonly sizeMm: number;
  readonly uMm: number;
  readonly statistic: number;
  readonly limit: number;
}

/** The most significant step in a run so far, when wander would hardly make it. */
export function slipInRun(
  run: DriftRun,
  nodes: readonly DriftNode[],
  unitVarMm2: number,
  random: Random,
  startSdMm = START_SD_MM,
): SlipNow | null {
  if (run.readings.length < 2) return null;
  const steps = stepsOf([run], unitVarMm2);
  const mode = modeOf(nodes);
  const best = largestStep(steps, mode, undefined, null, priorOf(mode, startSdMm));
  if (best === null || best.statistic < 3) return null;
  const limit = simulatedLimit(
    steps,
    nodes,
    random,
    FALSE_ALARMS_A_LOOK,
    (node) => spreadOf(node, startSdMm),
    SIMULATIONS_A_LOOK,
  );
  if (best.statistic <= limit) return null;
  return {
    beforeReading: best.index,
    fromM: run.readings[best.index - 1]!.yM,
    toM: run.readings[best.index]!.yM,
    sizeMm: best.sizeMm,
    uMm: Math.sqrt(best.varianceMm2),
    statistic: best.statistic,
    limit,
  };
}
