'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import { accept, type Outcome } from '@/core/outcome';
import { applyCorrection } from '@/server/sessions/applyCorrection';
import type { Stamp } from '@/server/base/step';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { clearReading, combSchema, saveReading, type Changed } from '@/server/sessions/readings';
import { idSchema } from '@/server/base/shapes';
import { barSchema, sheetOptionsSchema } from '@/server/sessions/shapes';
import {
  changeSessionSheet,
  closeSession,
  decideReadings,
  discardSession,
  finishReading,
  goRoundAgain,
  markPrinted,
  reopenReading,
  saveBars,
  undoClose,
} from '@/server/sessions/steps';

import { acting } from '../actionResult';
import type { ActionResult, BrowserStamp } from '../keeping';

const path = (sessionId: string): string => `/calibrate/${sessionId}`;

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

export async function layOutSheet(
  sessionId: string,
  options: unknown,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting(
    'lay out sheet',
    z.object({ sessionId: idSchema, options: sheetOptionsSchema }),
    { sessionId, options },
    (deps, actor, given, stamped) => changeSessionSheet(deps, actor, given.sessionId, given.options, stamped),
    stamp,
  );
  if (done.ok) revalidatePath(path(sessionId), 'layout');
  return done;
}

export async function sheetIsCut(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('sheet is cut', sessionId, stamp, markPrinted, `${path(sessionId)}/read`);
}

export async function keepReading(input: unknown, stamp: BrowserStamp): Promise<ActionResult<Changed>> {
  return acting(
    'keep reading',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => saveReading(deps, actor, given, request),
    stamp,
  );
}

const TakeBack = z.object({ passId: idSchema, comb: combSchema });

export async function takeBackReading(
  input: z.input<typeof TakeBack>,
  stamp: BrowserStamp,
): Promise<ActionResult<Changed>> {
  return acting(
    'take reading back',
    TakeBack,
    input,
    (deps, actor, { passId, comb }, { request }) => clearReading(deps, actor, passId, comb, request),
    stamp,
  );
}

export async function readingIsDone(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  const done = await acting('reading is done', idSchema, sessionId, finishReading, stamp);
  if (!done.ok) return done;
  const { stage, rigId } = done.value;
  redirect(stage === 'closed' ? `/rigs/${rigId}/roll` : `${path(sessionId)}/${stage}`);
}

const Way = z.enum(
  ['settings', 'file', 'both', 'machine-page'],
  'Choose what carries the correction: the settings, the file, or both.',
);

export async function correctionIsDone(
  sessionId: string,
  way: z.input<typeof Way>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting(
    'correction is done',
    z.object({ sessionId: idSchema, way: Way }),
    { sessionId, way },
    (deps, actor, given, stamped) => applyCorrection(deps, actor, given.sessionId, given.way, stamped),
    stamp,
  );
  if (!done.ok) return done;
  redirect(`${path(sessionId)}/${done.value.needsNewSheet ? 'print' : 'prove'}`);
}

export async function roundAgain(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('round again', sessionId, stamp, goRoundAgain, `${path(sessionId)}/correct`);
}

export async function backToReading(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('back to reading', sessionId, stamp, reopenReading, `${path(sessionId)}/read`);
}

export async function closeIt(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('close session', sessionId, stamp, closeSession, `/logbook/${sessionId}`);
}

export async function discardIt(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('discard session', sessionId, stamp, discardSession, `/logbook/${sessionId}`);
}

export async function openItAgain(sessionId: string, stamp: BrowserStamp): Promise<ActionResult> {
  return stepTo('open session again', sessionId, stamp, undoClose, path(sessionId));
}

const Bars = z.object({ acrossMm: barSchema.nullable(), alongMm: barSchema.nullable() });

/** Keeps what the check bars of the printed sheet measure. */
export async function keepBars(
  sessionId: string,
  bars: z.input<typeof Bars>,
  stamp: BrowserStamp,
): Promise<ActionResult> {
  const done = await acting(
    'keep bars',
    Bars,
    bars,
    (deps, actor, given, stamped) => saveBars(deps, actor, idSchema.parse(sessionId), given, stamped),
    stamp,
  );
  if (done.ok) revalidatePath(path(sessionId), 'layout');
  return done;
}

const Decision = z.object({
  sessionId: idSchema,
  which: z.array(combSchema).min(1).max(200),
  aside: z.boolean(),
});

/** Leaves readings out of the fit, or counts them again. */
export async function decideOn(input: z.input<typeof Decision>, stamp: BrowserStamp): Promise<ActionResult> {
  const done = await acting(
    'decide on readings',
    Decision,
    input,
    async (deps, actor, { sessionId, which, aside }, stamped) => {
      const decided = await decideReadings(deps, actor, sessionId, which, aside, stamped);
      return decided.ok ? accept(null) : decided;
    },
    stamp,
  );
  if (done.ok) revalidatePath(path(input.sessionId), 'layout');
  return done;
}
