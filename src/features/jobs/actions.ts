'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import { CUT_FORMATS } from '@/core/formats/file';
import { accept, type Outcome } from '@/core/outcome';
import type { Stamp } from '@/server/base/step';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { makeSectionFile } from '@/server/runs/runFiles';
import { saveTape, saveTwoMarks, setFeed } from '@/server/drift/measure';
import { saveCheck, takeBackCheck } from '@/server/runs/checks';
import { closeRun, reopenRun } from '@/server/runs/closeRun';
import { finishSection, markSectionCut, unmarkSectionCut } from '@/server/runs/cutSections';
import { releaseRun } from '@/server/runs/releaseRun';
import { keepSlip, laminate, pauseRun, registerAnew, slipSchema, undoEvent } from '@/server/runs/runEvents';
import { startRun } from '@/server/runs/startRun';
import { idSchema } from '@/server/base/shapes';
import { startRollProof, stripSchema } from '@/server/sessions/startSession';

import { acting } from '../actionResult';
import type { ActionResult, BrowserStamp } from '../keeping';

/** Carries out one step on a run and shows what follows from it. */
async function step<Schema extends z.ZodType>(
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
      const outcome = await run(deps, actor, read.runId, schema.parse(given), stamped);
      return outcome.ok ? accept(null) : outcome;
    },
    stamp,
  );
  if (done.ok) revalidatePath(`/jobs/${runId}`, 'layout');
  return done;
}

export async function startTheRun(input: unknown, stamp: BrowserStamp): Promise<ActionResult<never>> {
  const started = await acting(
    'start run',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => startRun(deps, actor, given, request),
    stamp,
  );
  if (!started.ok) return started;
  revalidatePath('/jobs', 'layout');
  redirect(`/jobs/${started.value.runId}/release`);
}

const keys = z.array(z.string().max(40)).max(10);
const index = z.int('Sections are counted from 1.').min(1, 'Sections are counted from 1.');

export async function releaseIt(runId: string, ticked: string[], stamp: BrowserStamp): Promise<ActionResult> {
  const done = await step('release run', runId, keys, ticked, stamp, releaseRun);
  if (!done.ok) return done;
  redirect(`/jobs/${runId}/run`);
}

export async function keepCheck(input: { runId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  return step('keep check', input?.runId, z.unknown(), input, stamp, (deps, actor, _, given, stamped) =>
    saveCheck(deps, actor, given, stamped),
  );
}

export async function takeCheckBack(
  runId: string,
  checkId: string,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return step('take check back', runId, idSchema, checkId, stamp, takeBackCheck);
}

const Cut = z.object({ section: index, fileId: idSchema.nullable() });

export async function sectionIsCut(
  runId: string,
  given: z.input<typeof Cut>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return step('section is cut', runId, Cut, given, stamp, (deps, actor, id, { section, fileId }, stamped) =>
    markSectionCut(deps, actor, id, section, fileId, stamped),
  );
}

export async function sectionIsNotCut(
  runId: string,
  section: number,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return step('section is not cut', runId, index, section, stamp, unmarkSectionCut);
}

const Weeded = z.object({ section: index, spoiled: z.number('Enter how many were spoiled, 0 for none.') });

export async function sectionIsFinished(
  runId: string,
  given: z.input<typeof Weeded>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return step('section is weeded', runId, Weeded, given, stamp, (deps, actor, id, read, stamped) =>
    finishSection(deps, actor, id, read.section, read.spoiled, stamped),
  );
}

export async function registeredAnew(
  runId: string,
  before: number,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return step('registered anew', runId, index, before, stamp, registerAnew);
}

export async function stepIsUndone(
  runId: string,
  eventId: string,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return step('undo step', runId, idSchema, eventId, stamp, undoEvent);
}

export async function slipIsKept(
  runId: string,
  slip: z.input<typeof slipSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return step('slip is kept', runId, slipSchema, slip, stamp, keepSlip);
}

export async function laminated(input: { runId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  return step('laminated', input?.runId, z.unknown(), input, stamp, (deps, actor, _, given, stamped) =>
    laminate(deps, actor, given, stamped),
  );
}

export async function restOrGoOn(runId: string, rest: boolean, stamp: BrowserStamp): Promise<ActionResult> {
  return step('rest or go on', runId, z.boolean(), rest, stamp, pauseRun);
}

export async function closeTheRun(input: { runId: string }, stamp: BrowserStamp): Promise<ActionResult> {
  const done = await step(
    'close run',
    input?.runId,
    z.unknown(),
    input,
    stamp,
    (deps, actor, _, given, stamped) => closeRun(deps, actor, given, stamped),
  );
  if (!done.ok) return done;
  revalidatePath('/', 'layout');
  redirect(`/jobs/${input.runId}/summary`);
}

export async function openTheRunAgain(runId: string, stamp: BrowserStamp): Promise<ActionResult> {
  const done = await step('open run again', runId, z.null(), null, stamp, (deps, actor, id, _, stamped) =>
    reopenRun(deps, actor, id, stamped),
  );
  if (!done.ok) return done;
  redirect(`/jobs/${runId}/run`);
}

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

const Made = z.object({ runId: idSchema, section: index, format: z.enum(CUT_FORMATS) });

/** Makes the corrected file of a section, keeps it in the log and hands it over. */
export async function makeFile(
  given: z.input<typeof Made>,
  stamp: BrowserStamp,
): Promise<ActionResult<{ fileId: string; fileName: string; content: string }>> {
  const made = await acting(
    'make file',
    Made,
    given,
    (deps, actor, { runId, section, format }, stamped) =>
      makeSectionFile(deps, actor, runId, section, format, stamped),
    stamp,
  );
  if (made.ok) revalidatePath(`/jobs/${given.runId}`, 'layout');
  return made;
}
