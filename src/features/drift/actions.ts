'use server';

import { revalidatePath } from 'next/cache';
import { redirect } from 'next/navigation';

import { action } from '@/features/forms/action';
import { saveTape, saveTwoMarks, setFeed } from '@/server/drift/measure';
import { startRollProof } from '@/server/sessions/startSession';

const ofRoll = (_: unknown, { setupId }: { readonly setupId: string }): null => {
  revalidatePath(`/setups/${setupId}/roll`);
  return null;
};

export const keepTwoMarks = action(saveTwoMarks, ofRoll);
export const keepTape = action(saveTape, ofRoll);
export const feedIsTyped = action(setFeed, ofRoll);
/** Lays out a long strip for the rig, and goes there. */
export const startStrip = action(startRollProof, ({ sessionId }) => redirect(`/calibrate/${sessionId}`));
