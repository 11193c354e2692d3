'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';

import { action, everyPage } from '@/features/forms/action';
import { sessionPath } from '@/features/forms/acts/sessionPath';
import { saveStripWitness } from '@/server/runs/witnessStrip';
import { applyCorrection } from '@/server/sessions/applyCorrection';
import { decideReadings, finishReading, saveBars } from '@/server/sessions/finishReading';
import { clearLength, saveLength } from '@/server/sessions/lengths';
import { saveOther } from '@/server/sessions/otherReadings';
import { changeSessionSheet } from '@/server/sessions/printSheet';
import { keepLook, takeBackLook } from '@/server/sessions/readAgain';
import { clearReading, saveReading } from '@/server/sessions/readings';
import { sayDirection } from '@/server/sessions/signs';
import { answerShort, typeShort } from '@/server/sessions/shortSheet';

/* What is kept of a session while it is printed, read and corrected. */

const ofSession = (_: unknown, { sessionId }: { readonly sessionId: string }): null => {
  revalidatePath(sessionPath(sessionId), 'layout');
  return null;
};
const everySession = <T>(value: T): T => {
  revalidatePath('/calibrate', 'layout');
  return value;
};

export const layOutSheet = action(changeSessionSheet, ofSession);
export const keepBars = action(saveBars, ofSession);
export const decideOn = action(decideReadings, ofSession);

// A page that reads shows what is kept by itself.
export const keepReading = action(saveReading);
export const takeBackReading = action(clearReading);
export const keepOther = action(saveOther);
export const keepLength = action(saveLength);
export const takeBackLength = action(clearLength);

export const keepWitness = action(saveStripWitness, everyPage);
export const keepAgain = action(keepLook, everySession);
export const takeBackAgain = action(takeBackLook, everySession);

export const readingIsDone = action(finishReading, ({ stage, setupId }, sessionId) =>
  redirect(stage === 'closed' ? `/setups/${setupId}/roll` : `${sessionPath(sessionId)}/${stage}`),
);
export const correctionIsDone = action(applyCorrection, ({ needsNewSheet }, { sessionId }) =>
  redirect(`${sessionPath(sessionId)}/${needsNewSheet ? 'print' : 'prove'}`),
);

export const wayIsSaid = action(sayDirection, ofSession);

/** Both picks of a short sheet, and what is done with them. */
export const shortIsTyped = action(typeShort, ({ needsNewSheet }, { sessionId, how }) =>
  redirect(
    how === 'leave'
      ? `/logbook/${sessionId}`
      : `${sessionPath(sessionId)}/${how === 'see' ? 'correct' : needsNewSheet ? 'print' : 'prove'}`,
  ),
);
export const shortIsAnswered = action(answerShort, (_, { sessionId }) =>
  redirect(`${sessionPath(sessionId)}/prove`),
);
