'use server';

import { revalidatePath } from 'next/cache';

import { action } from '@/features/forms/action';
import { changeLine } from '@/server/sheetJobs/changePieces';

/** Traces a piece of a draft by another recipe. */
export const changeSheetJobLine = action(changeLine, (value, { jobId }) => {
  revalidatePath(`/jobs/sheets/${jobId}`);
  return value;
});
