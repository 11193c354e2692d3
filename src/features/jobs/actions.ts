'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import { CUT_FORMATS } from '@/core/formats/file';
import { accept, type Outcome } from '@/core/outcome';
import { requestActor, requestDeps } from '@/server/context';
import type { Actor, Deps, UseCaseRefusal } from '@/server/deps';
import { makeSectionFile } from '@/server/runFiles';
import { CHECK_PLACES } from '@/server/runs';
import {
  closeRun,
  finishSection,
  keepSlip,
  laminate,
  markSectionCut,
  pauseRun,
  registerAnew,
  releaseRun,
  reopenRun,
  saveCheck,
  saveTape,
  saveTwoMarks,
  setFeed,
  startRun,
  takeBackCheck,
  undoEvent,
  unmarkSectionCut,
} from '@/server/runSteps';
import { startRollProof } from '@/server/sessions';
import { idSchema } from '@/server/schemas';

import { attempt, type ActionResult } from '../actionResult';

/** Carries out one step on a run and shows what follows from it. */
async function step<T>(
  runId: string,
  run: (deps: Deps, actor: Actor, id: string) => Promise<Outcome<T, UseCaseRefusal>>,
): Promise<ActionResult> {
  const done = await attempt(async () => {
    const outcome = await run(await requestDeps(), await requestActor(), idSchema.parse(runId));
    return outcome.ok ? accept(null) : outcome;
  });
  if (done.ok) revalidatePath(`/jobs/${runId}`, 'layout');
  return done;
}

export async function startTheRun(input: unknown): Promise<ActionResult<never>> {
  const started = await attempt(async () => startRun(await requestDeps(), await requestActor(), input));
  if (!started.ok) return started;
  revalidatePath('/jobs', 'layout');
  redirect(`/jobs/${started.value.runId}/release`);
}

const keys = z.array(z.string().max(40)).max(10);

export async function releaseIt(runId: string, ticked: string[]): Promise<ActionResult> {
  const done = await step(runId, (deps, actor, id) => releaseRun(deps, actor, id, keys.parse(ticked)));
  if (!done.ok) return done;
  redirect(`/jobs/${runId}/run`);
}

export async function keepCheck(input: { runId: string }): Promise<ActionResult> {
  return step(input.runId, (deps, actor) => saveCheck(deps, actor, input));
}

const index = z.int().min(1);
const place = z.enum(CHECK_PLACES);

export async function takeCheckBack(runId: string, checkId: string): Promise<ActionResult> {
  return step(runId, (deps, _, id) => takeBackCheck(deps, id, idSchema.parse(checkId)));
}

export async function sectionIsCut(runId: string, section: number, asDrawn: boolean): Promise<ActionResult> {
  return step(runId, (deps, actor, id) =>
    markSectionCut(deps, actor, id, index.parse(section), asDrawn === true),
  );
}

export async function sectionIsNotCut(runId: string, section: number): Promise<ActionResult> {
  return step(runId, (deps, _, id) => unmarkSectionCut(deps, id, index.parse(section)));
}

export async function sectionIsFinished(
  runId: string,
  section: number,
  spoiled: number,
): Promise<ActionResult> {
  return step(runId, (deps, _, id) =>
    finishSection(deps, id, index.parse(section), z.number().parse(spoiled)),
  );
}

export async function registeredAnew(runId: string, before: number): Promise<ActionResult> {
  return step(runId, (deps, actor, id) => registerAnew(deps, actor, id, index.parse(before)));
}

export async function stepIsUndone(runId: string, eventId: string): Promise<ActionResult> {
  return step(runId, (deps, actor, id) => undoEvent(deps, actor, id, idSchema.parse(eventId)));
}

export async function slipIsKept(
  runId: string,
  axis: 'along' | 'across',
  section: number,
  where: string,
  sizeMm: number,
): Promise<ActionResult> {
  return step(runId, (deps, actor, id) =>
    keepSlip(
      deps,
      actor,
      id,
      z.enum(['along', 'across']).parse(axis),
      index.parse(section),
      place.parse(where),
      z.number().parse(sizeMm),
    ),
  );
}

export async function laminated(input: { runId: string }): Promise<ActionResult> {
  return step(input.runId, (deps, actor) => laminate(deps, actor, input));
}

export async function restOrGoOn(runId: string, rest: boolean): Promise<ActionResult> {
  return step(runId, (deps, actor, id) => pauseRun(deps, actor, id, rest === true));
}

export async function closeTheRun(input: { runId: string }): Promise<ActionResult> {
  const done = await step(input.runId, (deps, actor) => closeRun(deps, actor, input));
  if (!done.ok) return done;
  revalidatePath('/', 'layout');
  redirect(`/jobs/${input.runId}/summary`);
}

export async function openTheRunAgain(runId: string): Promise<ActionResult> {
  const done = await step(runId, (deps, actor, id) => reopenRun(deps, actor, id));
  if (!done.ok) return done;
  redirect(`/jobs/${runId}/run`);
}

export async function keepTwoMarks(input: { rigId: string }): Promise<ActionResult> {
  const done = await attempt(async () => saveTwoMarks(await requestDeps(), await requestActor(), input));
  if (done.ok) revalidatePath(`/rigs/${input.rigId}/roll`);
  return done;
}

export async function keepTape(input: { rigId: string }): Promise<ActionResult> {
  const done = await attempt(async () => saveTape(await requestDeps(), await requestActor(), input));
  if (done.ok) revalidatePath(`/rigs/${input.rigId}/roll`);
  return done;
}

export async function feedIsTyped(input: { rigId: string }): Promise<ActionResult> {
  const done = await attempt(async () => setFeed(await requestDeps(), await requestActor(), input));
  if (done.ok) revalidatePath(`/rigs/${input.rigId}/roll`);
  return done;
}

/** Lays out a long strip for the rig, and goes there. */
export async function startStrip(
  rigId: string,
  lengthMm: number,
  spacingMm: number,
): Promise<ActionResult<never>> {
  const started = await attempt(async () =>
    startRollProof(await requestDeps(), await requestActor(), idSchema.parse(rigId), lengthMm, spacingMm),
  );
  if (!started.ok) return started;
  redirect(`/calibrate/${started.value.sessionId}`);
}

/** Makes the corrected file of a section, keeps it in the log and hands it over. */
export async function makeFile(
  runId: string,
  section: number,
  format: string,
): Promise<ActionResult<{ fileName: string; content: string }>> {
  const made = await attempt(async () =>
    makeSectionFile(
      await requestDeps(),
      await requestActor(),
      idSchema.parse(runId),
      index.parse(section),
      z.enum(CUT_FORMATS).parse(format),
    ),
  );
  if (made.ok) revalidatePath(`/jobs/${runId}`, 'layout');
  return made;
}
