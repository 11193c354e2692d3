'use server';

import { action, everyPage } from '@/features/forms/action';
import { archiveSetup } from '@/server/setups/archiveSetup';
import { takeBackStanding } from '@/server/setups/standing';
import { changeSetup } from '@/server/setups/writeSetup';

export const saveSetup = action(changeSetup, () => {
  everyPage();
  return { goTo: null };
});
export const setArchived = action(archiveSetup, everyPage);
/** An earlier standing correction stands again. */
export const letStandAgain = action(takeBackStanding, everyPage);
