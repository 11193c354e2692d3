'use server';

import { action, goTo } from '@/features/forms/action';
import { registerAgain } from '@/server/sessions/applyCorrection';
import { closeAccepting, closeSession, discardSession, undoClose } from '@/server/sessions/closeSession';
import { goRoundAgain, reopenReading } from '@/server/sessions/finishReading';
import { markPrinted } from '@/server/sessions/printSheet';
import { widenSheet } from '@/server/sessions/shortSheet';
import { takeDirections } from '@/server/sessions/signs';

import { sessionPath } from './sessionPath';

/* Steps of a session that need nothing but who, when and which; each leads to another page. */

const to = (page: string) => (_: unknown, sessionId: string) => goTo(`${sessionPath(sessionId)}${page}`);
const toLog = (_: unknown, sessionId: string) => goTo(`/logbook/${sessionId}`);

export const sheetIsCut = action(markPrinted, to('/read'));
export const roundAgain = action(goRoundAgain, to('/correct'));
/** Set B is cut on the same load with nothing changed. */
export const registerOnceMore = action(registerAgain, to('/prove'));
export const backToReading = action(reopenReading, to('/read'));
/** Declares the settings of a rig as the proof saw them act. */
export const declareDirections = action(takeDirections, to('/prove'));
export const closeIt = action(closeSession, toLog);
export const closeAndAccept = action(closeAccepting, toLog);
export const discardIt = action(discardSession, toLog);
export const openItAgain = action(undoClose, to(''));
/** Another sheet that tells every term, in the same session. */
export const widenIt = action(widenSheet, to('/print'));
