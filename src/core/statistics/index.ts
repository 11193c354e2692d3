export {
  chiSquareUpper,
  coverageFactor,
  fUpper,
  normalCdf,
  normalQuantile,
  studentTwoSided,
} from './distributions';
export {
  LEGENDRE,
  radialProbability,
  radialQuantile,
  type Misregistration,
  type Precision,
} from './radialQuantile';
