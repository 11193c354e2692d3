import { applyAffine, invertAffine, type Affine, type Point } from './affine';
import { applyHomography, invertHomography, type Homography } from './homography';

/** A map of the plane that a cut file can be taken through. */
export type PlaneMap =
  ({ readonly kind: 'affine' } & Affine) | ({ readonly kind: 'projective' } & Homography);

export const affineMap = (m: Affine): PlaneMap => ({ kind: 'affine', ...m });

/** p ↦ T(p), mm. */
export const mapPoint = (map: PlaneMap, p: Point): Point =>
  map.kind === 'affine' ? applyAffine(map, p) : applyHomography(map, p);

/** K = T⁻¹, exactly; throws RangeError on a map that cannot be inverted (a caller's bug). */
export const invertMap = (map: PlaneMap): PlaneMap =>
  map.kind === 'affine'
    ? { kind: 'affine', ...invertAffine(map) }
    : { kind: 'projective', ...invertHomography(map) };
