import type { CutFileFormat } from '../format';

import { HPGL_UNIT_MM } from './frame';
import { readHpgl } from './readHpgl';
import type { HpglRefusal } from './scan';
import { HPGL_CHORD_MM, writeHpgl } from './writeHpgl';
import { HPGL_FACTS } from './facts';

export const HPGL: CutFileFormat<'hpgl', HpglRefusal> = {
  ...HPGL_FACTS,
  begins: (head) =>
    /^[\s;\u0003]*(\u001b|(IN|DF|PU|PD|PA|PR|SP|IP|SC|CI|AA|AR|EA|ER|VS|FS|LB|CO)[\s\d;,.+-]|(IN|PU|PD)[A-Z])/i.test(
      head,
    ),
  resolutionMm: HPGL_UNIT_MM,
  chordMm: HPGL_CHORD_MM,
  elementsALayer: 0,
  read: (text, notes, { onProgress }) => readHpgl(text, notes, onProgress),
  write: (drawing, _, notes) => writeHpgl(drawing, notes),
  moveInPlace: null,
};
