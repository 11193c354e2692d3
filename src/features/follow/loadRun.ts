import { type RunStage } from '@/core/setup';
import 'server-only';

import { notFound, redirect } from 'next/navigation';

import { requestDeps } from '@/server/base/context';
import { getRun } from '@/server/runs/repository';
import { type Run } from '@/server/runs/run';
import { idSchema } from '@/server/base/shapes';

const PAGE_OF: Readonly<Record<RunStage, string>> = {
  release: 'release',
  running: 'run',
  paused: 'run',
  closed: 'summary',
};

/** The run of a page's address; another step leads to the one it stands at. */
export async function runAt(id: string, wanted: 'release' | 'run' | 'summary' | null): Promise<Run> {
  const parsed = idSchema.safeParse(id);
  if (!parsed.success) notFound();
  const run = await getRun(requestDeps(), parsed.data);
  if (!run) notFound();
  const page = PAGE_OF[run.stage];
  if (page !== wanted) redirect(`/jobs/${run.id}/${page}`);
  return run;
}
