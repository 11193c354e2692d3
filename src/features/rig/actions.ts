'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';

import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { idSchema } from '@/server/base/shapes';
import { archiveRig } from '@/server/rigs/archiveRig';
import { recordEvent } from '@/server/rigs/history';
import { addRig, changeRig } from '@/server/rigs/writeRig';

const Saved = z.object({ rigId: idSchema.nullable(), version: z.int(), input: z.unknown() });

/** Adds a rig, or saves changes to one; `version` is what the form was loaded with. */
export async function saveRig(
  given: z.input<typeof Saved>,
  stamp: BrowserStamp,
): Promise<ActionResult<{ rigId: string }>> {
  const saved = await acting(
    'save rig',
    Saved,
    given,
    (deps, actor, { rigId, version, input }, { request }) =>
      rigId === null
        ? addRig(deps, actor, input, request)
        : changeRig(deps, actor, rigId, version, input, request),
    stamp,
  );
  if (saved.ok) revalidatePath('/', 'layout');
  return saved;
}

const Archived = z.object({ rigId: idSchema, archived: z.boolean() });

export async function setArchived(
  given: z.input<typeof Archived>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting(
    'archive rig',
    Archived,
    given,
    (deps, actor, { rigId, archived }, { request }) => archiveRig(deps, actor, rigId, archived, request),
    stamp,
  );
  if (done.ok) revalidatePath('/', 'layout');
  return done;
}

export async function noteEvent(input: unknown, stamp: BrowserStamp): Promise<ActionResult> {
  const done = await acting(
    'note event',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => recordEvent(deps, actor, given, request),
    stamp,
  );
  if (done.ok) revalidatePath('/', 'layout');
  return done;
}
