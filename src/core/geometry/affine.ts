/** A point or displacement, mm unless said otherwise. Sheet frame: x right, y along the feed. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/**
 * The map p ↦ A·p + t.
 *
 * Shapes   A = [[a11, a12], [a21, a22]], t = (tx, ty).
 * Units    mm in, mm out.
 */
export interface Affine {
  readonly a11: number;
  readonly a12: number;
  readonly a21: number;
  readonly a22: number;
  readonly tx: number;
  readonly ty: number;
}

export const IDENTITY: Affine = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 0, ty: 0 };

export const applyAffine = (m: Affine, p: Point): Point => ({
  x: m.a11 * p.x + m.a12 * p.y + m.tx,
  y: m.a21 * p.x + m.a22 * p.y + m.ty,
});

export const determinant = (m: Affine): number => m.a11 * m.a22 - m.a12 * m.a21;

/** outer ∘ inner: `inner` is applied first. */
export const compose = (outer: Affine, inner: Affine): Affine => ({
  a11: outer.a11 * inner.a11 + outer.a12 * inner.a21,
  a12: outer.a11 * inner.a12 + outer.a12 * inner.a22,
  a21: outer.a21 * inner.a11 + outer.a22 * inner.a21,
  a22: outer.a21 * inner.a12 + outer.a22 * inner.a22,
  tx: outer.a11 * inner.tx + outer.a12 * inner.ty + outer.tx,
  ty: outer.a21 * inner.tx + outer.a22 * inner.ty + outer.ty,
});

/** The inverse map; throws RangeError on a map that folds the plane onto a line (a caller's bug). */
export function invertAffine(m: Affine): Affine {
  const det = determinant(m);
  if (!Number.isFinite(det) || det === 0) throw new RangeError(`invertAffine: determinant is ${det}`);
  const a11 = m.a22 / det;
  const a12 = -m.a12 / det;
  const a21 = -m.a21 / det;
  const a22 = m.a11 / det;
  return {
    a11,
    a12,
    a21,
    a22,
    tx: -(a11 * m.tx + a12 * m.ty),
    ty: -(a21 * m.tx + a22 * m.ty),
  };
}

export const translation = (tx: number, ty: number): Affine => ({ ...IDENTITY, tx, ty });

export const scaling = (sx: number, sy: number): Affine => ({ ...IDENTITY, a11: sx, a22: sy });

/** Largest stretch of lengths by the linear part (its larger singular value). */
export function largestStretch(m: Affine): number {
  const sum = m.a11 ** 2 + m.a12 ** 2 + m.a21 ** 2 + m.a22 ** 2;
  const det = determinant(m);
  return Math.sqrt((sum + Math.sqrt(Math.max(0, sum ** 2 - 4 * det ** 2))) / 2);
}
