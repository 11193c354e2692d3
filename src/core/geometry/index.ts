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
export {
  affineAsHomography,
  applyHomography,
  invertHomography,
  keepsSense,
  tangentAt,
  type Homography,
} from './homography';
export { affineMap, invertMap, mapPoint, type PlaneMap } from './planeMap';
export { operatorDirection, sideAtMachine, type Loaded } from './operatorView';
export { placeName, rectCentre, rectHeight, rectLattice, rectWidth, sameRect, type Rect } from './rect';
