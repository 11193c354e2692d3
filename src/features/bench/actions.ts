'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import type { ActionResult, BrowserStamp } from '../keeping';
import { preferences } from '@/server/base/context';
import { archiveRig } from '@/server/rigs/archiveRig';
import { firstEdgeSchema, recordEvent, sayFirstEdge } from '@/server/rigs/history';
import { addRig, changeRig } from '@/server/rigs/writeRig';
import { idSchema } from '@/server/base/shapes';
import { startSession } from '@/server/sessions/startSession';

import { acting } from '../actionResult';

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

/** Which edge of a sheet came out of the printer first. */
export async function firstEdgeIs(
  input: z.input<typeof firstEdgeSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting(
    'first edge',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => sayFirstEdge(deps, actor, given, request),
    stamp,
  );
  if (done.ok) revalidatePath('/', 'layout');
  return done;
}

const Start = z.object({ rigId: idSchema, kind: z.enum(['calibration', 'quick-check']) });

/** Starts (or goes on with) a calibration or a quick check, and goes there. */
export async function startOnRig(
  given: z.input<typeof Start>,
  stamp: BrowserStamp,
): Promise<ActionResult<never>> {
  const started = await acting(
    'start session',
    Start,
    given,
    async (deps, actor, { rigId, kind }, { request }) =>
      startSession(deps, actor, rigId, kind, (await preferences()).unit, request),
    stamp,
  );
  if (!started.ok) return started;
  redirect(`/calibrate/${started.value.sessionId}`);
}
