'use client';

import type { ReactNode } from 'react';

import { keeping, type ActionResult, type BrowserStamp, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';

import {
  closeSheetJob,
  copySheetJob,
  cutSheetJobAgain,
  bringSheetJobBack,
  throwSheetJobAway,
  readWitnessOf,
} from './actions';

interface OfJob {
  readonly job: { readonly id: string; readonly version: number };
}

const said = (done: ActionResult<unknown>): ReactNode => (done?.ok === false ? whyNotDone(done) : null);

const press = async (
  what: readonly unknown[],
  version: number | undefined,
  act: (stamp: BrowserStamp) => Promise<ActionResult<unknown>>,
): Promise<ReactNode> => said(await keeping(what, act, version));

export const CloseJob = ({ job }: OfJob) => (
  <PendingButton
    words="Done: close it"
    onPress={() => press(['close job', job.id], job.version, (stamp) => closeSheetJob(job.id, stamp))}
  />
);

export const CutAgain = ({ job, correction }: OfJob & { correction: 'standing' | 'none' }) => (
  <PendingButton
    words={
      correction === 'standing' ? 'Cut file again, for today’s correction' : 'Cut file without any correction'
    }
    onPress={() =>
      press(['cut again', job.id, correction], job.version, (stamp) =>
        cutSheetJobAgain({ jobId: job.id, correction }, stamp),
      )
    }
  />
);

/** For a print that came out scaled: the cut file follows it. */
export const CutScaled = ({ job, measuredMm }: OfJob & { measuredMm: number }) => (
  <PendingButton
    words="Cut file for this print"
    onPress={() =>
      press(['cut scaled', job.id, measuredMm], job.version, (stamp) =>
        cutSheetJobAgain({ jobId: job.id, correction: 'standing', measuredMm }, stamp),
      )
    }
  />
);

export const ReadWitness = ({
  job,
  revision,
  sheet,
  words,
}: OfJob & { revision: number; sheet: number; words: string }) => (
  <PendingButton
    words={words}
    onPress={() =>
      press(['witness', job.id, revision, sheet], undefined, (stamp) =>
        readWitnessOf({ jobId: job.id, revision, sheet }, stamp),
      )
    }
  />
);

export const DiscardJob = ({ job, away }: OfJob & { away: boolean }) => (
  <PendingButton
    words={away ? 'Throw it away' : 'Bring it back'}
    onPress={() =>
      press(['discard job', job.id, away], job.version, (stamp) =>
        away ? throwSheetJobAway(job.id, stamp) : bringSheetJobBack(job.id, stamp),
      )
    }
  />
);

export const CopyJob = ({ job, copies, main = false }: OfJob & { copies: number | null; main?: boolean }) => (
  <PendingButton
    main={main}
    words="The same again"
    onPress={() =>
      press(['copy job', job.id, job.version], undefined, (stamp) =>
        copySheetJob({ jobId: job.id, copies }, stamp),
      )
    }
  />
);
