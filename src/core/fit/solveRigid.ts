import { accept, type Outcome, refuse } from '../outcome';
import { GAUSS_NEWTON_STEP } from '../tolerance';

import { leastSquares, type LeastSquares } from './leastSquares';
import { type Frame, scaled, type Solution, undetermined } from './modelFrame';
import { solveLinear } from './solveLinear';
import type { FitRefusal, Observation } from './types';

/** A step is not halved further than to this share of itself. */
const LEAST_SHARE = 1e-6;

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
export function solveRigid(
  observations: readonly Observation[],
  frame: Frame,
): Outcome<Solution, FitRefusal> {
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
    for (let share = 1; share > LEAST_SHARE; share /= 2) {
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
