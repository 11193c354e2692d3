import { type Affine, determinant, type Point } from '../geometry';
import { accept, type Outcome, refuse } from '../outcome';
import { chiSquareUpper } from '../statistics';

import { decompose, decomposeJacobian } from './decompose';
import { fieldToTransform, transformToField } from './field';
import type { Solution } from './modelFrame';
import { noiseUsed } from './noise';
import { moveCovariance, propagate } from './propagate';
import { externallyStudentised } from './studentise';
import {
  type AffineField,
  type FitRefusal,
  type FittedModel,
  type ModelFit,
  type Observation,
  type ObservationDiagnostics,
  PARAMETER_COUNT,
  type Terms,
} from './types';

export function describe<M extends FittedModel>(
  model: M,
  observations: readonly Observation[],
  solution: Solution,
  workAreaCentre: Point,
): Outcome<ModelFit<M>, FitRefusal> {
  const transform = fieldToTransform(solution.field);
  const det = determinant(transform);
  if (!(det > 0)) return refuse({ code: 'folded', determinant: det });
  const k = PARAMETER_COUNT[model];
  const n = observations.length;
  const dof = n - k;
  const weighted = solution.solved.residuals;
  const chi2 = weighted.reduce((sum, r) => sum + r * r, 0);
  const noise = noiseUsed(chi2, dof);
  const atFit = propagate(solution.jacobian, solution.solved.inverseGram.to2DArray());
  const covarianceKnownU = moveCovariance(atFit, solution.field.origin, workAreaCentre);
  const atZero = moveCovariance(atFit, solution.field.origin, { x: 0, y: 0 });
  const field = transformToField(transform, workAreaCentre);
  const scatter = dof > 0 ? Math.sqrt(chi2 / dof) : Number.NaN;
  const seKnownU = solution.projective?.se ?? solution.roll?.se ?? parameterErrors(model, atZero, solution);
  const residualsMm = observations.map((o, i) => weighted[i]! * o.uMm);
  return accept({
    status: 'ok',
    model,
    k,
    dof,
    params: solution.projective
      ? { ...solution.projective.homography }
      : (solution.roll?.params ?? parameters(model, transform)),
    seKnownU,
    seScaled: Object.fromEntries(Object.entries(seKnownU).map(([name, se]) => [name, se * scatter])),
    transform,
    homography: solution.projective?.homography ?? null,
    field,
    covarianceKnownU,
    noise,
    terms: { shiftXMm: field.exMm, shiftYMm: field.eyMm, ...decompose(transform) },
    termSe: termErrors(transform, covarianceKnownU, noise.factor),
    chi2,
    chi2P: chiSquareUpper(chi2, dof),
    ...residualSizes(observations, residualsMm),
    aicKnownU: chi2 + 2 * k,
    aiccUnknownSigma: aicc(chi2, n, k),
    rankRatio: solution.solved.rankRatio,
    observations: diagnostics(observations, residualsMm, weighted, solution.solved.leverages, chi2, dof),
  });
}

function parameters(model: FittedModel, t: Affine): Record<string, number> {
  const { a11, a12, a21, a22, tx, ty } = t;
  switch (model) {
    case 'shift':
      return { tx, ty };
    case 'rigid':
      return { theta: Math.atan2(a21, a11), tx, ty };
    case 'similarity':
      return { a: a11, b: a21, tx, ty };
    case 'affine':
    case 'projective':
    case 'roll':
      return { a11, a12, a21, a22, tx, ty };
    default:
      return model satisfies never;
  }
}

function parameterErrors(
  model: FittedModel,
  atZero: readonly (readonly number[])[],
  solution: Solution,
): Record<string, number> {
  const se = (i: number): number => Math.sqrt(Math.max(0, atZero[i]![i]!));
  const shift = { tx: se(4), ty: se(5) };
  switch (model) {
    case 'shift':
      return shift;
    case 'rigid': {
      const perRad = Math.hypot(solution.jacobian[1]![0]!, solution.jacobian[0]![0]!);
      return { theta: perRad * Math.sqrt(solution.solved.inverseGram.get(0, 0)), ...shift };
    }
    case 'similarity':
      return { a: se(0), b: se(2), ...shift };
    case 'affine':
    case 'projective':
    case 'roll':
      return { a11: se(0), a12: se(1), a21: se(2), a22: se(3), ...shift };
    default:
      return model satisfies never;
  }
}

/** The terms of a field that other readings than a fit's own tell too, with their standard errors. */
export function termsOfField(
  field: AffineField,
  covariance: readonly (readonly number[])[],
): Pick<ModelFit, 'terms' | 'termSe' | 'noise'> {
  const t = fieldToTransform(field);
  const terms = { ...decompose(t), shiftXMm: field.exMm, shiftYMm: field.eyMm };
  return { terms, termSe: termErrors(t, covariance, 1), noise: { kind: 'given-u', factor: 1 } };
}

function termErrors(t: Affine, covariance: readonly (readonly number[])[], factor: number): Terms {
  const jacobian = decomposeJacobian(t).map((row) => [...row, 0, 0]);
  const linear = propagate(jacobian, covariance);
  const se = (variance: number): number => factor * Math.sqrt(Math.max(0, variance));
  return {
    shiftXMm: se(covariance[4]![4]!),
    shiftYMm: se(covariance[5]![5]!),
    turnRad: se(linear[0]![0]!),
    scaleAcross: se(linear[1]![1]!),
    scaleAlong: se(linear[2]![2]!),
    leanRad: se(linear[3]![3]!),
  };
}

function residualSizes(
  observations: readonly Observation[],
  residualsMm: readonly number[],
): Pick<ModelFit, 'rmsComponentMm' | 'rmsRadialMm' | 'maxRadialMm'> {
  const byStation = new Map<string, number>();
  residualsMm.forEach((r, i) => {
    const id = observations[i]!.stationId;
    byStation.set(id, (byStation.get(id) ?? 0) + r * r);
  });
  const squares = [...byStation.values()];
  const total = squares.reduce((sum, s) => sum + s, 0);
  return {
    rmsComponentMm: Math.sqrt(total / residualsMm.length),
    rmsRadialMm: Math.sqrt(total / squares.length),
    maxRadialMm: Math.sqrt(squares.reduce((most, s) => Math.max(most, s), 0)),
  };
}

/** Small-sample AIC with σ estimated, K = k + 1 (Hurvich & Tsai 1989; from memory). */
function aicc(chi2: number, n: number, k: number): number | null {
  const parameterTotal = k + 1;
  if (n - parameterTotal - 1 <= 0 || chi2 <= 0) return null;
  return (
    n * Math.log(chi2 / n) +
    2 * parameterTotal +
    (2 * parameterTotal * (parameterTotal + 1)) / (n - parameterTotal - 1)
  );
}

function diagnostics(
  observations: readonly Observation[],
  residualsMm: readonly number[],
  weighted: readonly number[],
  leverages: readonly number[],
  chi2: number,
  dof: number,
): ObservationDiagnostics[] {
  const studentised = externallyStudentised(weighted, leverages, chi2, dof);
  return observations.map((o, i) => ({
    stationId: o.stationId,
    axis: o.axis,
    residualMm: residualsMm[i]!,
    leverage: leverages[i]!,
    studentised: studentised[i]!,
  }));
}
