import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import type { Done } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';

import { note } from './runEvents';
import { refusedRun } from './run';
import { runStep, OPEN_RUN } from './step';

/** Says whether the files to come carry what stands now, or go on with what the run was planned with. */
export const decideStanding = runStep(
  z.object({ runId: idSchema, standingId: idSchema, take: z.boolean() }),
  { act: 'standing', allowed: OPEN_RUN },
  async (inner, run, { runId, standingId, take }, actor): Done => {
    const now = run.newStanding;
    if (!now) return refusedRun('What stands for this setup is decided on already. Reload the page.');
    if (now.id !== standingId)
      return refuse({
        code: 'stale',
        message: 'It was replaced once more in the meantime. Look at what stands now, then press again.',
      });
    const next = run.sections.find((s) => s.state === 'waiting')?.index ?? null;
    await note(inner, actor, runId, 'standing', next, { standingId, taken: take, map: now.map });
    return accept(null);
  },
);
