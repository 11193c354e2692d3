'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';

import type { Outcome } from '@/core/outcome';
import { acting } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';
import type { Stamp } from '@/server/base/step';
import { registerAgain } from '@/server/sessions/applyCorrection';
import { closeSession, discardSession, undoClose } from '@/server/sessions/closeSession';
import { goRoundAgain, reopenReading } from '@/server/sessions/finishReading';
import { markPrinted } from '@/server/sessions/printSheet';
import { takeDirections } from '@/server/sessions/signs';

import { sessionPath } from './sessionPath';

type StepOn = (
  deps: Deps,
  actor: Actor,
  sessionId: string,
  stamp: Stamp,
) => Promise<Outcome<null, UseCaseRefusal>>;

/** A step on a session that needs nothing but who, when and which; then to another page. */
async function stepTo(
  where: string,
  sessionId: string,
  stamp: BrowserStamp,
  step: StepOn,
  to: string,
): Promise<ActionResult> {
  const done = await acting(where, idSchema, sessionId, step, stamp);
  if (!done.ok) return done;
  revalidatePath('/', 'layout');
  redirect(to);
}

export async function sheetIsCut(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('sheet is cut', sessionId, stamp, markPrinted, `${sessionPath(sessionId)}/read`);
}

export async function roundAgain(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('round again', sessionId, stamp, goRoundAgain, `${sessionPath(sessionId)}/correct`);
}

/** Set B is cut on the same load with nothing changed. */
export async function registerOnceMore(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('register again', sessionId, stamp, registerAgain, `${sessionPath(sessionId)}/prove`);
}

export async function backToReading(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('back to reading', sessionId, stamp, reopenReading, `${sessionPath(sessionId)}/read`);
}

export async function closeIt(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('close session', sessionId, stamp, closeSession, `/logbook/${sessionId}`);
}

/** Closes it with the new correction standing, though no proof says that it holds. */
export async function closeAndAccept(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  const step: StepOn = (deps, actor, id, stamped) => closeSession(deps, actor, id, stamped, true);
  return stepTo('close and accept', sessionId, stamp, step, `/logbook/${sessionId}`);
}

export async function discardIt(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('discard session', sessionId, stamp, discardSession, `/logbook/${sessionId}`);
}

export async function openItAgain(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('open session again', sessionId, stamp, undoClose, sessionPath(sessionId));
}

/** Declares the settings of a rig as the proof saw them act. */
export async function declareDirections(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('declare directions', sessionId, stamp, takeDirections, `${sessionPath(sessionId)}/prove`);
}
