export {
  CORRECTION_VERSION,
  correctionMap,
  largestMm,
  planCorrection,
  type CorrectionPlan,
} from './planCorrection';
export { misregistrationAt, worstR95, type RigPrediction, type WorstPlace } from './prediction';
export { offsetEffect, type EffectDirection, type MachineSetting } from './setting';
export { meanSquareMm2, solveSettings, type SettingChange, type SettingsSolution } from './solveSettings';
