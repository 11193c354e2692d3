export {
  chiSquareUpper,
  coverageFactor,
  fUpper,
  normalCdf,
  normalQuantile,
  radialFactor,
  studentTwoSided,
} from './distributions';
export { chiSquareQuantile, fQuantile } from './quantiles';
export { Marginal } from './marginal';
export {
  legendreRule,
  radialProbability,
  radialQuantile,
  type Misregistration,
  type Precision,
} from './radialQuantile';
