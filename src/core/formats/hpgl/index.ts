export { HPGL_UNIT_MM, readHpgl, type HpglRefusal } from './readHpgl';
export { HPGL_CHORD_MM, writeHpgl } from './writeHpgl';
