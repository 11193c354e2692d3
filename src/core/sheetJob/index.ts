export { jobDrawing } from './jobDrawing';
export {
  bleedArea,
  boxOf,
  jobScene,
  LABEL,
  layOutJob,
  LINE_KINDS,
  PAIR_VERSION,
  pairRefusalText,
  type JobGeometry,
  type JobLabel,
  type JobLayout,
  type JobPiece,
  type JobSheet,
  type LineKind,
  type PairRefusal,
  type PlacedPiece,
} from './pair';
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
