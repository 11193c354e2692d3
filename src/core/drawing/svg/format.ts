import { drawingOfPaths } from '../ink';
import { affineMap, IDENTITY } from '../../geometry';
import { accept } from '../../outcome';
import { FILE_RESOLUTION_MM } from '../../tolerance';
import type { CutFileFormat, MoveInPlace } from '../format';

import { correctSvg } from './correctSvg';
import type { SvgRefusal } from './elements';
import { SVG_FACTS } from './facts';
import { writeSvg } from './writeSvg';

const moveInPlace: MoveInPlace<SvgRefusal> = (text, transform, notes, { onProgress }) => {
  const done = correctSvg(text, transform, notes, onProgress ?? (() => undefined));
  if (!done.ok) return done;
  const { svg, paths, leftUncut, page } = done.value;
  return accept({ content: svg, drawing: { ...drawingOfPaths(paths), leftUncut, page } });
};

export const SVG: CutFileFormat<'svg', SvgRefusal> = {
  ...SVG_FACTS,
  begins: (head) => /^\s*</.test(head),
  resolutionMm: FILE_RESOLUTION_MM,
  chordMm: null,
  elementsALayer: 2,
  read: (text, notes, options) => {
    const done = moveInPlace(text, affineMap(IDENTITY), notes, options);
    return done.ok ? accept(done.value.drawing) : done;
  },
  write: writeSvg,
  moveInPlace,
};
