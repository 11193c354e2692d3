'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';

import { acting, actingForAll } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { idSchema } from '@/server/base/shapes';
import { archiveSetup } from '@/server/setups/archiveSetup';
import { takeBackStanding } from '@/server/setups/standing';
import { changeSetup } from '@/server/setups/writeSetup';

const Given = z.object({ version: z.int(), input: z.unknown() });

/** Saves changes to a setup; `version` is what the form was loaded with. */
export async function saveSetup(
  setupId: string,
  given: z.input<typeof Given>,
  stamp: BrowserStamp,
): Promise<ActionResult<{ readonly goTo: string | null }>> {
  const saved = await acting(
    'save setup',
    Given,
    given,
    (deps, actor, { version, input }, { request }) =>
      changeSetup(deps, actor, idSchema.parse(setupId), version, input, request),
    stamp,
  );
  if (!saved.ok) return saved;
  revalidatePath('/', 'layout');
  return { ok: true, value: { goTo: null } };
}

const Archived = z.object({ setupId: idSchema, archived: z.boolean() });

export async function setArchived(
  given: z.input<typeof Archived>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return actingForAll(
    'archive setup',
    Archived,
    given,
    (deps, actor, { setupId, archived }, { request }) =>
      archiveSetup(deps, actor, setupId, archived, request),
    stamp,
  );
}

const Stand = z.object({ setupId: idSchema, standingId: idSchema });

/** An earlier standing correction stands again. */
export async function letStandAgain(
  given: z.input<typeof Stand>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return actingForAll(
    'take back standing',
    Stand,
    given,
    (deps, actor, { setupId, standingId }, { request }) =>
      takeBackStanding(deps, actor, setupId, standingId, request),
    stamp,
  );
}
