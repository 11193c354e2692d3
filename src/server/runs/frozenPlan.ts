import type { SectionFrame } from '@/core/daily';
import type { ExpectedMiss, RollPlan, Strategy } from '@/core/layout';
import type { FrozenPlan } from '@/db/stored/runs';
import type { PlanRequest } from '@/core/layout/planShape';

import type { RunStanding } from './run';

/** A plan as it is frozen: what was asked, what came out, and by which versions. */
export const frozen = (
  request: PlanRequest,
  plan: RollPlan,
  strategy: Strategy,
  driftVersion: string,
  expected: ExpectedMiss,
  frame: SectionFrame | null,
  standing: RunStanding,
): FrozenPlan => ({
  version: plan.version,
  driftVersion,
  request,
  imposition: { ...plan.imposition, columnsAtMm: [...plan.imposition.columnsAtMm] },
  strategy: strategy.name,
  way: strategy.way,
  everyMm: strategy.everyMm,
  sections: strategy.sections.map((s) => ({ ...s })),
  forecasts: strategy.forecasts.map((f) => ({ ...f })),
  worstR95Mm: strategy.worstR95Mm,
  spoiled: strategy.spoiled,
  expected,
  mediaMm: strategy.mediaMm,
  markRoomMm: request.markRoomMm,
  betweenMm: request.betweenMm ?? request.gapMm,
  frame,
  standing,
});
