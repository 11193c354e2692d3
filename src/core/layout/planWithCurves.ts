import type { DriftKnowledge } from '../drift';
import { accept, type Outcome } from '../outcome';

import { expectedMiss, type ExpectedMiss, type FollowedKnowledge } from './expectedMiss';
import {
  planRoll,
  type PlanRefusal,
  type RollJob,
  type RollPlan,
  type RollRig,
  type StrategyName,
} from './planRoll';
import { missProfile, type ProfilePoint } from './profile';
import { rollYield, type RollYield } from './rollYield';

/** A plan with everything a screen draws of it. */
export interface PlanWithCurves {
  readonly plan: RollPlan;
  /** The way that is shown: the wanted one when the rig can do it, else the recommended one. */
  readonly chosen: StrategyName;
  /** What 95 of 100 cuts of that way stay within, by the model that will follow the run. */
  readonly expected: ExpectedMiss;
  readonly profile: readonly ProfilePoint[];
  /** Of one piece registered at its start, to compare; empty when that is the chosen way. */
  readonly onePiece: readonly ProfilePoint[];
  /** A small curve for each way, in their order. */
  readonly ways: readonly (readonly ProfilePoint[])[];
  /** Planned backwards; null without a length of roll. */
  readonly fromRoll: RollYield | null;
}

/** Points of the small curves. */
const SMALL = 18;

/** Plans a job and works out its curves: what one step of dragging costs. */
export function planWithCurves(
  job: RollJob,
  knowledge: DriftKnowledge,
  followed: FollowedKnowledge,
  sectionsOnRecord: number,
  rig: RollRig,
  wanted: StrategyName | null,
): Outcome<PlanWithCurves, PlanRefusal> {
  const planned = planRoll(job, knowledge, sectionsOnRecord, rig);
  if (!planned.ok) return planned;
  const plan = planned.value;
  const named = (name: StrategyName) => plan.strategies.find((s) => s.name === name)!;
  const own = named(wanted !== null && named(wanted).missing === null ? wanted : plan.recommended);
  const curve = (name: StrategyName, points?: number) =>
    missProfile(named(name), knowledge, job.correctCreep, points);
  return accept({
    plan,
    chosen: own.name,
    expected: expectedMiss(
      { ...own, strategy: own.name, imposition: plan.imposition, markRoomMm: job.markRoomMm },
      followed,
    ),
    profile: curve(own.name),
    onePiece: own.name === 'one-piece' ? [] : curve('one-piece'),
    ways: plan.strategies.map((s) => curve(s.name, SMALL)),
    fromRoll:
      job.rollLeftMm === null
        ? null
        : rollYield(job, knowledge, sectionsOnRecord, rig, own.name, plan.imposition.turned, job.rollLeftMm),
  });
}
