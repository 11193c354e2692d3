import { DEFAULT_ACUITY_OF_STEP } from '../../tolerance';
import { pickUncertaintyMm } from '../../comb';

import { crossedStudy, type CrossedStudy } from './crossed';

/** One look at a comb; those of a person in the order in which they were kept. */
export interface Look {
  /** Station and axis: what was read. */
  readonly comb: string;
  readonly person: string;
  readonly offsetMm: number;
}

/** What the looks at some combs say of reading. */
export interface RepeatStudy extends CrossedStudy {
  /** Looks that are in it: the largest balanced part of those there are. */
  readonly used: number;
  readonly of: number;
  readonly who: readonly string[];
  /** Standard deviation of one reading by anybody, mm. */
  readonly oneReadingMm: number;
  /** Acuity to reckon with: what was seen when that is more than what is assumed, and enough was read to say so. */
  readonly acuityMm: number | null;
  /** Difference between two readings that is no chance: 1.96·√2·u, mm. */
  readonly smallestSeenMm: number;
  readonly advice: readonly Advice[];
}

/** What would make reading better. */
export type Advice = 'more' | 'agree' | 'loupe' | 'finer-comb' | 'fine';

export const REPEAT_STUDY_VERSION = 'repeat-study-1';

/** Degrees of freedom from which a study is asked at all: the deviation is then known to about a quarter. */
export const DOF_TO_TELL = 8;
/** An eye that is off by more than this share of the step misses lines that it could see. */
const BLUR_OF_STEP = 0.4;
/** An eye that hardly ever differs by half a step would see a finer one. */
const SHARP_OF_STEP = 0.12;
/** Persons that make more than this share of the variance of one reading read differently. */
const SHARE_OF_PERSONS = 0.5;

/** The largest balanced part of the looks: persons who read the same combs equally often. */
function balanced(looks: readonly Look[]): { readonly who: string[]; readonly table: number[][][] } | null {
  const cells = new Map<string, Map<string, number[]>>();
  for (const { comb, person, offsetMm } of looks) {
    const of = cells.get(comb) ?? new Map<string, number[]>();
    cells.set(comb, of.set(person, [...(of.get(person) ?? []), offsetMm]));
  }
  const counts = new Map<string, number>();
  for (const { person } of looks) counts.set(person, (counts.get(person) ?? 0) + 1);
  const people = [...counts.keys()].sort((a, b) => counts.get(b)! - counts.get(a)!);
  const most = Math.max(0, ...[...cells.values()].flatMap((of) => [...of.values()].map((v) => v.length)));
  let best: { readonly who: string[]; readonly table: number[][][] } | null = null;
  let bestSize = 0;
  for (let persons = people.length; persons >= 1; persons -= 1)
    for (let repeats = most; repeats >= 1; repeats -= 1) {
      const who = people.slice(0, persons);
      const table = [...cells.values()]
        .filter((of) => who.every((person) => (of.get(person)?.length ?? 0) >= repeats))
        .map((of) => who.map((person) => of.get(person)!.slice(0, repeats)));
      const size = table.length * persons * repeats;
      if (table.length >= 2 && persons * repeats >= 2 && size > bestSize)
        [best, bestSize] = [{ who, table }, size];
    }
  return best;
}

/**
 * What looks at the same combs say of how well they are read.
 *
 * Method   the largest balanced part of them as a crossed study; its deviation of one reading replaces the default acuity
 *          when it is larger (maths.md).
 * Returns  null when nothing was read twice.
 */
export function repeatStudy(looks: readonly Look[], stepMm: number): RepeatStudy | null {
  const part = balanced(looks);
  const study = part && crossedStudy(part.table);
  if (!study) return null;
  const oneReadingMm = Math.sqrt(study.oneReading.variance);
  const assumedMm = DEFAULT_ACUITY_OF_STEP * stepMm;
  const told = study.errorDof >= DOF_TO_TELL;
  return {
    ...study,
    used: study.combs * study.persons * study.repeats,
    of: looks.length,
    who: part.who,
    oneReadingMm,
    acuityMm: told && oneReadingMm > assumedMm ? oneReadingMm : null,
    smallestSeenMm:
      1.96 * Math.SQRT2 * pickUncertaintyMm(stepMm, Math.max(assumedMm, told ? oneReadingMm : 0)),
    advice: adviceOf(study, stepMm, told),
  };
}

function adviceOf(
  { repeat, person, interaction, oneReading }: CrossedStudy,
  stepMm: number,
  told: boolean,
): Advice[] {
  const list: Advice[] = told ? [] : ['more'];
  const apart = (person?.variance ?? 0) + (interaction?.variance ?? 0);
  // Said only where it is no accident: nought lies outside the interval.
  const differ = (person?.low ?? 0) > 0 || (interaction?.low ?? 0) > 0;
  if (differ && apart > SHARE_OF_PERSONS * oneReading.variance) list.push('agree');
  if (Math.sqrt(repeat.variance) > BLUR_OF_STEP * stepMm) list.push('loupe');
  if (told && Math.sqrt(oneReading.variance) < SHARP_OF_STEP * stepMm) list.push('finer-comb');
  return list.length > 0 ? list : ['fine'];
}
