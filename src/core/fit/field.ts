import type { Affine, Point } from '../geometry';
import type { Misregistration } from '../statistics';

import type { AffineField } from './types';

/** d at p, mm. */
export function fieldAt(f: AffineField, p: Point): Point {
  const dx = p.x - f.origin.x;
  const dy = p.y - f.origin.y;
  return { x: f.b11 * dx + f.b12 * dy + f.exMm, y: f.b21 * dx + f.b22 * dy + f.eyMm };
}

/** T with T(p) = p + d(p). */
export function fieldToTransform(f: AffineField): Affine {
  return {
    a11: 1 + f.b11,
    a12: f.b12,
    a21: f.b21,
    a22: 1 + f.b22,
    tx: f.exMm - f.b11 * f.origin.x - f.b12 * f.origin.y,
    ty: f.eyMm - f.b21 * f.origin.x - f.b22 * f.origin.y,
  };
}

/** The same displacement, written about another origin. */
export function transformToField(t: Affine, origin: Point): AffineField {
  return {
    origin,
    b11: t.a11 - 1,
    b12: t.a12,
    b21: t.a21,
    b22: t.a22 - 1,
    exMm: (t.a11 - 1) * origin.x + t.a12 * origin.y + t.tx,
    eyMm: t.a21 * origin.x + (t.a22 - 1) * origin.y + t.ty,
  };
}

export const addFields = (f: AffineField, g: AffineField, weight = 1): AffineField => {
  const moved = transformToField(fieldToTransform(g), f.origin);
  return {
    origin: f.origin,
    b11: f.b11 + weight * moved.b11,
    b12: f.b12 + weight * moved.b12,
    b21: f.b21 + weight * moved.b21,
    b22: f.b22 + weight * moved.b22,
    exMm: f.exMm + weight * moved.exMm,
    eyMm: f.eyMm + weight * moved.eyMm,
  };
};

export const zeroField = (origin: Point): AffineField => ({
  origin,
  b11: 0,
  b12: 0,
  b21: 0,
  b22: 0,
  exMm: 0,
  eyMm: 0,
});

/** Mean and parameter covariance of the predicted offset at p; covariance 6 × 6 about the field's origin. */
export function fieldPrediction(
  f: AffineField,
  covariance: readonly (readonly number[])[],
  p: Point,
): Misregistration {
  const mean = fieldAt(f, p);
  const dx = p.x - f.origin.x;
  const dy = p.y - f.origin.y;
  const rowX = [dx, dy, 0, 0, 1, 0];
  const rowY = [0, 0, dx, dy, 0, 1];
  const form = (left: number[], right: number[]): number =>
    left.reduce((sum, l, i) => sum + l * right.reduce((s, r, j) => s + r * covariance[i]![j]!, 0), 0);
  return {
    meanX: mean.x,
    meanY: mean.y,
    varX: Math.max(0, form(rowX, rowX)),
    varY: Math.max(0, form(rowY, rowY)),
    covXY: form(rowX, rowY),
  };
}
