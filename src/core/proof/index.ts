export {
  PROOF_VERSION,
  buildProofSheet,
  layoutAreaOf,
  loneStation,
  loneStationReach,
  proofRefusalText,
  stationsThatFit,
} from './buildProofSheet';
export { cutLayer, stationCuts } from './cutLayer';
export { COMB_STEPS, STATION } from './layout';
export { barLengthsMm } from './bars';
export { type GapShape } from './gapShape';
export {
  RING,
  RING_STEPS,
  ringChoice,
  ringHole,
  ringLabelMm,
  ringPlace,
  ringsOf,
  type RingChoice,
  type RingRowDrawn,
} from './rings';
export {
  combPoint,
  labelText,
  ORIENTATION_WORDS,
  printLayer,
  stationPrint,
  type SheetTitle,
} from './printLayer';
export {
  READ_BY,
  type ProofRefusal,
  type ProofSheet,
  type ProofSpec,
  type ReadBy,
  type Station,
  type StationSet,
} from './types';
