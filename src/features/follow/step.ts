import { revalidatePath } from 'next/cache';
import { z } from 'zod';

import { accept, type Outcome } from '@/core/outcome';
import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { contentHash } from '@/server/base/contentHash';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';
import type { Stamp } from '@/server/base/step';

/** Carries out one step on a run and shows what follows from it. */
export async function step<Schema extends z.ZodType>(
  where: string,
  runId: string,
  schema: Schema,
  given: unknown,
  stamp: BrowserStamp,
  run: (
    deps: Deps,
    actor: Actor,
    id: string,
    given: z.output<Schema>,
    stamp: Stamp,
  ) => Promise<Outcome<unknown, UseCaseRefusal>>,
): Promise<ActionResult> {
  const done = await acting(
    where,
    z.object({ runId: idSchema }),
    { runId },
    async (deps, actor, read, stamped) => {
      const parsed = schema.parse(given);
      const asked = contentHash(where, read.runId, parsed);
      const outcome = await run({ ...deps, asked }, actor, read.runId, parsed, stamped);
      return outcome.ok ? accept(null) : outcome;
    },
    stamp,
  );
  if (done.ok) revalidatePath(`/jobs/${runId}`, 'layout');
  return done;
}

export const index = z.int('Sections are counted from 1.').min(1, 'Sections are counted from 1.');
