import { GAUSS_NEWTON_STEP } from '../tolerance';
import { chiSquareUpper } from '../statistics';
import { determinant, type Affine, type Point } from '../geometry';
import { accept, refuse, type Outcome } from '../outcome';

import { decompose, decomposeJacobian } from './decompose';
import { fieldToTransform, transformToField } from './field';
import { classifyLayout } from './layout';
import { leastSquares, leastSquaresApart, type LeastSquares, type LeastSquaresRefusal } from './leastSquares';
import { frameOf, scaled, undetermined, type Frame, type Solution } from './modelFrame';
import { noiseUsed } from './noise';
import { solveProjective } from './solveProjective';
import { solveRoll } from './solveRoll';
import { externallyStudentised } from './studentise';
import { fitRefusalText } from './refusals';
import {
  PARAMETER_COUNT,
  type FitRefusal,
  type ModelFit,
  type FittedModel,
  type ModelOutcome,
  type Observation,
  type ObservationDiagnostics,
  type Terms,
} from './types';

/**
 * Fits one model of the ladder to observations by weighted least squares, weights 1/u².
 *
 * Shapes   n observations, one axis each; both axes must occur.
 * Units    mm in; params as maths.md: T(p) = p + d in raw sheet mm.
 * Method   centred and scaled, QR; the rigid and the projective model by Gauss–Newton from a linear start.
 *          Similarity: the closed form of Umeyama (1991), here as linear least squares in a = c·cos, b = c·sin.
 * Refuses  as values: too few, one axis only, coincident, single row or column, collinear, folded.
 */
export function fitModel<M extends FittedModel>(
  model: M,
  observations: readonly Observation[],
  workAreaCentre: Point,
): ModelOutcome<M> {
  const outcome = solve(model, observations, workAreaCentre);
  if (outcome.ok) return outcome.value;
  return {
    status: 'refused',
    model,
    reason: outcome.refusal.code,
    message: fitRefusalText(outcome.refusal, model),
  };
}

function solve<M extends FittedModel>(
  model: M,
  observations: readonly Observation[],
  workAreaCentre: Point,
): Outcome<ModelFit<M>, FitRefusal> {
  const layout = classifyLayout(model, observations);
  if (layout) return refuse(layout);
  const frame = frameOf(observations);
  const solution = solveIn(frame, model, observations, workAreaCentre);
  if (!solution.ok) return solution;
  return describe(model, observations, solution.value, workAreaCentre);
}

function solveIn(
  frame: Frame,
  model: FittedModel,
  observations: readonly Observation[],
  workAreaCentre: Point,
): Outcome<Solution, FitRefusal> {
  if (model === 'rigid') return solveRigid(observations, frame);
  if (model === 'roll') return solveRoll(observations, frame, workAreaCentre);
  const start = solveLinear(model === 'projective' ? 'affine' : model, observations, frame);
  if (model !== 'projective' || !start.ok) return start;
  return solveProjective(observations, frame, start.value.field, workAreaCentre);
}

/** Design row of the similarity at scaled place q; the intercepts come last. */
const similarityRow = (across: boolean, q: Point): number[] =>
  across ? [q.x, -q.y, 1, 0] : [q.y, q.x, 0, 1];

/** How the linear coefficients (per reach) make up (b11, b12, b21, b22), and where the two intercepts stand. */
const LINEAR_PATTERN = {
  shift: { linear: [[], [], [], []], intercepts: [0, 1] },
  similarity: {
    linear: [
      [1, 0],
      [0, -1],
      [0, 1],
      [1, 0],
    ],
    intercepts: [2, 3],
  },
  // One axis after the other: b11, b12, across; b21, b22, along.
  affine: {
    linear: [
      [1, 0, 0, 0, 0],
      [0, 1, 0, 0, 0],
      [0, 0, 0, 1, 0],
      [0, 0, 0, 0, 1],
    ],
    intercepts: [2, 5],
  },
} as const;

/** Weighted rows and values of a linear model, solved; shift and affine an axis at a time, since neither ties the two. */
function solvedRows(
  model: 'shift' | 'similarity' | 'affine',
  observations: readonly Observation[],
  frame: Frame,
): Outcome<LeastSquares, LeastSquaresRefusal> {
  const values = observations.map((o) => o.offsetMm / o.uMm);
  if (model === 'similarity')
    return leastSquares(
      observations.map((o) => similarityRow(o.axis === 'across', scaled(o, frame)).map((v) => v / o.uMm)),
      values,
    );
  const rows = observations.map((o) => {
    if (model === 'shift') return [1 / o.uMm];
    const q = scaled(o, frame);
    return [q.x / o.uMm, q.y / o.uMm, 1 / o.uMm];
  });
  return leastSquaresApart(
    rows,
    values,
    observations.map((o) => o.axis === 'across'),
  );
}

function solveLinear(
  model: 'shift' | 'similarity' | 'affine',
  observations: readonly Observation[],
  frame: Frame,
): Outcome<Solution, FitRefusal> {
  const solved = solvedRows(model, observations, frame);
  if (!solved.ok) return refuse(undetermined(solved.refusal));
  const beta = solved.value.coefficients;
  const k = beta.length;
  const { linear, intercepts } = LINEAR_PATTERN[model];
  const jacobian = [
    ...linear.map((row) => Array.from({ length: k }, (_, j) => (row[j] ?? 0) / frame.reachMm)),
    unitRow(k, intercepts[0]),
    unitRow(k, intercepts[1]),
  ];
  const [b11, b12, b21, b22, exMm, eyMm] = jacobian.map((row) =>
    row.reduce((sum, v, j) => sum + v * beta[j]!, 0),
  ) as [number, number, number, number, number, number];
  const field = { origin: frame.centre, b11, b12, b21, b22, exMm, eyMm };
  return accept({ solved: solved.value, field, jacobian });
}

const MAX_STEPS = 50;

/** The rigid model linearised at an angle: rows, and what is still to be explained; weighted. */
function rigidSystem(observations: readonly Observation[], frame: Frame, at: RigidState) {
  const cos = Math.cos(at.theta);
  const sin = Math.sin(at.theta);
  const rows: number[][] = [];
  const values: number[] = [];
  for (const o of observations) {
    const q = scaled(o, frame);
    const x = q.x * frame.reachMm;
    const y = q.y * frame.reachMm;
    const across = o.axis === 'across';
    const fitted = across ? (cos - 1) * x - sin * y + at.exMm : sin * x + (cos - 1) * y + at.eyMm;
    const slope = across ? -sin * q.x - cos * q.y : cos * q.x - sin * q.y;
    rows.push([slope / o.uMm, across ? 1 / o.uMm : 0, across ? 0 : 1 / o.uMm]);
    values.push((o.offsetMm - fitted) / o.uMm);
  }
  return { rows, values, chi2: values.reduce((sum, v) => sum + v * v, 0) };
}

interface RigidState {
  readonly theta: number;
  readonly exMm: number;
  readonly eyMm: number;
}

/**
 * d = (R(θ) − I)(p − c) + e, by Gauss–Newton with halved steps.
 * Starts at the similarity's angle, which is the answer already when all u are alike (Umeyama 1991).
 */
function solveRigid(observations: readonly Observation[], frame: Frame): Outcome<Solution, FitRefusal> {
  const start = solveLinear('similarity', observations, frame);
  let at: RigidState = {
    theta: start.ok ? Math.atan2(start.value.field.b21, 1 + start.value.field.b11) : 0,
    exMm: start.ok ? start.value.field.exMm : 0,
    eyMm: start.ok ? start.value.field.eyMm : 0,
  };
  let system = rigidSystem(observations, frame, at);
  for (let count = 0; ; count += 1) {
    const solved = leastSquares(system.rows, system.values);
    if (!solved.ok) return refuse(undetermined(solved.refusal));
    const [dTheta, dX, dY] = solved.value.coefficients as [number, number, number];
    const small = GAUSS_NEWTON_STEP * (frame.reachMm + Math.abs(at.exMm) + Math.abs(at.eyMm));
    if (Math.max(Math.abs(dTheta), Math.abs(dX), Math.abs(dY)) <= small || count === MAX_STEPS)
      return accept(rigidSolution(solved.value, frame, at));
    let next = system;
    for (let share = 1; share > 1e-6; share /= 2) {
      const tried = {
        theta: at.theta + (share * dTheta) / frame.reachMm,
        exMm: at.exMm + share * dX,
        eyMm: at.eyMm + share * dY,
      };
      next = rigidSystem(observations, frame, tried);
      if (next.chi2 >= system.chi2) continue;
      at = tried;
      break;
    }
    if (next.chi2 >= system.chi2) return accept(rigidSolution(solved.value, frame, at));
    system = next;
  }
}

function rigidSolution(solved: LeastSquares, frame: Frame, at: RigidState): Solution {
  const c = Math.cos(at.theta);
  const s = Math.sin(at.theta);
  const jacobian = [
    [-s / frame.reachMm, 0, 0],
    [-c / frame.reachMm, 0, 0],
    [c / frame.reachMm, 0, 0],
    [-s / frame.reachMm, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const field = {
    origin: frame.centre,
    b11: c - 1,
    b12: -s,
    b21: s,
    b22: c - 1,
    exMm: at.exMm,
    eyMm: at.eyMm,
  };
  return { solved, field, jacobian };
}

function describe<M extends FittedModel>(
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

const unitRow = (length: number, at: number): number[] => Array.from({ length }, (_, i) => Number(i === at));

/** J·C·Jᵀ. */
function propagate(jacobian: readonly (readonly number[])[], c: readonly (readonly number[])[]): number[][] {
  return jacobian.map((left) =>
    jacobian.map((right) =>
      left.reduce((sum, l, i) => sum + l * right.reduce((s, r, j) => s + r * c[i]![j]!, 0), 0),
    ),
  );
}

/** Covariance of the field's coefficients when its origin moves: e′ = e + B·(to − from). */
function moveCovariance(c: readonly (readonly number[])[], from: Point, to: Point): number[][] {
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const jacobian = Array.from({ length: 6 }, (_, i) => unitRow(6, i));
  jacobian[4] = [dx, dy, 0, 0, 1, 0];
  jacobian[5] = [0, 0, dx, dy, 0, 1];
  return propagate(jacobian, c);
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
