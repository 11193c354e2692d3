export { pointsWorth } from './curves';
export { CutLines } from './cutLines';
export { type LeftUncut, type NotCut } from './leftUncut';
export { flatten, piecesOf } from './flatten';
export { CHORD_MM, mapPath, mapPoints } from './mapDrawing';
export { measure, type Totals } from './totals';
export { arcPoint, segmentEnd, type Drawing, type DrawnPath, type Layer, type Segment } from './types';
