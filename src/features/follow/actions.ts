'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import { CUT_FORMATS } from '@/core/formats/file';
import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { idSchema } from '@/server/base/shapes';
import { saveCheck, takeBackCheck } from '@/server/runs/checks';
import { closeRun, reopenRun } from '@/server/runs/closeRun';
import { finishSection, markSectionCut, unmarkSectionCut } from '@/server/runs/cutSections';
import { releaseRun } from '@/server/runs/releaseRun';
import { keepSlip, laminate, pauseRun, registerAnew, slipSchema, undoEvent } from '@/server/runs/runEvents';
import { setStrip } from '@/server/runs/witnessStrip';
import { makeSectionFile } from '@/server/runs/runFiles';
import { decideStanding } from '@/server/runs/standing';

import { index, step } from './step';

const keys = z.array(z.string().max(40)).max(10);

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

/** Puts a witness strip beside a run's rows, or leaves it out. */
export async function putStrip(runId: string, on: boolean, stamp: BrowserStamp): Promise<ActionResult> {
  return step('witness strip', runId, z.boolean(), on, stamp, setStrip);
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

const Standing = z.object({ standingId: idSchema, take: z.boolean() });

export async function standingIsDecided(
  runId: string,
  given: z.input<typeof Standing>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  return step('standing is decided', runId, Standing, given, stamp, decideStanding);
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
