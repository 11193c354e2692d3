import { toType } from '@/core/setup';
import { fixed, placesOfStep } from '@/core/units';
import type { UseCaseRefusal } from '@/server/base/deps';

import type { Setup, SetupSetting } from './setup';

/** What a setup’s machines have to show other than they do, in words; null when they show what it wants. */
export function otherThanWanted(setup: Setup): string | null {
  const wrong = toType(setup.settings);
  if (wrong.length === 0) return null;
  const list = (value: (s: SetupSetting) => number): string =>
    wrong.map((s) => `${s.name} ${fixed(value(s), placesOfStep(s.step))}`).join(' and ');
  return `The machine shows ${list((s) => s.value)}; ${setup.media} wants ${list((s) => s.wanted)}.`;
}

/** Nothing is started on a rig that is left at another medium’s figures. */
export function changeOverFirst(setup: Setup): UseCaseRefusal | null {
  const words = otherThanWanted(setup);
  if (words === null) return null;
  const wanted = Object.fromEntries(setup.settings.map((s) => [s.id, s.wanted]));
  return {
    code: 'refused',
    message: `${words} Change the rig over to it first.`,
    changeOver: { setupId: setup.id, wanted },
  };
}
