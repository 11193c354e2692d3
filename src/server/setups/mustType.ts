import { toType } from '@/core/setup';
import { fixed, placesOfStep } from '@/core/units';
import type { UseCaseRefusal } from '@/server/base/deps';

import type { Setup } from './setup';

/** What a setup’s machines have to show other than they do, in words; null when they show what it wants. */
export function otherThanWanted(setup: Setup): string | null {
  const wrong = toType(setup.settings);
  if (wrong.length === 0) return null;
  const list = wrong.map((s) => {
    const figure = (value: number): string => fixed(value, placesOfStep(s.step));
    return `${s.name} ${figure(s.value)} instead of ${figure(s.wanted)}`;
  });
  return `The machine shows ${list.join(' and ')}, which ${setup.media} wants.`;
}

/** Nothing is started on a rig that is left at another medium’s figures. */
export function changeOverFirst(setup: Setup): UseCaseRefusal | null {
  const words = otherThanWanted(setup);
  return words === null ? null : { code: 'refused', message: `${words} Change the rig over to it first.` };
}
