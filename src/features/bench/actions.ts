'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';

import { preferences, requestActor, requestDeps } from '@/server/context';
import { addRig, archiveRig, changeRig, recordEvent } from '@/server/rigs';
import { idSchema } from '@/server/schemas';
import { startSession } from '@/server/sessions';

import { attempt, type ActionResult } from '../actionResult';

/** Adds a rig, or saves changes to one; `version` is what the form was loaded with. */
export async function saveRig(
  rigId: string | null,
  version: number,
  input: unknown,
): Promise<ActionResult<{ rigId: string }>> {
  return attempt(async () => {
    const deps = await requestDeps();
    const actor = await requestActor();
    const saved =
      rigId === null ? await addRig(deps, actor, input) : await changeRig(deps, actor, rigId, version, input);
    if (saved.ok) revalidatePath('/', 'layout');
    return saved;
  });
}

export async function setArchived(rigId: string, archived: boolean): Promise<ActionResult> {
  return attempt(async () => {
    const done = await archiveRig(await requestDeps(), idSchema.parse(rigId), archived);
    if (done.ok) revalidatePath('/', 'layout');
    return done;
  });
}

export async function noteEvent(input: unknown): Promise<ActionResult> {
  return attempt(async () => {
    const done = await recordEvent(await requestDeps(), await requestActor(), input);
    if (done.ok) revalidatePath('/', 'layout');
    return done;
  });
}

/** Starts (or goes on with) a calibration or a quick check, and goes there. */
export async function startOnRig(
  rigId: string,
  kind: 'calibration' | 'quick-check',
): Promise<ActionResult<never>> {
  const { unit } = await preferences();
  const started = await attempt(async () =>
    startSession(await requestDeps(), await requestActor(), idSchema.parse(rigId), kind, unit),
  );
  if (!started.ok) return started;
  redirect(`/calibrate/${started.value.sessionId}`);
}
