import type { Point } from '../geometry';
import { type Outcome, refuse } from '../outcome';

import { describe } from './describe';
import { classifyLayout } from './layout';
import { type Frame, frameOf, type Solution } from './modelFrame';
import { fitRefusalText } from './refusals';
import { solveLinear } from './solveLinear';
import { solveProjective } from './solveProjective';
import { solveRigid } from './solveRigid';
import { solveRoll } from './solveRoll';
import type { FitRefusal, FittedModel, ModelFit, ModelOutcome, Observation } from './types';

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
