export { composeTerms, decompose, type LinearTerms } from './decompose';
export { addFields, fieldAt, fieldPrediction, fieldToTransform, transformToField, zeroField } from './field';
export {
  conclusions,
  FIT_VERSION,
  fitLadder,
  fitModels,
  fitOf,
  fTest,
  suspectReadings,
  widestFit,
  type FittedModels,
} from './fitLadder';
export { fitModel } from './fitModel';
export { leastSquares, type LeastSquares } from './leastSquares';
export { intervalDof, noiseUsed, noiseWithRecord, type EyeOnRecord } from './noise';
export { predictOffset, type PredictedOffset } from './predictOffset';
export { externallyStudentised } from './studentise';
export { robustFit } from './robustFit';
export { shrinkForCorrection, type ShrunkFit } from './shrink';
export { leverMm, termTable, type TermsTold, type TermRow } from './termTable';
export {
  MODELS,
  ROLL_MODEL,
  TERM_NAMES,
  type AffineField,
  type FieldEstimate,
  type FitRefusal,
  type FittedModel,
  type LadderFit,
  type ModelFit,
  type ModelName,
  type ModelOutcome,
  type NestedF,
  type Observation,
  type SuspectReading,
  type TermName,
  type Terms,
} from './types';
export { termsOfField } from './describe';
