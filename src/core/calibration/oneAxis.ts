import { misregistrationAt, type CorrectionPlan, type MachineSetting } from '../correction';
import {
  conclusions,
  externallyStudentised,
  fitModels,
  noiseUsed,
  MODELS,
  termsOfField,
  type AffineField,
  type FittedModels,
  type LadderFit,
  type ModelFit,
  type Observation,
} from '../fit';
import { rectLattice, type Point, type Rect } from '../geometry';
import { chiSquareUpper, radialQuantile } from '../statistics';
import { DEFAULT_LOAD_SCATTER_MM } from '../tolerance';
import { OFFSET_AXES, type OffsetAxis } from '../units';

/*
 * One axis at a time: the other one was not looked at. What is told of it is nothing: its part of the field is nought and it
 * is neither corrected nor promised.
 */

/** The axis that was read, where only one was. */
export function onlyAxisOf(readings: readonly { readonly observation: Observation }[]): OffsetAxis | null {
  const read = OFFSET_AXES.filter((axis) => readings.some((r) => r.observation.axis === axis));
  return read.length === 1 ? read[0]! : null;
}

/** What stands for the axis that nobody read, so that the models can be solved; it is taken out again afterwards. */
const UNREAD_U_MM = DEFAULT_LOAD_SCATTER_MM;
/** Models in which the two axes share nothing. */
const APART = ['shift', 'affine'] as const;

/** Places of an axis in (b11, b12, b21, b22, ex, ey). */
const PLACES: Readonly<Record<OffsetAxis, readonly number[]>> = { across: [0, 1, 4], along: [2, 3, 5] };

const fieldOf = (f: AffineField, axis: OffsetAxis): AffineField =>
  axis === 'across' ? { ...f, b21: 0, b22: 0, eyMm: 0 } : { ...f, b11: 0, b12: 0, exMm: 0 };

/** The ladder of one axis: its shift, and its shift with what stretches and slants it. */
export function fitOneAxis(
  observations: readonly Observation[],
  axis: OffsetAxis,
  workAreaCentre: Point,
): LadderFit {
  const other = axis === 'across' ? 'along' : 'across';
  const assumed = observations.map((o): Observation => ({
    ...o,
    axis: other,
    offsetMm: 0,
    uMm: UNREAD_U_MM,
  }));
  const refused = fitModels(MODELS, observations, workAreaCentre);
  const solved = fitModels(APART, [...observations, ...assumed], workAreaCentre);
  const told: FittedModels = Object.fromEntries(
    APART.flatMap((name) => {
      const fit = solved[name];
      return fit?.status === 'ok' ? [[name, ofAxis(fit, axis, observations)] as const] : [];
    }),
  );
  const models = { ...refused, ...told };
  return {
    ...{ ...conclusions(models, observations), workAreaCentre },
    models: models as LadderFit['models'],
  };
}

function ofAxis(fit: ModelFit, axis: OffsetAxis, read: readonly Observation[]): ModelFit {
  const k = fit.k / 2;
  const dof = read.length - k;
  const noise = noiseUsed(fit.chi2, dof);
  const field = fieldOf(fit.field, axis);
  const covarianceKnownU = fit.covarianceKnownU.map((row, i) =>
    row.map((v, j) => (PLACES[axis].includes(i) && PLACES[axis].includes(j) ? v : 0)),
  );
  const scaled = covarianceKnownU.map((row) => row.map((v) => v * noise.factor ** 2));
  return {
    ...fit,
    ...{ k, dof, noise, field, covarianceKnownU },
    ...termsOfField(field, scaled),
    chi2P: chiSquareUpper(fit.chi2, dof),
    // Half of what it was the mean of was nought.
    rmsComponentMm: fit.rmsComponentMm * Math.SQRT2,
    aicKnownU: fit.chi2 + 2 * k,
    aiccUnknownSigma: null,
    observations: judged(fit, read, dof),
  };
}

/** Without how the axis changes across itself: a slant. */
export const withoutSlant = <F extends Pick<ModelFit, 'field'>>(fit: F): F => ({
  ...fit,
  field: { ...fit.field, b12: 0, b21: 0 },
});

/** Each reading by the scatter of the other readings: what stood for the unread axis is none. */
function judged(fit: ModelFit, read: readonly Observation[], dof: number): ModelFit['observations'] {
  const own = fit.observations.slice(0, read.length);
  const studentised = externallyStudentised(
    own.map((o, i) => o.residualMm / read[i]!.uMm),
    own.map((o) => o.leverage),
    fit.chi2,
    dof,
  );
  return own.map((o, i) => ({ ...o, studentised: studentised[i]! }));
}

/** Settings that move this axis and leave the other one alone. */
export const settingsOf = (settings: readonly MachineSetting[], axis: OffsetAxis): MachineSetting[] =>
  settings.filter(({ effect: e }) =>
    axis === 'across'
      ? e.b21 === 0 && e.b22 === 0 && e.eyMm === 0
      : e.b11 === 0 && e.b12 === 0 && e.exMm === 0,
  );

/** Leave it alone unless what was found of the axis exceeds twice its own doubt: loads differ along the other one too. */
export function planOf(plan: CorrectionPlan): CorrectionPlan {
  const estimationVarianceMm2 = plan.estimationVarianceMm2 - plan.load.shiftMm ** 2;
  const decision = plan.meanSquareMm2 > 2 * estimationVarianceMm2 ? 'correct' : 'leave';
  return { ...plan, estimationVarianceMm2, decision };
}

/** Within how much of the print 95 of 100 cuts lie on that axis, at the worst corner, mm. */
export function axisR95(
  { field, covariance, load, shares }: CorrectionPlan,
  axis: OffsetAxis,
  area: Rect,
): number {
  return Math.max(
    ...rectLattice(area, 2, 2).map((p) => {
      const m = misregistrationAt({ bias: field, covariance, load, shares }, p, shares);
      const [meanX, varX] = axis === 'across' ? [m.meanX, m.varX] : [m.meanY, m.varY];
      return radialQuantile({ meanX, varX, meanY: 0, varY: 0, covXY: 0 }, 0.95);
    }),
  );
}
