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
  input: { rigId: string },
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
    z.looseObject({ rigId: idSchema }),
    input,
    (deps, actor, given, { request }) => save(deps, actor, given, request),
    stamp,
  );
  if (done.ok) revalidatePath(`/rigs/${input.rigId}/roll`);
  return done;
}

export async function keepTwoMarks(input: { rigId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  return onRoll('two marks', input, stamp, saveTwoMarks);
}

export async function keepTape(input: { rigId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  return onRoll('tape', input, stamp, saveTape);
}

export async function feedIsTyped(input: { rigId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  return onRoll('feed', input, stamp, setFeed);
}

const Strip = stripSchema.extend({ rigId: idSchema });

/** Lays out a long strip for the rig, and goes there. Lengths in mm. */
export async function startStrip(
  given: z.input<typeof Strip>,
  stamp: BrowserStamp,
): Promise<ActionResult<never>> {
  const started = await acting(
    'start strip',
    Strip,
    given,
    (deps, actor, { rigId, ...strip }, { request }) => startRollProof(deps, actor, rigId, strip, request),
    stamp,
  );
  if (!started.ok) return started;
  redirect(`/calibrate/${started.value.sessionId}`);
}
