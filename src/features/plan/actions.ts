'use server';

import { action, goTo } from '@/features/forms/action';
import { startRun } from '@/server/runs/startRun';

export const startTheRun = action(startRun, ({ runId }) => goTo(`/jobs/${runId}/release`));
