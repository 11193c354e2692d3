'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import type { Outcome } from '@/core/outcome';
import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';
import { saveTape, saveTwoMarks, setFeed } from '@/server/drift/measure';
import { startRollProof, stripSchema } from '@/server/sessions/startSession';

/** Keeps something about a rig's roll. */
async function onRoll(
  where: string,
  input: { setupId: string },
  stamp: BrowserStamp,
  save: (
    deps: Deps,
    actor: Actor,
    input: unknown,
    request?: string,
  ) => Promise<Outcome<null, UseCaseRefusal>>,
): Promise<ActionResult> {
  const done = await acting(
    where,
    z.looseObject({ setupId: idSchema }),
    input,
    (deps, actor, given, { request }) => save(deps, actor, given, request),
    stamp,
  );
  if (done.ok) revalidatePath(`/setups/${input.setupId}/roll`);
  return done;
}

export async function keepTwoMarks(input: { setupId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  return onRoll('two marks', input, stamp, saveTwoMarks);
}

export async function keepTape(input: { setupId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  return onRoll('tape', input, stamp, saveTape);
}

export async function feedIsTyped(input: { setupId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  return onRoll('feed', input, stamp, setFeed);
}

const Strip = stripSchema.extend({ setupId: idSchema });

/** Lays out a long strip for the rig, and goes there. Lengths in mm. */
export async function startStrip(
  given: z.input<typeof Strip>,
  stamp: BrowserStamp,
): Promise<ActionResult<never>> {
  const started = await acting(
    'start strip',
    Strip,
    given,
    (deps, actor, { setupId, ...strip }, { request }) => startRollProof(deps, actor, setupId, strip, request),
    stamp,
  );
  if (!started.ok) return started;
  redirect(`/calibrate/${started.value.sessionId}`);
}
