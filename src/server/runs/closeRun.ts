import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept } from '@/core/outcome';
import { runs } from '@/db/schema';
import { type RunOutcome } from '@/db/stored/runs';
import { type Done } from '@/server/base/deps';
import { holdSetup } from '@/server/setups/holdSetup';
import { type SetupDrift, setupDrift } from '@/server/drift/setupDrift';
import { idSchema } from '@/server/base/shapes';

import { knowledgeOf } from './outlook';
import type { Run } from './run';
import { note } from './runEvents';
import { runStepWith, runStep, OPEN_RUN } from './step';

export const closeSchema = z.object({
  runId: z.uuid(),
  note: z.string().trim().max(400, 'At most 400 characters.').default(''),
  costPerItem: z.number().min(0, 'A cost cannot be negative.').max(1e6).nullable().default(null),
});

/** Closes a run: what was predicted, what happened, and what it taught about the rig. */
export const closeRun = runStepWith(
  closeSchema,
  { act: 'close', allowed: OPEN_RUN },
  {
    // Worked out and stored before the run is held: inside, it is found.
    prepare: async (deps, run): Done => {
      await setupDrift(deps, run.setup.id);
      return accept(null);
    },
    basis: () => null,
  },
  async (inner, run, { runId, note: words, costPerItem }, actor): Done => {
    const before = await knowledgeOf(inner, run);
    const after = (await setupDrift(inner, run.setup.id))!;
    const outcome = { ...toldBy(run, costPerItem), note: words, taught: taught(before, after) };
    await inner.db
      .update(runs)
      .set({ stage: 'closed', closedBy: actor, closedAt: inner.now(), outcome })
      .where(eq(runs.id, runId));
    await note(inner, actor, runId, 'closed');
    return accept(null);
  },
);

/** What the counted spoils and the checks of a run say. */
function toldBy(run: Run, costPerItem: number | null): Omit<RunOutcome, 'note' | 'taught'> {
  const counted = run.sections.flatMap((s) => (s.spoiled === null ? [] : [s.spoiled]));
  const spoiled = counted.length > 0 ? counted.reduce((a, b) => a + b, 0) : null;
  const misses = run.checks.map((c) => Math.hypot(c.dxMm ?? 0, c.dyMm ?? 0));
  return {
    predictedSpoiled: run.plan.spoiled,
    spoiled,
    // Of the plan as it was frozen; `expected` stands beside it there.
    predictedR95Mm: run.plan.expected?.thenMm ?? run.plan.expected?.untilCheckedMm ?? run.plan.worstR95Mm,
    worstCheckMm: misses.length > 0 ? Math.max(...misses) : null,
    checks: run.checks.length,
    costSpoiled: costPerItem === null || spoiled === null ? null : costPerItem * spoiled,
  };
}

type Knowledge = Pick<SetupDrift, 'along' | 'across'>;

const taught = (before: Knowledge, after: Knowledge): RunOutcome['taught'] =>
  (['along', 'across'] as const).map((axis) => ({
    axis,
    creepBefore: before[axis].creep.value,
    creepAfter: after[axis].creep.value,
    wanderBefore: before[axis].wander?.value ?? null,
    wanderAfter: after[axis].wander?.value ?? null,
  }));

/** Undo of closing. */
export const reopenRun = runStep(
  idSchema,
  { act: 'open again', allowed: [...OPEN_RUN, 'closed'] },
  async (inner, run, runId, actor): Done => {
    if (run.stage !== 'closed') return accept(null);
    const held = await holdSetup(inner, run.setup.id);
    if (!held.ok) return held;
    await inner.db
      .update(runs)
      .set({
        // One that was given up before its release goes back to its card.
        stage: run.events.some((e) => e.kind === 'released') ? 'running' : 'release',
        closedBy: null,
        closedAt: null,
        outcome: null,
      })
      .where(eq(runs.id, runId));
    await note(inner, actor, runId, 'reopened');
    return accept(null);
  },
);
