'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { idSchema } from '@/server/base/shapes';
import { copyJob, copyJobSchema } from '@/server/sheetJobs/copyJob';
import { freezeJob } from '@/server/sheetJobs/freezeJob';
import {
  changeJob,
  closeJob,
  cutAgain,
  cutAgainSchema,
  discardJob,
  discardJobSchema,
} from '@/server/sheetJobs/steps';
import {
  keepPrintPlace,
  printPlaceSchema,
  setPlacement,
  setPlacementSchema,
} from '@/server/sheetJobs/printPlace';
import { readWitness, witnessSchema } from '@/server/sheetJobs/witness';

/** Begins or goes on reading the witness of a sheet that was cut. */
export async function readWitnessOf(
  input: z.input<typeof witnessSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting(
    'read witness',
    witnessSchema,
    input,
    (deps, actor, given, { request }) => readWitness(deps, actor, given, request),
    stamp,
  );
  if (!done.ok) return done;
  revalidatePath('/', 'layout');
  redirect(`/calibrate/${done.value.sessionId}`);
}

const anew = (jobId: unknown): void => {
  if (idSchema.safeParse(jobId).success) revalidatePath(`/jobs/sheets/${String(jobId)}`);
};

const Change = z.object({ jobId: idSchema, change: z.unknown() });

export async function changeSheetJob(
  input: z.input<typeof Change>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting(
    'change sheet job',
    Change,
    input,
    (deps, actor, { jobId, change }, stamped) => changeJob(deps, actor, jobId, change, stamped),
    stamp,
  );
  if (done.ok) anew(input.jobId);
  return done;
}

export async function freezeSheetJob(jobId: string, stamp: BrowserStamp): Promise<ActionResult> {
  const done = await acting('freeze sheet job', idSchema, jobId, freezeJob, stamp);
  if (done.ok) anew(jobId);
  return done;
}

export async function cutSheetJobAgain(
  input: z.input<typeof cutAgainSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting('cut sheet job again', cutAgainSchema, input, cutAgain, stamp);
  if (done.ok) anew(input.jobId);
  return done;
}

export async function closeSheetJob(jobId: string, stamp: BrowserStamp): Promise<ActionResult> {
  const done = await acting('close sheet job', idSchema, jobId, closeJob, stamp);
  if (done.ok) anew(jobId);
  return done;
}

export async function discardSheetJob(
  input: z.input<typeof discardJobSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting('discard sheet job', discardJobSchema, input, discardJob, stamp);
  if (done.ok) anew(input.jobId);
  return done;
}

export async function copySheetJob(
  input: z.input<typeof copyJobSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting('copy sheet job', copyJobSchema, input, copyJob, stamp);
  if (!done.ok) return done;
  redirect(`/jobs/sheets/${done.value.jobId}`);
}

export async function keepPlaceOfPrint(
  input: z.input<typeof printPlaceSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting('keep print place', printPlaceSchema, input, keepPrintPlace, stamp);
  if (done.ok) anew(input.jobId);
  return done;
}

export async function placePrints(
  input: z.input<typeof setPlacementSchema>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting('print placement', setPlacementSchema, input, setPlacement, stamp);
  if (done.ok) anew(input.jobId);
  return done;
}
