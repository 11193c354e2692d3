import { eq, sql } from 'drizzle-orm';

import { refuse, type Outcome } from '@/core/outcome';
import { sheetJobs } from '@/db/schema';
import { keep } from '@/server/base/act';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import type { Stamp } from '@/server/base/step';

import type { JobStage, SheetJob } from './job';
import { getJob } from './repository';

const WRONG_STAGE: Readonly<Record<JobStage, string>> = {
  draft: 'This job is not frozen yet. Freeze it first, then print and cut it.',
  frozen: 'This job is frozen: what is printed stays what it is. Make a copy of it to change something.',
  closed: 'This job is closed. Make a copy of it to print it again.',
};

type JobStep = Stamp & {
  readonly act: string;
  readonly allowed: readonly JobStage[];
  /** Of a job that was thrown away. */
  readonly discarded?: boolean;
};

/** One step of a sheet job: on its locked row, at a stage that allows it, by whoever saw its newest version. */
export async function onJob<T>(
  deps: Deps,
  actor: Actor,
  jobId: string,
  { act, allowed, discarded = false, request, version }: JobStep,
  work: (inner: Deps, job: SheetJob) => Promise<Outcome<T, UseCaseRefusal>>,
): Promise<Outcome<T, UseCaseRefusal>> {
  return keep(deps, actor, { act: `sheet job ${act}`, subjectId: jobId, request }, async (inner) => {
    await inner.db.select({ id: sheetJobs.id }).from(sheetJobs).where(eq(sheetJobs.id, jobId)).for('update');
    const job = await getJob(inner, jobId);
    if (!job) return refuse({ code: 'not-found', what: 'job' });
    if (version !== undefined && version !== job.version)
      return refuse({
        code: 'stale',
        message: 'Somebody changed this job in the meantime. Look at it as it is now, then try again.',
      });
    if (job.discarded !== discarded)
      return refuse({
        code: 'refused',
        message: discarded
          ? 'This job was brought back already.'
          : 'This job was thrown away. Bring it back first.',
      });
    if (!allowed.includes(job.stage)) return refuse({ code: 'refused', message: WRONG_STAGE[job.stage] });
    const done = await work(inner, job);
    if (done.ok)
      await inner.db
        .update(sheetJobs)
        .set({ version: sql`${sheetJobs.version} + 1` })
        .where(eq(sheetJobs.id, jobId));
    return done;
  });
}
