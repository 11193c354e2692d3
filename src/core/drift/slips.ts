import { normalDeviate, type Random } from '../random/random';

import { filterDrift, newTrace, stepsBefore, WIDE, type FilterPrior, type Trace } from './filter';
import { forEachStep, stepsOf, type DriftSteps } from './steps';
import { mixtureQuantile } from './mixture';
import { estimateDrift, type DriftEstimate } from './estimate';
import { driftNodes, likeliestNoise } from './nodes';
import type { DriftPrior } from './priors';
import type { DriftNode, DriftNoise, DriftRun, SlipFound } from './types';

/** Chance that wander alone is called a slip, aimed well under the promised 5 in 100: the step that is judged is the worst one. */
const FALSE_ALARMS = 0.02;
const SIMULATIONS = 400;
const MOST_SLIPS = 6;

export interface DriftWithSlips {
  readonly estimate: DriftEstimate;
  readonly runs: readonly DriftRun[];
  readonly slips: readonly SlipFound[];
}

/**
 * Drift of a rig’s runs with sudden slips told from it: the most significant step against the smooth model with
 * wander, taken in, and again, until none passes the limit that is simulated for this record.
 *
 * Source   change points by likelihood ratio, docs/maths.md; the limit by simulation from the fitted wander.
 */
export function estimateWithSlips(
  runs: readonly DriftRun[],
  prior: DriftPrior,
  random: Random,
): DriftWithSlips {
  const read = runs.filter((r) => r.readings.length > 0);
  let known: readonly DriftRun[] = read;
  const found: { runId: string; beforeReading: number; statistic: number; limit: number }[] = [];
  while (found.length < MOST_SLIPS) {
    const steps = stepsOf(known);
    const candidate = largestStep(steps, likeliestNoise(known, prior));
    if (candidate === null || candidate.statistic < WORTH_A_LOOK) break;
    // A slip passes for wander as long as it is not taken out; judged by the wander that is left without it.
    const taken = { runId: candidate.runId, beforeReading: candidate.index };
    const without = known.map((run) => withSlips(run, [taken]));
    const nodes = driftNodes(without, prior);
    const best = largestStep(steps, modeOf(nodes));
    if (best === null || best.runId !== candidate.runId || best.index !== candidate.index) break;
    const limit = simulatedLimit(steps, nodes, random);
    if (best.statistic <= limit) break;
    found.push({ ...taken, statistic: best.statistic, limit });
    known = without;
  }
  const estimate = estimateDrift(known, prior);
  return { estimate, runs: known, slips: found.map((f) => slipFound(known, estimate.nodes, f)) };
}

/** Statistics below this are never a slip, whatever the limit. */
const WORTH_A_LOOK = 2.5;

const withSlips = (
  run: DriftRun,
  found: readonly { readonly runId: string; readonly beforeReading: number }[],
): DriftRun => ({
  ...run,
  slipsBefore: [
    ...(run.slipsBefore ?? []),
    ...found.filter((f) => f.runId === run.id).map((f) => f.beforeReading),
  ],
});

/** The most likely noise of the posterior. */
export const modeOf = (nodes: readonly DriftNode[]): DriftNode =>
  nodes.reduce((best, n) => (n.weight > best.weight ? n : best));

interface LargestStep {
  readonly runId: string;
  readonly index: number;
  readonly statistic: number;
  readonly sizeMm: number;
  readonly varianceMm2: number;
}

/** The most significant single step in a record; null when none can be told. */
export function largestStep(
  steps: DriftSteps,
  noise: DriftNoise,
  trace: Trace = newTrace(steps.places.length),
  offsets: Float64Array | null = null,
  prior: FilterPrior = WIDE,
): LargestStep | null {
  filterDrift(steps, noise, prior, trace, offsets);
  const { sizeMm, varianceMm2 } = stepsBefore(steps, trace);
  let best: LargestStep | null = null;
  steps.places.forEach((place, k) => {
    const statistic = Math.abs(sizeMm[k]!) / Math.sqrt(varianceMm2[k]!);
    // NaN, where no step can be told, compares as false.
    if (statistic > (best?.statistic ?? 0))
      best = {
        runId: place.runId,
        index: place.index,
        statistic,
        sizeMm: sizeMm[k]!,
        varianceMm2: varianceMm2[k]!,
      };
  });
  return best;
}

/** What the largest step of records without slips stays under, noise drawn from what the log allows. */
export function simulatedLimit(
  steps: DriftSteps,
  nodes: readonly DriftNode[],
  random: Random,
  falseAlarms = FALSE_ALARMS,
  priorOf: (node: DriftNode) => FilterPrior = () => WIDE,
  simulations = SIMULATIONS,
): number {
  const mode = modeOf(nodes);
  const prior = priorOf(mode);
  const trace = newTrace(steps.places.length);
  const offsets = new Float64Array(steps.places.length);
  const largest = Array.from({ length: simulations }, () => {
    const node = drawNode(nodes, random);
    simulateOffsets(steps, node, priorOf(node), random, offsets);
    return largestStep(steps, mode, trace, offsets, prior)?.statistic ?? 0;
  }).sort((a, b) => a - b);
  return largest[Math.ceil((1 - falseAlarms) * simulations) - 1]!;
}

function drawNode(nodes: readonly DriftNode[], random: Random): DriftNode {
  let left = random();
  for (const node of nodes) {
    left -= node.weight;
    if (left <= 0) return node;
  }
  return nodes.at(-1)!;
}

/** Readings as the smooth model makes them, about zero. Under wide priors creep, bow and home are left out: they cancel. */
function simulateOffsets(
  steps: DriftSteps,
  noise: DriftNoise,
  prior: FilterPrior,
  random: Random,
  into: Float64Array,
): void {
  const deviate = (variance: number): number => Math.sqrt(variance) * normalDeviate(random);
  const wide = prior === WIDE;
  let home = 0;
  let level = 0;
  let creep = 0;
  forEachStep(steps, {
    begin: () => {
      creep = deviate(noise.creepVarMm2PerM2 + (wide ? 0 : prior.creepVar));
      home = wide ? 0 : deviate(prior.homeVar);
    },
    register: () => {
      level = home + deviate(noise.registrationVarMm2);
    },
    advance: (dyM) => {
      level += creep * dyM + deviate(noise.wanderMm2PerM * dyM);
    },
    read: (reading, weight) => {
      into[reading] = level + deviate(noise.readingVarMm2 * weight);
    },
  });
}

/** Size of an accepted slip, integrated over the noise: the step that is best when this one is taken out again. */
function slipFound(
  runs: readonly DriftRun[],
  nodes: readonly DriftNode[],
  f: {
    readonly runId: string;
    readonly beforeReading: number;
    readonly statistic: number;
    readonly limit: number;
  },
): SlipFound {
  const without = runs.map((run) =>
    run.id === f.runId
      ? { ...run, slipsBefore: (run.slipsBefore ?? []).filter((i) => i !== f.beforeReading) }
      : run,
  );
  const steps = stepsOf(without.filter((r) => r.readings.length > 0));
  const k = steps.places.findIndex((p) => p.runId === f.runId && p.index === f.beforeReading);
  const trace = newTrace(steps.places.length);
  const parts = nodes.map((node) => {
    filterDrift(steps, node, undefined, trace);
    const { sizeMm, varianceMm2 } = stepsBefore(steps, trace);
    return { weight: node.weight, mean: sizeMm[k]!, variance: varianceMm2[k]! };
  });
  const place = steps.places[k]!;
  return {
    ...f,
    fromM: place.previousM!,
    toM: place.yM,
    sizeMm: {
      value: parts.reduce((sum, p) => sum + p.weight * p.mean, 0),
      low: mixtureQuantile(parts, 0.025),
      high: mixtureQuantile(parts, 0.975),
    },
    ofRegistration: place.registeredBetween,
  };
}
