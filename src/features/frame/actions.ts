'use server';

import { z } from 'zod';

import { accept } from '@/core/outcome';
import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import {
  noteTried,
  remediesFor,
  takeBackTried,
  triedInputSchema,
  type MarkRemedies,
} from '@/server/marks/remedies';

/** What to try, in order, for one setup. Anybody may look. */
export async function lookUpRemedies(setupId: unknown): Promise<MarkRemedies> {
  const id = idSchema.safeParse(setupId);
  return remediesFor(requestDeps(), id.success ? id.data : null);
}

export async function keepTried(
  given: z.input<typeof triedInputSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult<{ readonly triedId: string }>> {
  return acting(
    'remedy tried',
    triedInputSchema,
    given,
    (deps, actor, input, { request }) => noteTried(deps, actor, input, request),
    stamp,
  );
}

export async function forgetTried(triedId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return acting(
    'remedy taken back',
    z.object({ triedId: idSchema }),
    { triedId },
    async (deps, actor, input, { request }) => {
      const done = await takeBackTried(deps, actor, input.triedId, request);
      return done.ok ? accept(null) : done;
    },
    stamp,
  );
}
