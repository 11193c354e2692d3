import type { SettingUnit } from '@/core/correction';
import { UNIT_WORDS } from '@/core/correction/unitWords';
import type { MachineWords } from '@/core/setup';

/** The same for a unit that comes from the log. */
export const unitWords = (unit: string): string =>
  unit in UNIT_WORDS ? UNIT_WORDS[unit as SettingUnit] : unit;

/** How a figure is typed on its machine, in the machine’s own words; empty where nobody noted any. */
export const howToType = ({ there, state, keys, notFirst, after }: MachineWords): string[] => [
  ...(there ? [`There it is called “${there}”.`] : []),
  ...(state ? [`The machine has to be: ${state}.`] : []),
  ...(keys ? [`Keys: ${keys}.`] : []),
  ...(notFirst ? [`Do not press first: ${notFirst}.`] : []),
  ...(after ? [`Afterwards: ${after}.`] : []),
];
