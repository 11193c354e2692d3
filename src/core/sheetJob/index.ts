export {
  AS_LAID_OUT,
  CUT_ORDER,
  cuttingCautions,
  kindOf,
  kindsMet,
  LINE_ROLES,
  linesByRole,
  MOST_PASSES,
  passesOf,
  sequenceOf,
  type Cutting,
  type CutPass,
  type LineRole,
} from './cutting';
export { jobPrint, type JobLabel } from './jobPrint';
export { bleedArea, secondLine } from './lines';
export { jobDrawing } from './jobDrawing';
export { boxOf, LABEL, layOutJob, PAIR_VERSION, pairRefusalText, type PairRefusal } from './pair';
export {
  byRule,
  LINE_KINDS,
  type JobGeometry,
  type JobLayout,
  type JobPiece,
  type JobSheet,
  type LineKind,
  type Nudge,
  type PlacedPiece,
} from './job';
export { freeRooms } from './largest';
export { largestWidthMm, type Room } from './room';
export { nestJobOf, occupied, shapesOverlap, shownOf } from './nested';
export { findingsOnce, jobFindings, type PiecesSeen, type SheetFinding } from './jobFindings';
export { overlapsOn } from './overlaps';
export { insetCost, type InsetCost } from './insets';
export {
  forScaledPrint,
  markDistance,
  MOST_SCALED,
  printScaleOf,
  RULE_DOUBT_MM,
  type MarkDistance,
} from './markDistance';
export { WITNESS_LAYER } from '../layout/witnessStrip';
export { witnessSheet, witnessStation } from './witness';
