'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import { requestActor, requestDeps } from '@/server/context';
import { barSchema, idSchema, sheetOptionsSchema } from '@/server/schemas';
import { clearReading, saveReading } from '@/server/readings';
import { type CorrectionWay } from '@/server/session';
import {
  applyCorrection,
  changeSessionSheet,
  closeSession,
  decideReadings,
  finishReading,
  goRoundAgain,
  markPrinted,
  reopenReading,
  saveBars,
  undoClose,
} from '@/server/sessions';

import { attempt, type ActionResult } from '../actionResult';

const path = (sessionId: string): string => `/calibrate/${sessionId}`;

export async function layOutSheet(sessionId: string, options: unknown): Promise<ActionResult> {
  const parsed = sheetOptionsSchema.safeParse(options);
  if (!parsed.success) return { ok: false, message: parsed.error.issues[0]!.message, fields: {} };
  const done = await attempt(async () =>
    changeSessionSheet(await requestDeps(), idSchema.parse(sessionId), parsed.data),
  );
  revalidatePath(path(sessionId), 'layout');
  return done;
}

export async function sheetIsCut(sessionId: string): Promise<ActionResult> {
  const done = await attempt(async () =>
    markPrinted(await requestDeps(), await requestActor(), idSchema.parse(sessionId)),
  );
  if (!done.ok) return done;
  redirect(`${path(sessionId)}/read`);
}

export async function keepReading(input: unknown): Promise<ActionResult> {
  return attempt(async () => saveReading(await requestDeps(), await requestActor(), input));
}

export async function takeBackReading(
  passId: string,
  stationId: string,
  axis: 'across' | 'along',
): Promise<ActionResult> {
  return attempt(async () =>
    clearReading(await requestDeps(), idSchema.parse(passId), String(stationId), axis),
  );
}

export async function readingIsDone(sessionId: string): Promise<ActionResult> {
  const done = await attempt(async () => finishReading(await requestDeps(), idSchema.parse(sessionId)));
  if (!done.ok) return done;
  const { stage, rigId } = done.value;
  redirect(stage === 'closed' ? `/rigs/${rigId}/roll` : `${path(sessionId)}/${stage}`);
}

export async function correctionIsDone(sessionId: string, way: CorrectionWay): Promise<ActionResult> {
  if (!['settings', 'file', 'both', 'machine-page'].includes(way))
    return { ok: false, message: 'Choose what carries the correction.', fields: {} };
  const done = await attempt(async () =>
    applyCorrection(await requestDeps(), await requestActor(), idSchema.parse(sessionId), way),
  );
  if (!done.ok) return done;
  redirect(`${path(sessionId)}/${done.value.needsNewSheet ? 'print' : 'prove'}`);
}

export async function roundAgain(sessionId: string): Promise<ActionResult> {
  const done = await attempt(async () => goRoundAgain(await requestDeps(), idSchema.parse(sessionId)));
  if (!done.ok) return done;
  redirect(`${path(sessionId)}/correct`);
}

export async function backToReading(sessionId: string): Promise<ActionResult> {
  const done = await attempt(async () => reopenReading(await requestDeps(), idSchema.parse(sessionId)));
  if (!done.ok) return done;
  redirect(`${path(sessionId)}/read`);
}

export async function closeIt(sessionId: string): Promise<ActionResult> {
  const done = await attempt(async () =>
    closeSession(await requestDeps(), await requestActor(), idSchema.parse(sessionId)),
  );
  if (!done.ok) return done;
  revalidatePath('/', 'layout');
  redirect(`/logbook/${sessionId}`);
}

export async function openItAgain(sessionId: string): Promise<ActionResult> {
  const done = await attempt(async () => undoClose(await requestDeps(), idSchema.parse(sessionId)));
  if (!done.ok) return done;
  revalidatePath('/', 'layout');
  redirect(path(sessionId));
}

const Bars = z.object({ acrossMm: barSchema.nullable(), alongMm: barSchema.nullable() });

/** Keeps what the check bars of the printed sheet measure. */
export async function keepBars(sessionId: string, bars: z.input<typeof Bars>): Promise<ActionResult> {
  const read = Bars.safeParse(bars);
  if (!read.success) {
    const issue = read.error.issues[0]!;
    return { ok: false, message: issue.message, fields: { [String(issue.path[0])]: issue.message } };
  }
  const done = await attempt(async () => saveBars(await requestDeps(), idSchema.parse(sessionId), read.data));
  if (done.ok) revalidatePath(path(sessionId), 'layout');
  return done;
}

const Which = z
  .array(z.object({ stationId: z.string().min(1).max(8), axis: z.enum(['across', 'along']) }))
  .min(1);

/** Leaves readings out of the fit, or counts them again. */
export async function decideOn(
  sessionId: string,
  which: z.input<typeof Which>,
  aside: boolean,
): Promise<ActionResult> {
  const done = await attempt(async () =>
    decideReadings(
      await requestDeps(),
      await requestActor(),
      idSchema.parse(sessionId),
      Which.parse(which),
      aside === true,
    ),
  );
  if (done.ok) revalidatePath(path(sessionId), 'layout');
  return done;
}
