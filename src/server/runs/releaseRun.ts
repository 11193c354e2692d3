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

/** What has to be so before anything is sent. */
export function releaseItems(setup: Setup): readonly { readonly key: string; readonly words: string }[] {
  const one = setup.printer.trim().toLowerCase() === setup.cutter.trim().toLowerCase();
  return [
    {
      key: 'devices',
      words: one
        ? `The print and the cut both go to: ${setup.printer}.`
        : `The print goes to: ${setup.printer}. The cut goes to: ${setup.cutter}.`,
    },
    {
      key: 'media',
      words: `${setup.media} is loaded, printed side up, and the print mode matches its recipe.`,
    },
    { key: 'halves', words: 'Both halves are sent: print data and cut data, of the same plan.' },
    { key: 'keep', words: 'The cut data stays where it is, unchanged, until the last section is cut.' },
  ];
}

export const releaseRun = runStep(
  z.object({ runId: idSchema, ticked: z.array(z.string().max(40)).max(10) }),
  { act: 'release', allowed: OPEN_RUN },
  async (inner, run, { runId, ticked }, actor): Done => {
    const missing = releaseItems(run.setup).filter((i) => !ticked.includes(i.key));
    if (missing.length > 0) return refusedRun(`Not released yet. Still to check: ${missing[0]!.words}`);
    if (run.stage !== 'release') return accept(null);
    const wrong = changeOverFirst(run.setup);
    if (wrong) return refuse(wrong);
    await inner.db.update(runs).set({ stage: 'running' }).where(eq(runs.id, runId));
    await note(inner, actor, runId, 'released', null, { ticked });
    return accept(null);
  },
);
