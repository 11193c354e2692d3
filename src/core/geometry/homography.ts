import { determinant, type Affine, type Point } from './affine';

/**
 * The projective map p ↦ ((h11·x + h12·y + h13)/w, (h21·x + h22·y + h23)/w), w = h31·x + h32·y + 1.
 *
 * Units    mm in, mm out; h13 and h23 in mm, h31 and h32 per mm.
 */
export interface Homography {
  readonly h11: number;
  readonly h12: number;
  readonly h13: number;
  readonly h21: number;
  readonly h22: number;
  readonly h23: number;
  readonly h31: number;
  readonly h32: number;
}

export const applyHomography = (h: Homography, p: Point): Point => {
  const w = h.h31 * p.x + h.h32 * p.y + 1;
  return {
    x: (h.h11 * p.x + h.h12 * p.y + h.h13) / w,
    y: (h.h21 * p.x + h.h22 * p.y + h.h23) / w,
  };
};

/** The exact inverse map, by cofactors; throws RangeError when the origin's image is at infinity or the map folds. */
export function invertHomography(h: Homography): Homography {
  const scale = h.h11 * h.h22 - h.h12 * h.h21;
  if (!Number.isFinite(scale) || scale === 0) throw new RangeError('invertHomography: it cannot be inverted');
  return {
    h11: (h.h22 - h.h23 * h.h32) / scale,
    h12: (h.h13 * h.h32 - h.h12) / scale,
    h13: (h.h12 * h.h23 - h.h13 * h.h22) / scale,
    h21: (h.h23 * h.h31 - h.h21) / scale,
    h22: (h.h11 - h.h13 * h.h31) / scale,
    h23: (h.h13 * h.h21 - h.h11 * h.h23) / scale,
    h31: (h.h21 * h.h32 - h.h22 * h.h31) / scale,
    h32: (h.h12 * h.h31 - h.h11 * h.h32) / scale,
  };
}

export const affineAsHomography = (m: Affine): Homography => ({
  h11: m.a11,
  h12: m.a12,
  h13: m.tx,
  h21: m.a21,
  h22: m.a22,
  h23: m.ty,
  h31: 0,
  h32: 0,
});

/** The affine map that agrees with h at p in value and slope. */
export function tangentAt(h: Homography, p: Point): Affine {
  const w = h.h31 * p.x + h.h32 * p.y + 1;
  const z = applyHomography(h, p);
  const a11 = (h.h11 - z.x * h.h31) / w;
  const a12 = (h.h12 - z.x * h.h32) / w;
  const a21 = (h.h21 - z.y * h.h31) / w;
  const a22 = (h.h22 - z.y * h.h32) / w;
  return { a11, a12, a21, a22, tx: z.x - a11 * p.x - a12 * p.y, ty: z.y - a21 * p.x - a22 * p.y };
}

/** Whether the map keeps its sense of rotation and stays away from its horizon over all four corners. */
export const keepsSense = (h: Homography, corners: readonly Point[]): boolean =>
  corners.every((p) => h.h31 * p.x + h.h32 * p.y + 1 > 0 && determinant(tangentAt(h, p)) > 0);
