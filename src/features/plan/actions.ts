'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { startRun } from '@/server/runs/startRun';

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
