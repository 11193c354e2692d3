export { PROOF_VERSION, buildProofSheet, proofRefusalText, stationsThatFit } from './buildProofSheet';
export { cutScene } from './cutScene';
export { COMB_STEPS, STATION } from './layout';
export { combPoint, labelText, printScene, type SheetTitle } from './printScene';
export type { ProofRefusal, ProofSheet, ProofSpec, Station, StationSet } from './types';
