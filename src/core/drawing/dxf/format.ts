import { FILE_RESOLUTION_MM } from '../../tolerance';
import type { CutFileFormat } from '../format';

import { readDxf, type DxfRefusal } from './readDxf';
import { DXF_CHORD_MM, writeDxf } from './writeDxf';
import { DXF_FACTS } from './facts';

export const DXF: CutFileFormat<'dxf', DxfRefusal> = {
  ...DXF_FACTS,
  // A group code and its value, or a comment (999) before them.
  begins: (head) => /^\s*(0|999)\s*[\r\n]/.test(head),
  resolutionMm: FILE_RESOLUTION_MM,
  chordMm: DXF_CHORD_MM,
  elementsALayer: 0,
  read: (text, notes, { onProgress, cutAll }) => readDxf(text, notes, onProgress, new Set(cutAll)),
  write: (drawing, _, notes) => writeDxf(drawing, notes),
  moveInPlace: null,
};
