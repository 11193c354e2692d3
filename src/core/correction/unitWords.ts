import type { SettingUnit } from './setting';

/** A machine's unit as it is written beside its figure. */
export const UNIT_WORDS: Readonly<Record<SettingUnit, string>> = {
  mm: 'mm',
  in: 'in',
  percent: '%',
  permille: '‰',
  'mm-per-m': 'mm/m',
  degree: '°',
};
