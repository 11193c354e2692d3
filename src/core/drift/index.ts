export { compressNodes } from './compress';
export { DRIFT_VERSION, estimateDrift, READINGS_OF_A_RECORD, type DriftEstimate } from './estimate';
export { driftNodes } from './nodes';
export {
  expectAhead,
  possibleSlip,
  slipInRun,
  START_SD_MM,
  type Expected,
  type PossibleSlip,
  type SlipNow,
} from './follow';
export { RUN_START_FROM, startOfRuns, type RunStart } from './runStart';
export { type MarkWay, type PlaceOnPiece } from './miss';
export {
  FOLLOW_VERSION,
  sectionOutlook,
  type AxisOutlook,
  type FollowedAxis,
  type SectionAhead,
  type SectionOutlook,
} from './outlook';
export { Predictor, type DriftKnowledge, type Outline } from './predict';
export { DRIFT_PRIORS, MEDIA_CLASSES, type DriftPrior, type MediaClass } from './priors';
export {
  correctedFeed,
  creepFromTapes,
  isReal,
  lengthError,
  type LengthError,
  type TapeLength,
} from './tape';
export { estimateWithSlips, type DriftWithSlips } from './slips';
export type { DriftNode, DriftNoise, DriftReading, DriftRun, Interval, SlipFound } from './types';
