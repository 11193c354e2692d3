'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';

import { action, goTo } from '@/features/forms/action';
import { saveCheck, takeBackCheck } from '@/server/runs/checks';
import { closeRun, reopenRun } from '@/server/runs/closeRun';
import { finishSection, markSectionCut, unmarkSectionCut } from '@/server/runs/cutSections';
import { releaseRun } from '@/server/runs/releaseRun';
import { keepSlip, laminate, pauseRun, registerAnew, undoEvent } from '@/server/runs/runEvents';
import { makeSectionFile } from '@/server/runs/runFiles';
import { decideStanding } from '@/server/runs/decideStanding';
import { setStrip } from '@/server/runs/witnessStrip';

/* Steps of a run; every page of it looks again. */

const ofRun = <T>(value: T, { runId }: { readonly runId: string }): T => {
  revalidatePath(`/jobs/${runId}`, 'layout');
  return value;
};
const toRun = (_: unknown, given: string | { readonly runId: string }): never => {
  const runId = typeof given === 'string' ? given : given.runId;
  ofRun(null, { runId });
  redirect(`/jobs/${runId}/run`);
};

export const releaseIt = action(releaseRun, toRun);
export const openTheRunAgain = action(reopenRun, toRun);
export const closeTheRun = action(closeRun, (_, { runId }) => goTo(`/jobs/${runId}/summary`));
export const restOrGoOn = action(pauseRun, ofRun);

export const sectionIsCut = action(markSectionCut, ofRun);
export const sectionIsNotCut = action(unmarkSectionCut, ofRun);
export const sectionIsFinished = action(finishSection, ofRun);
/** Makes the corrected file of a section, keeps it in the log and hands it over. */
export const makeFile = action(makeSectionFile, ofRun);

export const keepCheck = action(saveCheck, ofRun);
export const takeCheckBack = action(takeBackCheck, ofRun);
/** Puts a witness strip beside a run's rows, or leaves it out. */
export const putStrip = action(setStrip, ofRun);
export const registeredAnew = action(registerAnew, ofRun);
export const slipIsKept = action(keepSlip, ofRun);
export const laminated = action(laminate, ofRun);
export const standingIsDecided = action(decideStanding, ofRun);
export const stepIsUndone = action(undoEvent, ofRun);
