import type { SettingUnit } from '@/core/correction';

/** A machine's unit as it is written beside its figure. */
export const UNIT_WORDS: Readonly<Record<SettingUnit, string>> = {
  mm: 'mm',
  in: 'in',
  percent: '%',
  permille: '‰',
  'mm-per-m': 'mm/m',
  degree: '°',
};

/** The same for a unit that comes from the log. */
export const unitWords = (unit: string): string =>
  unit in UNIT_WORDS ? UNIT_WORDS[unit as SettingUnit] : unit;
