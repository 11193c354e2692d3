'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';

import { action, goTo } from '@/features/forms/action';
import { copyJob } from '@/server/sheetJobs/copyJob';
import { freezeJob } from '@/server/sheetJobs/freezeJob';
import { keepPrintPlace, setPlacement } from '@/server/sheetJobs/printPlace';
import { bringBack, changeJob, closeJob, cutAgain, throwAway } from '@/server/sheetJobs/steps';
import { readWitness } from '@/server/sheetJobs/witness';

/* Steps of a job on sheets; its page looks again. */

const ofJob = (_: unknown, given: string | { readonly jobId: string }): null => {
  revalidatePath(`/jobs/sheets/${typeof given === 'string' ? given : given.jobId}`);
  return null;
};

export const changeSheetJob = action(changeJob, ofJob);
export const freezeSheetJob = action(freezeJob, ofJob);
export const cutSheetJobAgain = action(cutAgain, ofJob);
export const closeSheetJob = action(closeJob, ofJob);
export const throwSheetJobAway = action(throwAway, ofJob);
export const bringSheetJobBack = action(bringBack, ofJob);
export const copySheetJob = action(copyJob, ({ jobId }) => redirect(`/jobs/sheets/${jobId}`));

export const keepPlaceOfPrint = action(keepPrintPlace, ofJob);
export const placePrints = action(setPlacement, ofJob);

/** Begins or goes on reading the witness of a sheet that was cut. */
export const readWitnessOf = action(readWitness, ({ sessionId }) => goTo(`/calibrate/${sessionId}`));
