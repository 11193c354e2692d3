import {
  compressNodes,
  DRIFT_PRIORS,
  driftNodes,
  estimateDrift,
  estimateWithSlips,
  expectAhead,
  Predictor,
  slipInRun,
  type DriftNode,
  type DriftRun,
} from '../src/core/drift';
import { expectedSpoiled, impose, planRoll, type RollJob, type RollPlan } from '../src/core/layout';
import { normalDeviate, seededRandom, type Random } from '../src/core/random/random';
import { SECTION_M, SECTIONS, simulateRun, trueNode, type RollTruth } from '../test/rolls';

/*
 * How well drift is learnt, planned for and followed on simulated rolls: 12 sections of 0.75 m a run, one reading a
 * section, film's prior. The truths vary from rig to rig; nobody tells them to the estimate.
 */

const NR = { records: 600, slips: 300, plans: 1000, control: 300 };
const FILM = DRIFT_PRIORS.film;

const share = (count: number, of: number): string => `${((100 * count) / of).toFixed(1)} %`;
const lognormal = (random: Random, median: number, sd: number): number =>
  median * Math.exp(sd * normalDeviate(random));

const runsOf = (t: RollTruth, count: number, random: Random): DriftRun[] =>
  Array.from({ length: count }, (_, r) => simulateRun(t, random, { id: `r${r}` }).run);

/** The rigs that were looked at while the interval constant and film's prior were chosen. */
const TRUTHS: readonly RollTruth[] = [
  { wander: 0.004, creepSd: 0.05, reading: 0.035, registration: 0.03, creep: 0.3, bow: 0.004 },
  { wander: 0.008, creepSd: 0.03, reading: 0.035, registration: 0.03, creep: 0.4, bow: 0 },
  { wander: 0.003, creepSd: 0.1, reading: 0.03, registration: 0.03, creep: -0.2, bow: 0.01 },
];

/** Rigs that nothing was chosen by: written down before they were first run, and kept whatever they show. */
const OTHERS: readonly RollTruth[] = [
  { wander: 0.002, creepSd: 0.04, reading: 0.045, registration: 0.02, creep: 0.15, bow: -0.006 },
  { wander: 0.012, creepSd: 0.08, reading: 0.025, registration: 0.05, creep: -0.5, bow: 0.002 },
  { wander: 0.006, creepSd: 0.06, reading: 0.04, registration: 0.04, creep: 0.05, bow: 0 },
];

export function learning(): void {
  console.log(`${NR.records} records of 4 runs of ${SECTIONS} sections for each of three rigs:`);
  learningOf(TRUTHS);
  console.log('and for each of three that nothing was chosen by:');
  learningOf(OTHERS);
}

function learningOf(truths: readonly RollTruth[]): void {
  for (const t of truths) {
    const random = seededRandom(Math.round(1e6 * t.wander));
    const seen = { wander: 0, wanderIn: 0, creepIn: 0 };
    for (let i = 0; i < NR.records; i += 1) {
      const e = estimateDrift(runsOf(t, 4, random), FILM);
      seen.wander += e.likeliest!.wanderMm2PerM / NR.records;
      seen.wanderIn += Number(e.wander!.low <= t.wander && t.wander <= e.wander!.high);
      seen.creepIn += Number(e.creep.low <= t.creep && t.creep <= e.creep.high);
    }
    console.log(
      `  wander ${t.wander} mm²/m: mean estimate ${(seen.wander / t.wander).toFixed(2)} of it, profile intervals hold it ${share(seen.wanderIn, NR.records)}; creep ${t.creep} ± ${t.creepSd} mm/m: intervals hold it ${share(seen.creepIn, NR.records)}`,
    );
  }
}

export function slipping(): void {
  console.log(`${NR.slips} records each with a slip of 0.6 mm somewhere, and without:`);
  slippingOf(TRUTHS);
  console.log('and for each of three that nothing was chosen by:');
  slippingOf(OTHERS);
}

function slippingOf(truths: readonly RollTruth[]): void {
  for (const t of truths) {
    const random = seededRandom(Math.round(1e6 * t.wander) + 1);
    const seen = { alarms: 0, found: 0, exact: 0, sizeIn: 0 };
    for (let i = 0; i < NR.slips; i += 1) {
      const record = runsOf(t, 4, random);
      seen.alarms += Number(estimateWithSlips(record, FILM, random).slips.length > 0);
      const at = Math.floor(4 * random());
      const slip = {
        before: 1 + Math.floor((SECTIONS - 1) * random()),
        sizeMm: random() < 0.5 ? -0.6 : 0.6,
      };
      const slipped = record.map((run, r) =>
        r === at ? simulateRun(t, random, { id: run.id, slip }).run : run,
      );
      const near = estimateWithSlips(slipped, FILM, random).slips.find(
        (s) => s.runId === `r${at}` && Math.abs(s.beforeReading - slip.before) <= 2,
      );
      if (!near) continue;
      seen.found += 1;
      if (near.beforeReading !== slip.before) continue;
      seen.exact += 1;
      seen.sizeIn += Number(near.sizeMm.low <= slip.sizeMm && slip.sizeMm <= near.sizeMm.high);
    }
    console.log(
      `  wander ${t.wander} mm²/m: found ${share(seen.found, NR.slips)}, in the right place ${share(seen.exact, seen.found)}, size held ${share(seen.sizeIn, seen.exact)}; false alarms ${share(seen.alarms, NR.slips)}`,
    );
  }
}

const JOB: RollJob = {
  itemWidthMm: 90,
  itemHeightMm: 60,
  copies: 1300,
  gapMm: 4,
  printableWidthMm: 1315,
  mayTurn: false,
  lanes: 1,
  laneGapMm: 0,
  centreLastRow: false,
  outline: 'rectangle',
  toleranceMm: 0.5,
  promise: 0.01,
  rowsPerSection: null,
  markRoomMm: 20,
  betweenMm: 10,
  leadMm: 300,
  tailMm: 250,
  rollLeftMm: null,
  cutLengthMm: null,
  speeds: { printMmPerHour: 10_000, cutMmPerS: 200, registerS: 60, waitS: 0 },
  oneMachine: false,
  correctCreep: true,
};
const RIG = { registers: true, bothEnds: false, longestMm: null, everyMm: null };

const inSections = (plan: RollPlan) => plan.strategies.find((s) => s.name === 'sections')!;
const must = (plan: ReturnType<typeof planRoll>): RollPlan => {
  if (!plan.ok) throw new Error('does not fit');
  return plan.value;
};
const expected = (nodes: readonly DriftNode[], of: 'creepMmPerM' | 'bowMmPerM2'): number =>
  nodes.reduce((sum, n) => sum + n.weight * n[of], 0);

export function planning(): void {
  const imposed = impose(JOB);
  if (!imposed.ok) throw new Error('does not fit');
  for (const onRecord of [96, 24]) {
    const random = seededRandom(onRecord);
    let spoiled = 0;
    let oneMore = 0;
    let extra = 0;
    for (let i = 0; i < NR.plans; i += 1) {
      const along: RollTruth = {
        wander: lognormal(random, 0.004, 0.7),
        creepSd: lognormal(random, 0.05, 0.5),
        reading: 0.035,
        registration: lognormal(random, 0.03, 0.3),
        creep: 0.3 * normalDeviate(random),
        bow: 0.002 * normalDeviate(random),
      };
      const across: RollTruth = { ...along, creep: 0, bow: 0, creepSd: along.creepSd / 2 };
      const job = { ...JOB, toleranceMm: 0.35 + 0.4 * random() };
      const known = {
        along: driftNodes(runsOf(along, onRecord / SECTIONS, random), FILM),
        across: driftNodes(runsOf(across, onRecord / SECTIONS, random), FILM),
      };
      const plan = inSections(must(planRoll(job, known, onRecord, RIG)));
      const truth = { along: [trueNode(along)], across: [trueNode(across)] };
      const best = inSections(must(planRoll(job, truth, 96, RIG)));
      // The files take out what was expected; what is left of the truth spoils the items.
      const left = (node: DriftNode, nodes: readonly DriftNode[]): DriftNode => ({
        ...node,
        creepMmPerM: node.creepMmPerM - expected(nodes, 'creepMmPerM'),
        bowMmPerM2: node.bowMmPerM2 - expected(nodes, 'bowMmPerM2'),
      });
      const real = new Predictor(
        { along: [left(truth.along[0]!, known.along)], across: [left(truth.across[0]!, known.across)] },
        { way: 'start', takenOut: false },
      );
      const judged = {
        imposition: imposed.value,
        room: job,
        toleranceMm: job.toleranceMm,
        outline: job.outline,
      };
      spoiled += expectedSpoiled(real, { way: 'start', everyMm: null }, plan.sections, judged);
      oneMore += Number(plan.sections.length <= best.sections.length + 1);
      extra += plan.sections.length - best.sections.length;
    }
    console.log(
      `${NR.plans} plans with ${onRecord} sections on record, 1 % promised: ${share(spoiled, NR.plans * JOB.copies)} of the items spoiled in all; ${share(oneMore, NR.plans)} with at most one section more than the plan that knows the truth, ${(extra / NR.plans).toFixed(2)} more on average`,
    );
  }
}

const r95 = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(0.95 * values.length)]!;

export function following(): void {
  for (const earlier of [1, 3, 5]) {
    const random = seededRandom(earlier);
    const left = { ours: [] as number[], best: [] as number[], none: [] as number[], fully: [] as number[] };
    let alarms = 0;
    for (let i = 0; i < NR.control; i += 1) {
      const base = { reading: 0.035, registration: 0.03, bow: 0.002 * normalDeviate(random) };
      const truths: RollTruth[] = [
        {
          ...base,
          wander: lognormal(random, 0.004, 0.6),
          creepSd: lognormal(random, 0.05, 0.6),
          creep: 0.3 * normalDeviate(random),
        },
        {
          ...base,
          wander: lognormal(random, 0.003, 0.6),
          creepSd: lognormal(random, 0.03, 0.6),
          creep: 0.05 * normalDeviate(random),
        },
      ];
      const axes = truths.map((t) => ({
        nodes: compressNodes(driftNodes(runsOf(t, earlier, random), FILM)),
        best: [trueNode(t)],
        now: simulateRun(t, random, { id: 'now' }),
        unit: t.reading ** 2,
      }));
      alarms += Number(axes.some((a) => slipInRun(a.now.run, a.nodes, a.unit, random) !== null));
      for (let k = 1; k < SECTIONS; k += 1) {
        const misses = { ours: 0, best: 0, none: 0, fully: 0 };
        for (const { nodes, best, now, unit } of axes) {
          const run = { ...now.run, readings: now.run.readings.slice(0, k) };
          const ahead = { yM: (k + 1) * SECTION_M, registeredAtM: null };
          const level = now.levelMm[k]!;
          misses.ours += (level - expectAhead(run, ahead, nodes, unit).offsetMm) ** 2;
          misses.best += (level - expectAhead(run, ahead, best, unit).offsetMm) ** 2;
          misses.none += level ** 2;
          misses.fully += (level - run.readings[k - 1]!.offsetMm) ** 2;
        }
        for (const way of ['ours', 'best', 'none', 'fully'] as const) left[way].push(Math.sqrt(misses[way]));
      }
    }
    const best = r95(left.best);
    console.log(
      `section by section after ${earlier} earlier ${earlier === 1 ? 'run' : 'runs'}, ${NR.control} runs: r95 ${(r95(left.ours) / best).toFixed(3)} of the filter that knows the truth (${best.toFixed(3)} mm); uncorrected ${(r95(left.none) / best).toFixed(1)}, corrected fully each time ${(r95(left.fully) / best).toFixed(2)}; runs without a slip in which one was called ${share(alarms, NR.control)}`,
    );
  }
}

/** A plan of 5,000 items over 50 m. */
export const LONG_JOB: RollJob = {
  ...JOB,
  itemWidthMm: 120,
  itemHeightMm: 95,
  copies: 5000,
  gapMm: 5,
  rowsPerSection: 8,
};

/** A log to plan it from. */
export function longJobKnowledge() {
  const random = seededRandom(3);
  const nodes = driftNodes(runsOf(TRUTHS[0]!, 8, random), FILM);
  return { along: nodes, across: nodes };
}

export { RIG as LONG_JOB_RIG };
