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

const Asked = z.object({ setupId: idSchema.nullable() });

/** What to try, in order, for one setup or the whole shop. Anybody may look, without initials. */
export async function lookUpRemedies(given: z.input<typeof Asked>): Promise<ActionResult<MarkRemedies>> {
  const asked = Asked.safeParse(given);
  if (!asked.success)
    return { ok: false, said: 'refused', message: 'Choose a rig and medium of the list.', fields: {} };
  return { ok: true, value: await remediesFor(requestDeps(), asked.data.setupId) };
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
