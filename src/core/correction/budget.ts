import type { Point } from '../geometry';

import type { CorrectionPlan } from './planCorrection';
import { misregistrationAt, type ScatterShares } from './prediction';

/** One source of doubt about where the next cut lands, standard uncertainty of an axis, mm. */
export interface BudgetLine {
  readonly source:
    'resolution' | 'acuity' | 'log and load' | 'load read' | 'next load' | 'turn of loads' | 'settings';
  readonly uMm: number;
}

export interface UncertaintyBudget {
  readonly at: Point;
  readonly lines: readonly BudgetLine[];
  /** Root of the sum of squares, mm. */
  readonly combinedMm: number;
}

const NO_LOAD: ScatterShares = { shift: 0, turn: 0 };
const TURN_ALONE: ScatterShares = { shift: 0, turn: 1 };

/**
 * What the doubt of a prediction at a place is made of, in the manner of JCGM 100:2008 (GUM), 5.1: root mean square of the
 * two axes. Resolution and acuity reach the place through the fit’s parameters, and share their part as their variances do.
 *
 * Units   mm; `stepMm` of the combs, `acuityMm` of the eye.
 */
export function uncertaintyBudget(
  plan: Pick<CorrectionPlan, 'field' | 'covariance' | 'covarianceTyped' | 'load' | 'shares'>,
  at: Point,
  stepMm: number,
  acuityMm: number,
): UncertaintyBudget {
  const varianceOf = (covariance: CorrectionPlan['covariance'], shares: ScatterShares): number => {
    const m = misregistrationAt({ bias: plan.field, covariance, load: plan.load }, at, shares);
    return (m.varX + m.varY) / 2;
  };
  const parameters = varianceOf(plan.covariance, NO_LOAD);
  const typed = varianceOf(plan.covarianceTyped, NO_LOAD);
  const [resolution, acuity] = [stepMm ** 2 / 12, acuityMm ** 2];
  const share = resolution / (resolution + acuity);
  const shift = plan.load.shiftMm ** 2;
  const byLog = plan.shares.shift < 2;
  const variances = [
    ...(byLog
      ? ([['log and load', parameters]] as const)
      : ([
          ['resolution', share * parameters],
          ['acuity', (1 - share) * parameters],
          ['load read', shift],
        ] as const)),
    ['next load', shift],
    ['turn of loads', varianceOf(plan.covariance, TURN_ALONE) - parameters],
    ['settings', typed - parameters],
  ] as const;
  return {
    at,
    lines: variances
      .filter(([, variance]) => variance > 0)
      .map(([source, variance]) => ({ source, uMm: Math.sqrt(variance) })),
    combinedMm: Math.sqrt(variances.reduce((sum, [, variance]) => sum + Math.max(0, variance), 0)),
  };
}
