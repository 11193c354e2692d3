import type { EffectDirection, SettingUnit } from '@/core/correction';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import type { Changeable, MachineWords } from '@/core/setup';

/** The same for a unit that comes from the log. */
export const unitWords = (unit: string): string =>
  unit in UNIT_WORDS ? UNIT_WORDS[unit as SettingUnit] : unit;

/** Where more of a setting takes the cut. */
export const DIRECTION_WORDS: Readonly<Record<EffectDirection, string>> = {
  right: 'right',
  left: 'left',
  further: 'further along',
  back: 'back',
  wider: 'wider',
  narrower: 'narrower',
  longer: 'longer',
  shorter: 'shorter',
  anticlockwise: 'anticlockwise',
  clockwise: 'clockwise',
};

/** What corrects a rig whose machines take no figures. */
export function noFiguresWords(changeable: Changeable): string {
  switch (changeable) {
    case 'machine-page':
      return 'The machine corrects itself by its own calibration page: run it, then prove it here.';
    case 'nothing':
      return 'Nothing can be changed on this rig: bleed and borders hide what it is off by.';
    default:
      return 'These machines take no figures: the cut files carry the correction.';
  }
}

/** How a figure is typed on its machine, in the machine’s own words; empty where nobody noted any. */
export const howToType = ({ there, state, keys, notFirst, after }: MachineWords): string[] => [
  ...(there ? [`There it is called “${there}”.`] : []),
  ...(state ? [`The machine has to be: ${state}.`] : []),
  ...(keys ? [`Keys: ${keys}.`] : []),
  ...(notFirst ? [`Do not press first: ${notFirst}.`] : []),
  ...(after ? [`Afterwards: ${after}.`] : []),
];
