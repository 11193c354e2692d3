'use server';

import { redirect } from 'next/navigation';

import { action, everyPage } from '@/features/forms/action';
import { preferences } from '@/server/base/context';
import type { UseCase } from '@/server/base/useCase';
import { changeOver } from '@/server/rigs/changeOver';
import { startSession, type Started, type ToStart } from '@/server/sessions/startSession';
import { sayFirstEdge } from '@/server/setups/history';
import { keepOwnPage, takeBackOwnPage } from '@/server/setups/ownPage';

/** “The machine shows them all.” */
export const changedOver = action(changeOver, everyPage);

/** Which edge of a sheet came out of the printer first. */
export const firstEdgeIs = action(sayFirstEdge, everyPage);

const inMyUnit: UseCase<ToStart, Started> = Object.assign(
  async (...[deps, actor, given, stamp]: Parameters<typeof startSession>) =>
    startSession(deps, actor, { ...(given as ToStart), unit: (await preferences()).unit }, stamp),
  { act: startSession.act },
);

/** Starts (or goes on with) a calibration or a quick check, and goes there. */
export const startOnSetup = action(inMyUnit, ({ sessionId }) => redirect(`/calibrate/${sessionId}`));

/** Keeps a run of the machine's own calibration. */
export const ownPageWasRun = action(keepOwnPage, (value) => {
  everyPage();
  return value;
});
export const ownPageTakenBack = action(takeBackOwnPage, everyPage);
