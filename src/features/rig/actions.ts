'use server';

import { action, everyPage } from '@/features/forms/action';
import { saveCutter, saveMat, saveTool } from '@/server/rigs/equipment';
import { makeOneRig } from '@/server/rigs/sameMachines';
import { addRig, changeRig } from '@/server/rigs/writeRig';
import { archiveSetup } from '@/server/setups/archiveSetup';
import { recordEvent } from '@/server/setups/history';
import { addSetup } from '@/server/setups/writeSetup';
import { setPolicy } from '@/server/watch/setPolicy';

const shownOn = (goTo: string | null) => {
  everyPage();
  return { goTo };
};

/** Adds a rig with its first setup, and goes back to the bench. */
export const saveNewRig = action(addRig, ({ setupId }) => ({ ...shownOn('/'), setupId }));
export const saveRig = action(changeRig, () => shownOn(null));
/** Another medium or size on a rig. */
export const saveAnother = action(addSetup, ({ setupId }) => shownOn(`/setups/${setupId}`));

/** Puts a setup that was taken off the bench back on it. */
export const putBack = action(archiveSetup, everyPage);
export const noteEvent = action(recordEvent, everyPage);
/** When a rig asks to be checked. */
export const savePolicy = action(setPolicy, everyPage);
/** Two rigs that are the same machines become one. */
export const putTogether = action(makeOneRig, everyPage);

export const keepTool = action(saveTool, everyPage);
export const keepMat = action(saveMat, everyPage);
/** What is done when the cutter is switched on. */
export const keepCutter = action(saveCutter, everyPage);
