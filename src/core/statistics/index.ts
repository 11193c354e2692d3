export {
  chiSquareQuantile,
  chiSquareUpper,
  coverageFactor,
  fQuantile,
  fUpper,
  normalCdf,
  normalQuantile,
  radialFactor,
  studentTwoSided,
} from './distributions';
export { Marginal } from './marginal';
export {
  legendreRule,
  radialProbability,
  radialQuantile,
  type Misregistration,
  type Precision,
} from './radialQuantile';
