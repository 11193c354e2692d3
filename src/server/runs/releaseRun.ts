import { capital } from '@/core/units';
import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { runs } from '@/db/schema';
import type { Done } from '@/server/base/deps';
import { changeOverFirst } from '@/server/setups/mustType';
import type { Setup } from '@/server/setups/setup';
import { idSchema } from '@/server/base/shapes';

import { refusedRun } from './run';
import { note } from './runEvents';
import { runStep, OPEN_RUN } from './step';

/** What is looked at and ticked before a run may be sent. */
export function releaseItems(
  setup: Setup,
  /** Combs stand beside its rows. */
  strip = false,
): readonly { readonly key: string; readonly words: string }[] {
  const one = setup.printer.trim().toLowerCase() === setup.cutter.trim().toLowerCase();
  return [
    {
      key: 'devices',
      words: one
        ? `Print and cut both go to ${setup.printer}.`
        : `Print goes to ${setup.printer}, cut to ${setup.cutter}.`,
    },
    {
      key: 'media',
      words: `${capital(setup.media)} is loaded, printed side up, printed by its recipe.`,
    },
    { key: 'halves', words: 'Print data and cut data are sent, of the same plan.' },
    ...(strip ? [{ key: 'strip', words: 'The witness strip lies over the art of each section.' }] : []),
    { key: 'keep', words: 'Cut data stays unchanged until the last section is cut.' },
  ];
}

export const releaseRun = runStep(
  z.object({ runId: idSchema, ticked: z.array(z.string().max(40)).max(10) }),
  { act: 'release', allowed: OPEN_RUN },
  async (inner, run, { runId, ticked }, actor): Done => {
    const missing = releaseItems(run.setup, run.witnessXMm !== null).filter((i) => !ticked.includes(i.key));
    if (missing.length > 0) return refusedRun(`Not released yet. Still to check: ${missing[0]!.words}`);
    if (run.stage !== 'release') return accept(null);
    const wrong = changeOverFirst(run.setup);
    if (wrong) return refuse(wrong);
    await inner.db.update(runs).set({ stage: 'running' }).where(eq(runs.id, runId));
    await note(inner, actor, runId, 'released', null, { ticked });
    return accept(null);
  },
);
