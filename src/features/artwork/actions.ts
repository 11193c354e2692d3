'use server';

import { revalidatePath } from 'next/cache';
import { z } from 'zod';

import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { idSchema } from '@/server/base/shapes';
import { changeLine } from '@/server/sheetJobs/changePieces';
import { lineRecipeSchema, pieceIdSchema } from '@/server/sheetJobs/shapes';

const Line = z.object({ jobId: idSchema, piece: pieceIdSchema, recipe: lineRecipeSchema });

/** Traces a piece of a draft by another recipe. */
export async function changeSheetJobLine(
  input: z.input<typeof Line>,
  stamp: BrowserStamp,
): Promise<ActionResult<{ readonly piece: string }>> {
  const done = await acting('change line of sheet job', Line, input, changeLine, stamp);
  if (done.ok) revalidatePath(`/jobs/sheets/${input.jobId}`);
  return done;
}
