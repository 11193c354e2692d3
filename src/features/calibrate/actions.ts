'use server';

import { CORRECTION_WAYS } from '@/core/setup';
import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';
import { z } from 'zod';

import { accept } from '@/core/outcome';
import { acting, actingForAll } from '@/features/forms/actionResult';
import type { ActionResult, BrowserStamp } from '@/features/forms/keeping';
import { sessionPath } from '@/features/pieces/sessionPath';
import { idSchema } from '@/server/base/shapes';
import { applyCorrection } from '@/server/sessions/applyCorrection';
import { decideReadings, finishReading, saveBars } from '@/server/sessions/finishReading';
import { clearLength, saveLength } from '@/server/sessions/lengths';
import {
  saveEven,
  saveGaps,
  saveOwnGaps,
  saveRing,
  saveTable,
  type OthersKept,
} from '@/server/sessions/otherReadings';
import { changeSessionSheet } from '@/server/sessions/printSheet';
import { type Changed, clearReading, combSchema, saveReading } from '@/server/sessions/readings';
import { saveStripWitness } from '@/server/runs/witnessStrip';
import { keepLook, takeBackLook } from '@/server/sessions/readAgain';
import { barSchema, sheetOptionsSchema } from '@/server/sessions/shapes';

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
  if (done.ok) revalidatePath(sessionPath(sessionId), 'layout');
  return done;
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

/** Keeps gaps round a shape as a reading of their own. */
export async function keepGaps(input: unknown, stamp: BrowserStamp): Promise<ActionResult<OthersKept>> {
  return acting(
    'keep gaps',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => saveGaps(deps, actor, given, request),
    stamp,
  );
}

/** Keeps gaps round a station's own shape. */
export async function keepOwnGaps(input: unknown, stamp: BrowserStamp): Promise<ActionResult<OthersKept>> {
  return acting(
    'keep own gaps',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => saveOwnGaps(deps, actor, given, request),
    stamp,
  );
}

/** Keeps that every ring is even all round. */
export async function keepEven(passId: string, stamp: BrowserStamp): Promise<ActionResult<OthersKept>> {
  return acting(
    'keep even',
    idSchema,
    passId,
    (deps, actor, given, { request }) => saveEven(deps, actor, given, request),
    stamp,
  );
}

/** Keeps the even ring of a row. */
export async function keepRing(input: unknown, stamp: BrowserStamp): Promise<ActionResult<OthersKept>> {
  return acting(
    'keep ring',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => saveRing(deps, actor, given, request),
    stamp,
  );
}

/** Keeps a pasted table of readings. */
export async function keepTable(input: unknown, stamp: BrowserStamp): Promise<ActionResult<OthersKept>> {
  return acting(
    'keep table',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => saveTable(deps, actor, given, request),
    stamp,
  );
}

/** Keeps a long length between two stations. */
export async function keepLength(input: unknown, stamp: BrowserStamp): Promise<ActionResult<Changed>> {
  return acting(
    'keep length',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => saveLength(deps, actor, given, request),
    stamp,
  );
}

const LengthBack = z.object({ passId: idSchema, lengthId: idSchema });

export async function takeBackLength(
  input: z.input<typeof LengthBack>,
  stamp: BrowserStamp,
): Promise<ActionResult<Changed>> {
  return acting(
    'take length back',
    LengthBack,
    input,
    (deps, actor, given, { request }) => clearLength(deps, actor, given, request),
    stamp,
  );
}

/** Keeps a witness of a run's section as a check of its row. */
export async function keepWitness(input: unknown, stamp: BrowserStamp): Promise<ActionResult> {
  return actingForAll(
    'read witness',
    z.unknown(),
    input,
    (deps, actor, given, stamped) => saveStripWitness(deps, actor, given, stamped),
    stamp,
  );
}

/** Keeps a look at a comb that is read again. */
export async function keepAgain(
  input: unknown,
  stamp: BrowserStamp,
): Promise<ActionResult<{ readonly round: number }>> {
  const done = await acting(
    'read again',
    z.unknown(),
    input,
    (deps, actor, given, { request }) => keepLook(deps, actor, given, request),
    stamp,
  );
  if (done.ok) revalidatePath('/calibrate', 'layout');
  return done;
}

/** Takes the newest look of whoever asks back. */
export async function takeBackAgain(
  passId: string,
  stamp: BrowserStamp,
): Promise<ActionResult<{ readonly taken: string }>> {
  const done = await acting(
    'take look back',
    idSchema,
    passId,
    (deps, actor, given, { request }) => takeBackLook(deps, actor, given, request),
    stamp,
  );
  if (done.ok) revalidatePath('/calibrate', 'layout');
  return done;
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
  const { stage, setupId } = done.value;
  redirect(stage === 'closed' ? `/setups/${setupId}/roll` : `${sessionPath(sessionId)}/${stage}`);
}

const Way = z.enum(CORRECTION_WAYS, 'Choose what carries the correction: the settings, the file, or both.');

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
  redirect(`${sessionPath(sessionId)}/${done.value.needsNewSheet ? 'print' : 'prove'}`);
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
  if (done.ok) revalidatePath(sessionPath(sessionId), 'layout');
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
  if (done.ok) revalidatePath(sessionPath(input.sessionId), 'layout');
  return done;
}
