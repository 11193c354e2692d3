import { eq, sql } from 'drizzle-orm';

import { refuse, type Outcome } from '@/core/outcome';
import { sheetJobs } from '@/db/schema';
import { answeredBefore, keep, type Act } from '@/server/base/act';
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

/** Why a step may not be done to a job as it is; null: it may. */
function refusedAsItIs(job: SheetJob, { version, discarded = false, allowed }: JobStep) {
  if (version !== undefined && version !== job.version)
    return {
      code: 'stale',
      message: 'Somebody changed this job in the meantime. Look at it as it is now, then try again.',
    } as const;
  if (job.discarded !== discarded)
    return {
      code: 'refused',
      message: discarded
        ? 'This job was brought back already.'
        : 'This job was thrown away. Bring it back first.',
    } as const;
  return allowed.includes(job.stage) ? null : ({ code: 'refused', message: WRONG_STAGE[job.stage] } as const);
}

const NO_JOB = { code: 'not-found', what: 'job' } as const;
const actOf = ({ act, request }: JobStep, subjectId: string): Act => ({
  act: `sheet job ${act}`,
  ...{ subjectId, request },
});

type Work<T> = (inner: Deps, job: SheetJob) => Promise<Outcome<T, UseCaseRefusal>>;

/** One step of a sheet job: on its locked row, at a stage that allows it, by whoever saw its newest version. */
export async function onJob<T>(
  deps: Deps,
  actor: Actor,
  jobId: string,
  step: JobStep,
  work: Work<T>,
): Promise<Outcome<T, UseCaseRefusal>> {
  return keep(deps, actor, actOf(step, jobId), async (inner) => {
    await inner.db.select({ id: sheetJobs.id }).from(sheetJobs).where(eq(sheetJobs.id, jobId)).for('update');
    const job = await getJob(inner, jobId);
    const refused = job ? refusedAsItIs(job, step) : NO_JOB;
    if (!job || refused) return refuse(refused!);
    const done = await work(inner, job);
    if (done.ok)
      await inner.db
        .update(sheetJobs)
        .set({ version: sql`${sheetJobs.version} + 1` })
        .where(eq(sheetJobs.id, jobId));
    return done;
  });
}

/** What was worked out for a job that somebody changed meanwhile is worked out again so often. */
const TRIES = 3;

/**
 * The same for a step with something heavy in it: that is worked out first, while nothing is held, for the job as it is
 * then; it counts only where the job is still the same once its row is locked.
 */
export async function onJobWith<P, T>(
  deps: Deps,
  actor: Actor,
  jobId: string,
  step: JobStep,
  prepare: (job: SheetJob) => Promise<Outcome<P, UseCaseRefusal>>,
  work: (inner: Deps, job: SheetJob, prepared: P) => Promise<Outcome<T, UseCaseRefusal>>,
): Promise<Outcome<T, UseCaseRefusal>> {
  const before = await answeredBefore<T>(deps, actOf(step, jobId));
  if (before) return before;
  for (let left = TRIES; ; left -= 1) {
    const seen = await getJob(deps, jobId);
    const refused = seen ? refusedAsItIs(seen, step) : NO_JOB;
    if (!seen || refused) return refuse(refused!);
    const prepared = await prepare(seen);
    if (!prepared.ok) return prepared;
    const done = await onJob(deps, actor, jobId, { ...step, version: seen.version }, (inner, job) =>
      work(inner, job, prepared.value),
    );
    const changed = !done.ok && done.refusal.code === 'stale' && step.version === undefined;
    if (!changed || left === 1) return done;
  }
}
