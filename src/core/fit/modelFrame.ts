import type { Homography, Point } from '../geometry';

import type { LeastSquares } from './leastSquares';
import type { AffineField, FitRefusal, Observation } from './types';

/** Coordinates relative to the stations' middle, in units of their reach: keeps the design well scaled. */
export interface Frame {
  readonly centre: Point;
  readonly reachMm: number;
}

/** A model's solution in the fit frame: field about the frame's centre and its derivatives by parameter. */
export interface Solution {
  readonly solved: LeastSquares;
  readonly field: AffineField;
  /** 6 × k: derivative of (b11, b12, b21, b22, ex, ey) by each parameter of the least squares. */
  readonly jacobian: readonly (readonly number[])[];
  /** The projective model's own parameters in raw mm, and their standard errors by name. */
  /** The roll model's own parameters in raw mm and their standard errors by name. */
  readonly roll?: {
    readonly params: Readonly<Record<string, number>>;
    readonly se: Readonly<Record<string, number>>;
  };
  readonly projective?: { readonly homography: Homography; readonly se: Readonly<Record<string, number>> };
}

export function frameOf(observations: readonly Observation[]): Frame {
  const n = observations.length;
  const centre = {
    x: observations.reduce((sum, o) => sum + o.xMm, 0) / n,
    y: observations.reduce((sum, o) => sum + o.yMm, 0) / n,
  };
  const reachMm = observations.reduce(
    (most, o) => Math.max(most, Math.abs(o.xMm - centre.x), Math.abs(o.yMm - centre.y)),
    0,
  );
  return { centre, reachMm: reachMm > 0 ? reachMm : 1 };
}

export const scaled = (o: Observation, frame: Frame): Point => ({
  x: (o.xMm - frame.centre.x) / frame.reachMm,
  y: (o.yMm - frame.centre.y) / frame.reachMm,
});

export function undetermined(refusal: { readonly code: string; readonly rankRatio?: number }): FitRefusal {
  return { code: 'not-determined', rankRatio: refusal.rankRatio ?? 0 };
}
