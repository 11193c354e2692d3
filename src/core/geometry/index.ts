export {
  IDENTITY,
  applyAffine,
  compose,
  determinant,
  invertAffine,
  largestStretch,
  scaling,
  translation,
  type Affine,
  type Point,
} from './affine';
export { placeName, rectCentre, rectHeight, rectLattice, rectWidth, type Rect } from './rect';
