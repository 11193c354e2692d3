import { coverageFactor, fUpper } from '../statistics';
import type { Point } from '../geometry';

import { fitModel } from './fitModel';
import {
  MODELS,
  type LadderFit,
  type ModelFit,
  type ModelName,
  type ModelOutcome,
  type NestedF,
  type Observation,
  type SuspectReading,
} from './types';

/** Kept with every stored fit, so that a figure can be traced to the code that made it. */
export const FIT_VERSION = 'fit-2';

/** AIC lead beyond which the other model has “essentially no support” (Burnham & Anderson 2002, 2.6; memory). */
const CLEAR_WIN = 10;

/**
 * Fits every model of the ladder.
 *
 * Recommends the lowest AIC with known u, χ² + 2k (Akaike 1974): for the sentence and the terms; the projective
 * model only when it wins clearly. Corrects with the widest model up to affine, not with the recommended one:
 * see `shrinkForCorrection`.
 */
export function fitLadder(observations: readonly Observation[], workAreaCentre: Point): LadderFit {
  const models = fitModels(MODELS, observations, workAreaCentre);
  return { ...conclusions(models, observations), workAreaCentre, models: models as LadderFit['models'] };
}

export type FittedModels = Readonly<Partial<Record<ModelName, ModelOutcome>>>;

export const fitModels = (
  wanted: readonly ModelName[],
  observations: readonly Observation[],
  workAreaCentre: Point,
): FittedModels =>
  Object.fromEntries(wanted.map((name) => [name, fitModel(name, observations, workAreaCentre)]));

/** What follows from the models that were fitted: which explains, which corrects, which readings look odd. */
export function conclusions(
  models: FittedModels,
  observations: readonly Observation[],
): Omit<LadderFit, 'workAreaCentre' | 'models'> {
  const fitted = MODELS.map((name) => models[name]).filter((m): m is ModelFit => m?.status === 'ok');
  const widest = fitted.findLast((m) => m.model !== 'projective') ?? null;
  return {
    version: FIT_VERSION,
    recommended: lowestAic(fitted)?.model ?? null,
    widest: widest?.model ?? null,
    nestedF: fitted.slice(1).flatMap((big, i) => nestedF(fitted[i]!, big) ?? []),
    suspects: widest ? suspectReadings(widest, observations) : [],
  };
}

/** AIC with known u; the projective model starts behind, so that it has to win clearly. */
function lowestAic(fitted: readonly ModelFit[]): ModelFit | null {
  const aic = (m: ModelFit): number => m.aicKnownU + (m.model === 'projective' ? CLEAR_WIN : 0);
  return fitted.reduce<ModelFit | null>((best, m) => (best && aic(best) <= aic(m) ? best : m), null);
}

/** The widest model that was fitted, or null. */
export function widestFit(ladder: LadderFit): ModelFit | null {
  return fitOf(ladder, ladder.widest);
}

export function fitOf(ladder: LadderFit, model: ModelName | null): ModelFit | null {
  const found = model === null ? null : ladder.models[model];
  return found?.status === 'ok' ? found : null;
}

function nestedF(small: ModelFit, big: ModelFit): NestedF | null {
  const test = fTest(small.chi2, small.dof, big.chi2, big.dof);
  return test && { small: small.model, big: big.model, df1: small.dof - big.dof, df2: big.dof, ...test };
}

/** F test of a model against the next simpler one (Draper & Smith, Applied Regression Analysis, ch. 6). */
export function fTest(
  rssSmall: number,
  dofSmall: number,
  rssBig: number,
  dofBig: number,
): { readonly F: number; readonly p: number } | null {
  const df1 = dofSmall - dofBig;
  if (dofBig <= 0 || rssBig <= 0) return null;
  const F = Math.max(0, (rssSmall - rssBig) / df1) / (rssBig / dofBig);
  return { F, p: fUpper(F, df1, dofBig) };
}

const SUSPECT_LEVEL = 0.05;

/** Beyond so many of its standard uncertainties a reading is off by more than rounding, which never exceeds √3 of them. */
const ROUNDING_SDS = 2;

/**
 * Readings whose studentised residual passes the Bonferroni limit; flagged, never dropped. With few to judge by, the others
 * may agree by luck: what lies within its own rounding is no misreading.
 */
export function suspectReadings(fit: ModelFit, observations: readonly Observation[]): SuspectReading[] {
  if (fit.dof < 2) return [];
  const limit = coverageFactor(1 - SUSPECT_LEVEL / fit.observations.length, fit.dof - 1);
  const u = new Map(observations.map((o) => [`${o.stationId} ${o.axis}`, o.uMm]));
  return fit.observations.flatMap(({ stationId, axis, studentised, residualMm }) => {
    const rounding = ROUNDING_SDS * (u.get(`${stationId} ${axis}`) ?? 0);
    return studentised !== null && Math.abs(studentised) > limit && Math.abs(residualMm) > rounding
      ? [{ stationId, axis, studentised, limit }]
      : [];
  });
}
