import type { RunStage } from '@/core/setup';
import { runs } from '@/db/schema';
import type { UseCaseRefusal } from '@/server/base/deps';
import { OUT_OF_DATE, stepsOf } from '@/server/base/lockedStep';

import { getRun } from './repository';
import { RUN_NOT_FOUND, type Run } from './run';

interface How {
  readonly act: string;
  readonly allowed: readonly RunStage[];
  /** It adds a record and changes nothing that a page shows or decides by. */
  readonly quiet?: boolean;
}

export const OPEN_RUN: readonly RunStage[] = ['release', 'running', 'paused'];

/** The steps of a run. Two tablets work on different sections of it: only some name the version that they saw. */
export const { step: runStep, stepWith: runStepWith } = stepsOf<Run, How>({
  what: 'run',
  key: 'runId',
  table: runs,
  load: getRun,
  missing: RUN_NOT_FOUND,
  refused: ({ stage, version }, how) => {
    if (how.version !== undefined && how.version !== version) return OUT_OF_DATE;
    return how.allowed.includes(stage) ? null : refusedStage(stage);
  },
  counts: ({ quiet }) => (quiet ? null : {}),
});

function refusedStage(stage: RunStage): UseCaseRefusal {
  switch (stage) {
    case 'closed':
      return {
        code: 'refused',
        message: 'This run is closed. Open it again on its page to change it.',
      };
    case 'release':
      return {
        code: 'refused',
        message: 'The run is not released yet. Go through its release card first.',
      };
    case 'paused':
      return { code: 'refused', message: 'The run rests. Go on with it first.' };
    case 'running':
      return OUT_OF_DATE;
    default:
      return stage satisfies never;
  }
}
