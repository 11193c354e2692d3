export { codeMarks } from './codeMarks';
export { pointsWorth } from './curves';
export { CutLines } from './cutLines';
export {
  area,
  colourOf,
  disc,
  drawingOfPaths,
  INK_COLOURS,
  isPath,
  line,
  onPage,
  outline,
  ring,
  words,
  type Drawn,
  type Ink,
} from './ink';
export { type LeftUncut, type NotCut } from './leftUncut';
export { flatten, piecesOf } from './flatten';
export { CHORD_MM, mapPath, mapPoints } from './mapDrawing';
export {
  arcPoint,
  segmentEnd,
  type Drawing,
  type DrawnPath,
  type DrawnWords,
  type Layer,
  type PageDrawing,
  type Segment,
} from './model';
export { circleOf, measure, type Totals } from './totals';
