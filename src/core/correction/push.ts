import { LEAST_SIZE_MM } from '../tolerance';
import { rectLattice, type Rect } from '../geometry';
import { fieldAt } from '../fit';

import { afterSteps, stepRange, type MachineSetting } from './setting';

/*
 * The one-push test: a setting of which nobody knows which way it goes is changed by one easy amount, a set is cut, and the
 * cut tells. Until then nothing is typed into it.
 */

/** How far pushed settings shall move the cut at the worst place, mm: easily read, and each by another amount. */
const PUSHES_MM = [0.5, 0.8];
/** So many are told apart on one sheet. */
export const MOST_PUSHES = PUSHES_MM.length;

export interface Push {
  readonly settingId: string;
  readonly from: number;
  readonly to: number;
}

/** What to type into settings of unknown direction to learn it: round amounts, upwards where the range allows. */
export function pushesOf(
  unknown: readonly Pick<MachineSetting, 'id' | 'effect' | 'step' | 'value' | 'min' | 'max'>[],
  workArea: Rect,
): Push[] {
  return unknown.slice(0, MOST_PUSHES).flatMap((s, i) => {
    const setting: MachineSetting = { ...s, name: '' };
    const perOneMm = Math.max(
      ...rectLattice(workArea, 3, 3).map((p) => {
        const by = fieldAt(s.effect, p);
        return Math.hypot(by.x, by.y);
      }),
    );
    const { lowest, highest } = stepRange(setting);
    const wanted = Math.max(1, Math.round(PUSHES_MM[i]! / Math.max(LEAST_SIZE_MM, perOneMm * s.step)));
    const [up, down] = [Math.min(wanted, highest), Math.max(-wanted, lowest)];
    const steps = up >= -down ? up : down;
    return steps === 0 ? [] : [{ settingId: s.id, from: s.value, to: afterSteps(setting, steps) }];
  });
}
