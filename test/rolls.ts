import type { DriftKnowledge } from '@/core/drift';
import type { FollowedKnowledge } from '@/core/layout';
import type { DriftNode, DriftRun } from '../src/core/drift';
import { normalDeviate, type Random } from '../src/core/random/random';

/** What a simulated roll does on one axis: mm, m; `wander` mm²/m, the others as standard deviations. */
export interface RollTruth {
  readonly wander: number;
  readonly creepSd: number;
  readonly reading: number;
  readonly registration: number;
  readonly creep: number;
  readonly bow: number;
}

export const SECTION_M = 0.75;
export const SECTIONS = 12;

/** One run registered at its start, read at the end of each section; with the true level behind each reading. */
export function simulateRun(
  t: RollTruth,
  random: Random,
  {
    id,
    sections = SECTIONS,
    slip,
  }: { id: string; sections?: number; slip?: { readonly before: number; readonly sizeMm: number } },
): { readonly run: DriftRun; readonly levelMm: readonly number[] } {
  const deviate = (sd: number): number => sd * normalDeviate(random);
  const creep = t.creep + deviate(t.creepSd);
  const home = deviate(0.2);
  let walk = deviate(t.registration);
  const levelMm: number[] = [];
  const readings = Array.from({ length: sections }, (_, k) => {
    const yM = (k + 1) * SECTION_M;
    walk += deviate(Math.sqrt(t.wander * SECTION_M)) + (slip?.before === k ? slip.sizeMm : 0);
    levelMm.push(home + walk + creep * yM + t.bow * yM * yM);
    return { id: `${k + 1}`, yM, uMm: t.reading, offsetMm: levelMm[k]! + deviate(t.reading) };
  });
  return { run: { id, registeredAtM: [0], readings }, levelMm };
}

/** What a usual film does: creep of 0.3 mm per m, known well. */
export const filmNode = (more: Partial<DriftNode> = {}): DriftNode => ({
  weight: 1,
  wanderMm2PerM: 0.004,
  creepVarMm2PerM2: 0.0025,
  readingVarMm2: 0.0012,
  registrationVarMm2: 0.0009,
  creepMmPerM: 0.3,
  bowMmPerM2: 0,
  creepVar: 0.001,
  bowVar: 0,
  creepBowCov: 0,
  ...more,
});

/** The posterior of somebody who knows the truth. */
export const trueNode = (t: RollTruth): DriftNode => ({
  weight: 1,
  wanderMm2PerM: t.wander,
  creepVarMm2PerM2: t.creepSd ** 2,
  readingVarMm2: t.reading ** 2,
  registrationVarMm2: t.registration ** 2,
  creepMmPerM: t.creep,
  bowMmPerM2: t.bow,
  creepVar: 0,
  bowVar: 0,
  creepBowCov: 0,
});

/** The same knowledge as following a run asks for it. */
export const followed = (known: DriftKnowledge, startSdMm = 0.15): FollowedKnowledge => ({
  along: { nodes: known.along, unitVarMm2: 0.035 ** 2, startSdMm },
  across: { nodes: known.across, unitVarMm2: 0.035 ** 2, startSdMm },
});
