export { HPGL_UNIT_MM, readHpgl, type HpglRefusal } from './readHpgl';
export { writeHpgl } from './writeHpgl';
