import { inverse, Matrix } from 'ml-matrix';

import { addFields, fieldToTransform, transformToField, type AffineField, type FieldEstimate } from '../fit';
import { compose, invertAffine, type Affine } from '../geometry';
import { chiSquareUpper } from '../statistics';

import { effectVector } from './provedEffects';
import { effectCovariance } from './solveSettings';

/** What an earlier set of the same load leads to expect of this one: its field after what was changed, and its doubt. */
export interface Expected {
  readonly field: AffineField;
  /** 6 × 6, of the field’s coefficients; the doubt of what was typed included. */
  readonly covariance: readonly (readonly number[])[];
  /** What each setting that was typed does, of the same coefficients: where a wrong direction would show. */
  readonly typed: readonly (readonly number[])[];
}

/** Whether an earlier set went into the figures. */
export type Pooling = 'alone' | 'joined' | 'disagrees';

/** Sets that differ by more than happens once in a hundred times are not joined: something else changed too. */
const AGREE_LEVEL = 0.01;
/** … nor sets that differ by so many deviations along what one setting does: it may have done something else. */
const AGREE_ALONG = 3;
const COEFFICIENTS = 6;

/**
 * Joins what was read with what an earlier set of the same load leads to expect, both about one place.
 *
 * Method   generalised least squares of two estimates of one vector, C = (C₁⁻¹ + C₂⁻¹)⁻¹, when they agree by χ² of their
 *          difference, and along what each setting that was typed does (Rao 1973, 4a; from memory). The scatter of the load is in both and is no part of C.
 */
export function poolFits(
  fit: FieldEstimate,
  expected: Expected | null,
): { readonly fit: FieldEstimate; readonly pooling: Pooling } {
  // Narrower models take terms to be nought that nobody looked at.
  if (!expected || (fit.model !== 'affine' && fit.model !== 'projective')) return { fit, pooling: 'alone' };
  const own = new Matrix(fit.covarianceKnownU.map((row) => row.map((v) => v * fit.noise.factor ** 2)));
  const other = new Matrix(expected.covariance.map((row) => [...row]));
  const difference = Matrix.sub(vectorOf(fit.field), vectorOf(expected.field));
  const precision = inverse(Matrix.add(own, other));
  const between = (a: Matrix, b: Matrix): number => a.transpose().mmul(precision).mmul(b).get(0, 0);
  const astray = expected.typed.some((does) => {
    const way = Matrix.columnVector([...does]);
    return Math.abs(between(way, difference)) > AGREE_ALONG * Math.sqrt(between(way, way));
  });
  if (astray || chiSquareUpper(between(difference, difference), COEFFICIENTS) < AGREE_LEVEL)
    return { fit, pooling: 'disagrees' };
  // x₁ + C₁(C₁ + C₂)⁻¹(x₂ − x₁): the same, with one inverse.
  const gain = own.mmul(precision);
  const joined = Matrix.sub(vectorOf(fit.field), gain.mmul(difference)).to1DArray();
  const covariance = Matrix.sub(own, gain.mmul(own));
  const [b11, b12, b21, b22, exMm, eyMm] = joined as [number, number, number, number, number, number];
  return {
    fit: {
      model: fit.model,
      field: { ...fit.field, b11, b12, b21, b22, exMm, eyMm },
      covarianceKnownU: covariance.to2DArray(),
      noise: { ...fit.noise, factor: 1 },
    },
    pooling: 'joined',
  };
}

const vectorOf = (f: AffineField): Matrix =>
  Matrix.columnVector([f.b11, f.b12, f.b21, f.b22, f.exMm, f.eyMm]);

/** One setting that was typed between two sets: by how much, and how far its effect is known. */
export interface Typed {
  readonly effect: AffineField;
  readonly by: number;
  /** Standard uncertainty of the effect, as a share of it. */
  readonly effectU: number;
}

/** What a set leads to expect of the next one of its load, after typing and with another file; null when it tells too little. */
export function expectedAfter(
  estimate: FieldEstimate,
  typed: readonly Typed[],
  files: { readonly before: Affine; readonly after: Affine },
): Expected | null {
  if (estimate.model === 'shift' || estimate.model === 'rigid' || estimate.model === 'similarity')
    return null;
  const { origin } = estimate.field;
  const asDrawn = transformToField(compose(fieldToTransform(estimate.field), files.before), origin);
  const machine = typed.reduce((field, t) => addFields(field, t.effect, t.by), asDrawn);
  const doubt = effectCovariance(
    typed.map((t) => ({ effect: t.effect, typed: t.by * t.effectU })),
    origin,
  );
  return {
    field: transformToField(compose(fieldToTransform(machine), invertAffine(files.after)), origin),
    covariance: estimate.covarianceKnownU.map((row, i) =>
      row.map((v, j) => v * estimate.noise.factor ** 2 + doubt[i]![j]!),
    ),
    typed: typed.flatMap((t) => (t.by === 0 ? [] : [effectVector(t.effect, origin)])),
  };
}
