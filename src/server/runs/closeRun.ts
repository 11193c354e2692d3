import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { runs } from '@/db/schema';
import { type RunOutcome } from '@/db/stored/runs';
import { type Done, type Actor, type Deps, fieldMessages } from '@/server/base/deps';
import { onRun, OPEN_RUN, type Stamp } from '@/server/base/step';
import { holdSetup } from '@/server/setups/holdSetup';
import { type SetupDrift, setupDrift } from '@/server/drift/setupDrift';

import { knowledgeOf } from './outlook';
import { getRun } from './repository';
import type { Run } from './run';
import { note } from './runEvents';

export const closeSchema = z.object({
  runId: z.uuid(),
  note: z.string().trim().max(400, 'At most 400 characters.').default(''),
  costPerItem: z.number().min(0, 'A cost cannot be negative.').max(1e6).nullable().default(null),
});

/** Closes a run: what was predicted, what happened, and what it taught about the rig. */
export async function closeRun(deps: Deps, actor: Actor, input: unknown, stamp: Stamp = {}): Done {
  const parsed = closeSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { runId, note: words, costPerItem } = parsed.data;
  // Worked out and stored before the run is held: inside, it is found.
  const open = await getRun(deps, runId);
  if (open) await setupDrift(deps, open.setup.id);
  return onRun(deps, actor, runId, { ...stamp, act: 'close', allowed: OPEN_RUN }, async (inner, run) => {
    const before = await knowledgeOf(inner, run);
    const after = (await setupDrift(inner, run.setup.id))!;
    const outcome = { ...toldBy(run, costPerItem), note: words, taught: taught(before, after) };
    await inner.db
      .update(runs)
      .set({ stage: 'closed', closedBy: actor, closedAt: deps.now(), outcome })
      .where(eq(runs.id, runId));
    await note(inner, actor, runId, 'closed');
    return accept(null);
  });
}

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
export function reopenRun(deps: Deps, actor: Actor, runId: string, stamp: Stamp = {}): Done {
  const step = { ...stamp, act: 'open again', allowed: [...OPEN_RUN, 'closed' as const] };
  return onRun(deps, actor, runId, step, async (inner, run) => {
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
  });
}
