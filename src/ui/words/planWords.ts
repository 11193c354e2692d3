import type { RunStart } from '@/core/drift';
import type { ExpectedMiss, RollPlan, RollYield, Strategy, StrategyName } from '@/core/layout';
import { coverageFactor } from '@/core/statistics';
import { capital, lengthText, longText, plainLength, type LengthUnit } from '@/core/units';
import { plumbState } from '@/core/verdict';

/** How a plan stands to what is allowed: of the plan, not of the setup that it is for. */
export const PLAN_FITS = {
  keeps: 'Within what is allowed',
  'over-at-first': 'Over until section 1 is checked',
  close: 'Close to what is allowed',
  breaks: 'Spoils too many',
} as const;

/** One whose worst row comes close to what is allowed is told apart from one that keeps well within it. */
export function planFit(s: Strategy, expected: ExpectedMiss, toleranceMm: number): keyof typeof PLAN_FITS {
  if (!s.keepsPromise) return 'breaks';
  if (overAtFirst(expected, toleranceMm)) return 'over-at-first';
  return plumbState(onceChecked(expected), toleranceMm) === 'plumb' ? 'keeps' : 'close';
}

/** Its last rows may miss by more than is allowed while nobody has checked section 1. */
export const overAtFirst = ({ untilCheckedMm }: ExpectedMiss, toleranceMm: number): boolean =>
  untilCheckedMm > toleranceMm;

/** What to expect once section 1 is checked; of one piece, what to expect at all. */
const onceChecked = ({ untilCheckedMm, thenMm }: ExpectedMiss): number => thenMm ?? untilCheckedMm;

/** “0.41 mm until section 1 is checked, then 0.07 mm”: where a run starts is known from its first check on. */
export function expectedWords({ untilCheckedMm, thenMm }: ExpectedMiss, unit: LengthUnit): string {
  const [first, then] = [untilCheckedMm, thenMm ?? untilCheckedMm].map((mm) => lengthText(mm, unit));
  return first === then ? first! : `${first} until section 1 is checked, then ${then}`;
}

/** “3.4 of 400”: the one way in which a share that is spoiled is told. */
export const spoiledWords = ({ spoiled }: Strategy, copies: number): string =>
  `${expectedItems(spoiled)} of ${copies}`;

export const STRATEGY_WORDS: Readonly<Record<StrategyName, string>> = {
  'one-piece': 'one piece',
  'one-piece-both-ends': 'one piece, marks at both ends',
  'one-piece-intermediate': 'one piece, marks along it',
  sections: 'sections',
  'sections-both-ends': 'sections, marks at both ends',
};

const rowsWord = (n: number): string => (n === 1 ? '1 row' : `${n} rows`);

/** “6 sections of 4 rows”, or in one piece. */
export function inWords(s: Strategy): string {
  if (s.sections.length === 1) return `one piece of ${rowsWord(s.rowsPerSection)}`;
  return `${s.sections.length} sections of ${rowsWord(s.rowsPerSection)}`;
}

/** What is so and what to do, in a sentence or two. */
export function planAnswer(
  plan: RollPlan,
  chosen: Strategy,
  expected: ExpectedMiss,
  toleranceMm: number,
  jobName: string,
  unit: LengthUnit,
): string {
  const copies = plan.imposition.copies;
  const all = `${copies} ${jobName.trim() || 'copies'}`;
  if (chosen.missing) return `A roll cannot be run like this on this rig: ${chosen.missing}.`;
  if (!chosen.keepsPromise) return `In ${inWords(chosen)}, ${spoiledWords(chosen, copies)} would be spoiled.`;
  const over = overAtFirst(expected, toleranceMm)
    ? ` ${lengthText(toleranceMm, unit)} is allowed: check its last rows before they are used.`
    : '';
  return `Cut ${all} in ${inWords(chosen)}. Expect at most ${expectedWords(expected, unit)}.${over}`;
}

/** Why this way is recommended, or what another would do better. */
export function planReason(
  plan: RollPlan,
  chosen: Strategy,
  promise: number,
  sectionsOnRecord: number,
): string {
  const { copies } = plan.imposition;
  const allowed = expectedItems(promise * copies);
  const careful =
    plan.plannedShare < promise
      ? ` With ${sectionsOnRecord} sections on record it plans for ${expectedItems(plan.plannedShare * copies)}, to be on the safe side.`
      : '';
  if (!chosen.keepsPromise)
    return `Expect ${spoiledWords(chosen, copies)} spoiled: more than the ${allowed} you allow. Make the sections shorter, allow more, or calibrate the rig first.${careful}`;
  if (!chosen.fitsRoll) return 'This is longer than what is left on the roll.';
  const best = plan.recommended === chosen.name;
  return `${best ? 'Least media of the ways that keep the promise, a spoiled item counted as ten' : 'Keeps the promise'}: ${spoiledWords(chosen, copies)} expected spoiled, ${allowed} allowed.${careful}`;
}

const START_WORDS: Readonly<Record<RunStart['from'], string>> = {
  log: 'from the first checks of earlier runs',
  calibration: 'what the last calibration left',
  assumed: 'assumed: no run and no calibration is on record',
};

/** Why a plan that is over at first is still the best, and what would keep it within; null for one that is not. */
export const overAtFirstWords = (
  expected: ExpectedMiss,
  toleranceMm: number,
  unit: LengthUnit,
): string | null =>
  overAtFirst(expected, toleranceMm)
    ? `Only the last rows of section 1 are over, and only until it is checked. What that may spoil is counted. Fewer rows a section, or calibrating first, keeps all within ${lengthText(toleranceMm, unit)}.`
    : null;

/** How far out a run starts before it is checked, and who says so; null with what was kept before that was. */
export function startWords(
  axes: readonly { readonly startSdMm: number; readonly startFrom?: RunStart['from'] | undefined }[],
  unit: LengthUnit,
): string | null {
  const widest = [...axes].sort((a, b) => b.startSdMm - a.startSdMm)[0];
  if (!widest?.startFrom) return null;
  return `The first section may start up to ${lengthText(coverageFactor(0.95, Infinity) * widest.startSdMm, unit)} off on each axis, 95 of 100 (${START_WORDS[widest.startFrom]}).`;
}

/** A way that would do better if the rig could. */
export function betterIfPossible(plan: RollPlan, chosen: Strategy, unit: LengthUnit): string | null {
  const better = plan.strategies
    .filter((s) => s.missing !== null && s.keepsPromise && s.mediaMm < chosen.mediaMm - 1)
    .sort((a, b) => a.mediaMm - b.mediaMm)[0];
  if (!better) return null;
  const every = better.everyMm === null ? '' : ` every ${plainLength(better.everyMm, unit)}`;
  const words = better.everyMm === null ? STRATEGY_WORDS[better.name] : `marks along the sides${every}`;
  return `${capital(words)} would take ${plainLength(chosen.mediaMm - better.mediaMm, unit)} less media. But ${better.missing}.`;
}

/** What the rest of the roll yields, planned backwards. */
export function yieldWords(y: RollYield, rollLeftMm: number, unit: LengthUnit): string {
  const roll = `The ${longText(rollLeftMm, unit)} left on the roll`;
  if (y.copies === 0) return `${roll} hold no copy this way that keeps what you allow.`;
  const pieces = y.sections === 1 ? 'one piece' : `${y.sections} sections`;
  return `${roll} hold ${y.copies} copies this way, in ${pieces}: promise ${y.promised} of them.`;
}

export function leftoverWords(plan: RollPlan): string | null {
  const { leftoverCopies: n } = plan.imposition;
  if (n === 0) return null;
  return n === 1 ? 'One more copy would fill the last row.' : `${n} more copies would fill the last row.`;
}

/** An expected number of items: “2.3”, “< 0.1”. */
export const expectedItems = (n: number): string => (n < 0.05 ? '< 0.1' : n.toFixed(1));

/** “1 h 25 min” or “4 min”. */
export function duration(seconds: number): string {
  const minutes = Math.max(1, Math.round(seconds / 60));
  return minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
}
