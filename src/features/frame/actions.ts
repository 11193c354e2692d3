'use server';

import { z } from 'zod';

import { action } from '@/features/forms/action';
import type { ActionResult } from '@/features/forms/keeping';
import { requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { noteTried, remediesFor, takeBackTried, type MarkRemedies } from '@/server/marks/remedies';

const asked = z.object({ setupId: idSchema.nullable() });

/** What to try, in order, for one setup or the whole shop. Anybody may look, without initials. */
export async function lookUpRemedies(given: z.input<typeof asked>): Promise<ActionResult<MarkRemedies>> {
  const read = asked.safeParse(given);
  if (!read.success)
    return { ok: false, said: 'refused', message: 'Choose a rig and medium of the list.', fields: {} };
  return { ok: true, value: await remediesFor(requestDeps(), read.data.setupId) };
}

export const keepTried = action(noteTried);
export const forgetTried = action(takeBackTried);
