export { HPGL_UNIT_MM } from './frame';
export { readHpgl } from './readHpgl';
export type { HpglRefusal } from './scan';
export { HPGL_CHORD_MM, writeHpgl } from './writeHpgl';
