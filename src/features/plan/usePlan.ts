'use client';

import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';

import type { DriftKnowledge } from '@/core/drift';
import {
  planRefusalText,
  type FollowedKnowledge,
  type PlanWithCurves,
  type RollJob,
  type RollRig,
  type StrategyName,
} from '@/core/layout';
import type { PlanWorker } from '@/workers/plan.worker';

export type PlanState =
  | { readonly kind: 'working' }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'planned'; readonly planned: PlanWithCurves };

/** Plans in a worker; while one plan is being made only the newest wish waits. */
export function usePlan(
  job: RollJob | null,
  knowledge: DriftKnowledge,
  followed: FollowedKnowledge,
  sectionsOnRecord: number,
  setup: RollRig,
  chosen: StrategyName | null,
): PlanState {
  const [state, setState] = useState<PlanState>({ kind: 'working' });
  const worker = useRef<{ raw: Worker; api: Remote<PlanWorker> } | null>(null);
  const busy = useRef(false);
  const waiting = useRef<(() => Promise<void>) | null>(null);

  useEffect(
    () => () => {
      worker.current?.raw.terminate();
      worker.current = null;
      busy.current = false;
      waiting.current = null;
    },
    [],
  );

  useEffect(() => {
    if (job === null) return;
    const run = async (): Promise<void> => {
      if (!worker.current) {
        const raw = new Worker(new URL('../../workers/plan.worker.ts', import.meta.url), { type: 'module' });
        worker.current = { raw, api: wrap<PlanWorker>(raw) };
      }
      const result = await worker.current.api.plan(job, knowledge, followed, sectionsOnRecord, setup, chosen);
      setState(
        result.ok
          ? { kind: 'planned', planned: result.value }
          : { kind: 'refused', message: planRefusalText(result.refusal) },
      );
    };
    const pump = async (next: () => Promise<void>): Promise<void> => {
      busy.current = true;
      await next();
      const following = waiting.current;
      waiting.current = null;
      busy.current = false;
      if (following) void pump(following);
    };
    if (busy.current) waiting.current = run;
    else void pump(run);
  }, [job, knowledge, followed, sectionsOnRecord, setup, chosen]);

  return state;
}
