import { sheetJobs } from '@/db/schema';
import { stepsOf } from '@/server/base/lockedStep';

import type { JobStage, SheetJob } from './job';
import { getJob } from './repository';

const WRONG_STAGE: Readonly<Record<JobStage, string>> = {
  draft: 'This job is not frozen yet. Freeze it first, then print and cut it.',
  frozen: 'This job is frozen: what is printed stays what it is. Make a copy of it to change something.',
  closed: 'This job is closed. Make a copy of it to print it again.',
};

interface How {
  readonly act: string;
  readonly allowed: readonly JobStage[];
  /** Of a job that was thrown away. */
  readonly discarded?: boolean;
}

/** The steps of a job on sheets, each by whoever saw its newest version. */
export const { step: jobStep, stepWith: jobStepWith } = stepsOf<SheetJob, How>({
  what: 'sheet job',
  key: 'jobId',
  table: sheetJobs,
  load: getJob,
  missing: { code: 'not-found', what: 'job' },
  refused: (job, { version, discarded = false, allowed }) => {
    if (version !== undefined && version !== job.version)
      return {
        code: 'stale',
        message: 'Somebody changed this job in the meantime. Look at it as it is now, then try again.',
      };
    if (job.discarded !== discarded)
      return {
        code: 'refused',
        message: discarded
          ? 'This job was brought back already.'
          : 'This job was thrown away. Bring it back first.',
      };
    return allowed.includes(job.stage) ? null : { code: 'refused', message: WRONG_STAGE[job.stage] };
  },
});
