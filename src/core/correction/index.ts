export { uncertaintyBudget, type BudgetLine, type UncertaintyBudget } from './budget';
export {
  CORRECTION_VERSION,
  correctionMap,
  largestMm,
  planCorrection,
  type ToldByLog,
  type CorrectionPlan,
} from './planCorrection';
export { expectedAfter, poolFits, type Expected, type Pooling } from './pool';
export { effectUOf, provedEffects, type ChangeOnRecord, type ProvedEffect } from './provedEffects';
export { registrationScatter, type RegisteredTwice, type RegistrationScatter } from './registerAgain';
export { scatterOfLoads, type LoadOnRecord, type ToldScatter } from './loadScatter';
export { bleedCurve, bleedFor, shareHidden, type BleedPoint } from './bleedCurve';
export {
  bleedNeeded,
  misregistrationAt,
  NEXT_LOADS_BY_LOG,
  shiftScatter,
  worstR95,
  type LoadScatter,
  type ScatterShares,
  type RigPrediction,
  type WorstPlace,
} from './prediction';
export {
  declaredEffect,
  DECLARED_EFFECT_U,
  DIRECTIONS_OF_KIND,
  EFFECT_DIRECTIONS,
  oppositeOf,
  SETTING_KINDS,
  SETTING_UNITS,
  UNITS_OF_KIND,
  type DeclaredEffect,
  type EffectDirection,
  type MachineSetting,
  type SettingKind,
  type SettingUnit,
} from './setting';
export { MOST_PUSHES, pushesOf, type Push } from './push';
export {
  contradictions,
  DONE_INSTEAD,
  pushed,
  trueDirection,
  type Contradiction,
  type DoneInstead,
  type Pushed,
} from './signs';
export {
  areaVector,
  effectCovariance,
  meanSquareMm2,
  solveSettings,
  type SettingChange,
  type SettingsSolution,
} from './solveSettings';
