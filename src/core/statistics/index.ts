export {
  chiSquareUpper,
  coverageFactor,
  fUpper,
  normalCdf,
  normalQuantile,
  studentTwoSided,
} from './distributions';
export {
  legendreRule,
  radialProbability,
  radialQuantile,
  type Misregistration,
  type Precision,
} from './radialQuantile';
