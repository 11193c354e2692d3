import { Predictor, type DriftKnowledge, type MarkWay, type Outline } from '../drift';
import { accept, refuse, type Outcome } from '../outcome';

import { expectedSpoiled, forecast, type EvaluatedWay, type SectionForecast } from './evaluate';
import { impose, rowsLengthMm, type Imposition, type ImposeRefusal, type RollItems } from './impose';
import { sectionsOf, type Section } from './sections';
import { timelineOf, type Speeds, type Timeline } from './timeline';

/** Kept with every frozen plan. */
export const PLAN_VERSION = 'plan-2';

/** A job for the roll, as it is planned. Lengths in mm. */
export interface RollJob extends RollItems {
  readonly outline: Outline;
  /** How far a cut may miss: the bleed, or the part of the border that may be uneven. */
  readonly toleranceMm: number;
  /** Share of items that may be spoiled. */
  readonly promise: number;
  /** Fixed by hand; null for the most that keep the promise. */
  readonly rowsPerSection: number | null;
  readonly markRoomMm: number;
  readonly betweenMm: number;
  readonly leadMm: number;
  readonly tailMm: number;
  readonly rollLeftMm: number | null;
  /** Cut line of one item; its outline’s length when nothing better is known. */
  readonly cutLengthMm: number | null;
  readonly speeds: Speeds;
  /** Printed and cut by one machine, so that nothing overlaps. */
  readonly oneMachine: boolean;
  /** The cut files take the expected creep out. */
  readonly correctCreep: boolean;
}

/** What the rig can do about marks. */
export interface RollRig {
  /** Registers at the start of a piece, by marks or by hand. */
  readonly registers: boolean;
  readonly bothEnds: boolean;
  /** The longest piece whose far marks it reads; null when it makes no difference. */
  readonly longestMm: number | null;
  readonly everyMm: number | null;
  /** Its leading mark stands at the far end: it would cut a roll from the wrong end. */
  readonly farLed?: boolean;
}

export const STRATEGIES = [
  'one-piece',
  'one-piece-both-ends',
  'one-piece-intermediate',
  'sections',
  'sections-both-ends',
] as const;
export type StrategyName = (typeof STRATEGIES)[number];

export interface Strategy {
  readonly name: StrategyName;
  /** Null when the rig can do it; otherwise what is missing. */
  readonly missing: string | null;
  readonly way: MarkWay;
  readonly everyMm: number | null;
  readonly rowsPerSection: number;
  readonly sections: readonly Section[];
  readonly forecasts: readonly SectionForecast[];
  readonly worstR95Mm: number;
  readonly spoiled: number;
  readonly spoiledShare: number;
  readonly keepsPromise: boolean;
  /** First row to last row, mm. */
  readonly printedMm: number;
  /** With lead and tail. */
  readonly mediaMm: number;
  /** Share of the media's printable area that is not item. */
  readonly waste: number;
  readonly fitsRoll: boolean;
  readonly time: Timeline;
}

export interface RollPlan {
  readonly version: string;
  readonly imposition: Imposition;
  readonly strategies: readonly Strategy[];
  readonly recommended: StrategyName;
  /** Share planned for: the promise, or less while the log is short. */
  readonly plannedShare: number;
}

/** Below this many sections on record plan more carefully. */
export const SECTIONS_OF_A_RECORD = 50;
const CAREFUL = 0.7;

export type PlanRefusal = ImposeRefusal;

/**
 * Plans a run: imposition, and each way to register it with what is to be expected of it.
 *
 * Method   the most rows a section whose predictive expected share of spoiled items, parameter uncertainty
 *          included, is at most the promise (docs/maths.md, “Long rolls”).
 * Refuses  what `impose` refuses.
 */
export function planRoll(
  job: RollJob,
  knowledge: DriftKnowledge,
  sectionsOnRecord: number,
  rig: RollRig,
): Outcome<RollPlan, PlanRefusal> {
  const imposed = impose(job);
  if (!imposed.ok) return refuse(imposed.refusal);
  const imposition = imposed.value;
  const plannedShare = plannedShareOf(job, sectionsOnRecord);
  const strategies = STRATEGIES.map((name) => strategy(name, job, imposition, knowledge, plannedShare, rig));
  const recommended = recommend(strategies, imposition);
  return accept({
    version: PLAN_VERSION,
    imposition,
    strategies,
    recommended,
    plannedShare,
  });
}

/** Share of spoiled items to plan for: the promise, or less while the log is short. */
export const plannedShareOf = (job: RollJob, sectionsOnRecord: number): number =>
  job.promise * (sectionsOnRecord < SECTIONS_OF_A_RECORD ? CAREFUL : 1);

const WAYS: Readonly<Record<StrategyName, { way: MarkWay; sections: boolean; intermediate: boolean }>> = {
  'one-piece': { way: 'start', sections: false, intermediate: false },
  'one-piece-both-ends': { way: 'both-ends', sections: false, intermediate: false },
  'one-piece-intermediate': { way: 'both-ends', sections: false, intermediate: true },
  sections: { way: 'start', sections: true, intermediate: false },
  'sections-both-ends': { way: 'both-ends', sections: true, intermediate: false },
};

/** Marks every half metre, to show what they would do for a rig that does not read them. */
const SUPPOSED_EVERY_MM = 500;

/** One way to run a job, with what is to be expected of it. */
export function strategy(
  name: StrategyName,
  job: RollJob,
  imposition: Imposition,
  knowledge: DriftKnowledge,
  plannedShare: number,
  rig: RollRig,
): Strategy {
  const { way, sections: inSections, intermediate } = WAYS[name];
  const evaluated: EvaluatedWay = {
    way,
    everyMm: intermediate ? (rig.everyMm ?? SUPPOSED_EVERY_MM) : null,
  };
  const predictor = new Predictor(knowledge, { way, takenOut: job.correctCreep });
  const judged = { imposition, room: job, toleranceMm: job.toleranceMm, outline: job.outline };
  const keeps = (rows: number): boolean =>
    expectedSpoiled(predictor, evaluated, sectionsOf(imposition, rows, job), judged) <=
    plannedShare * imposition.copies;
  // Marks at both ends have to be within what the machine reads at once.
  const farMost = way === 'both-ends' && !intermediate ? (rig.longestMm ?? Infinity) : Infinity;
  const reaches = (rows: number): boolean =>
    rowsLengthMm(rows, imposition.itemHeightMm, imposition.gapMm) + 2 * job.markRoomMm <= farMost;
  const rowsPerSection = inSections
    ? Math.min(
        imposition.rows,
        job.rowsPerSection ?? mostRows(imposition.rows, (rows) => reaches(rows) && keeps(rows)),
      )
    : imposition.rows;
  const sections = sectionsOf(imposition, rowsPerSection, job);
  const forecasts = forecast(predictor, evaluated, sections, judged);
  const spoiled = total(forecasts.map((f) => f.spoiled));
  const share = spoiled / imposition.copies;
  const printedMm = sections.at(-1)!.endMm;
  const mediaMm = job.leadMm + printedMm + job.tailMm;
  const perItemMm = job.cutLengthMm ?? outlineLength(job);
  return {
    name,
    missing: missing(name, rig) ?? (reaches(rowsPerSection) ? null : tooLong(farMost)),
    way,
    everyMm: evaluated.everyMm,
    rowsPerSection,
    sections,
    forecasts,
    worstR95Mm: Math.max(...forecasts.map((f) => f.worstR95Mm)),
    spoiled,
    spoiledShare: share,
    keepsPromise: share <= plannedShare,
    printedMm,
    mediaMm,
    waste: 1 - (imposition.copies * job.itemWidthMm * job.itemHeightMm) / (mediaMm * job.printableWidthMm),
    fitsRoll: job.rollLeftMm === null || mediaMm <= job.rollLeftMm,
    time: timelineOf(
      sections.map((s) => ({ lengthMm: s.endMm - s.startMm, cutMm: s.copies * perItemMm })),
      job.speeds,
      job.oneMachine,
    ),
  };
}

const outlineLength = (job: RollJob): number =>
  job.outline === 'round'
    ? Math.PI * ((job.itemWidthMm + job.itemHeightMm) / 2)
    : 2 * (job.itemWidthMm + job.itemHeightMm);

/** The largest number of rows that passes, at least one; longer sections never do better. */
function mostRows(rows: number, passes: (rows: number) => boolean): number {
  if (passes(rows)) return rows;
  let good = 1;
  let bad = rows;
  while (bad - good > 1) {
    const middle = Math.floor((good + bad) / 2);
    if (passes(middle)) good = middle;
    else bad = middle;
  }
  return good;
}

const tooLong = (mm: number): string => `this rig reads far marks up to ${Math.round(mm)} mm only`;

function missing(name: StrategyName, rig: RollRig): string | null {
  const { way, sections, intermediate } = WAYS[name];
  if (rig.farLed)
    return 'its leading mark stands at the far end, and a roll is cut from its near end: take a near leading mark for rolls';
  if (intermediate && rig.everyMm === null) return 'this rig reads no marks along the sides';
  if (way === 'both-ends' && !rig.bothEnds) return 'this rig reads no marks at the far end';
  if (sections && !rig.registers) return 'this rig does not register: the media never leaves the machine';
  return null;
}

/** A spoiled item costs its print, its place in the run and somebody's time: counted as so many items of media. */
const SPOILED_COUNTS_AS = 10;

/** Of those that can be done (of all, when none can) and fit: the least cost among those that keep the promise, else the fewest spoiled. */
export function recommend(strategies: readonly Strategy[], imposition: Imposition): StrategyName {
  const itemMm = (imposition.itemHeightMm + imposition.gapMm) / imposition.columns;
  const cost = (s: Strategy): number => s.mediaMm + SPOILED_COUNTS_AS * s.spoiled * itemMm;
  const able = strategies.filter((s) => s.missing === null);
  const can = able.length > 0 ? able : strategies;
  const fitting = can.filter((s) => s.fitsRoll);
  const among = fitting.length > 0 ? fitting : can;
  const keeping = among.filter((s) => s.keepsPromise);
  const order = (a: Strategy, b: Strategy): number =>
    keeping.length > 0 ? cost(a) - cost(b) || a.sections.length - b.sections.length : a.spoiled - b.spoiled;
  return [...(keeping.length > 0 ? keeping : among)].sort(order)[0]!.name;
}

const total = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
