import { DEFAULT_LOAD_SCATTER_MM } from '../tolerance';
import {
  planCorrection,
  poolFits,
  shiftScatter,
  worstR95,
  type CorrectionPlan,
  type Expected,
  type Pooling,
  scatterOfLoads,
  type LoadScatter,
  type MachineSetting,
  type ToldScatter,
} from '../correction';
import {
  fitLadder,
  noiseWithRecord,
  termsOfField,
  widestFit,
  type FieldEstimate,
  type LadderFit,
  type ModelFit,
  type TermsTold,
} from '../fit';
import { rectCentre, type Rect } from '../geometry';
import { intervalEstimate, type IntervalEstimate } from '../comb';
import type { OffsetAxis } from '../units';
import { plumbState, type PlumbState } from '../verdict';

import { backlashOf, withoutBacklash, type BacklashTold } from './backlash';
import { joinLengths, type LengthRow } from '../readings/longLengths';
import { axisR95, fitOneAxis, onlyAxisOf, planOf, settingsOf, withoutSlant } from './oneAxis';
import { joinLog, type FromLog, type LogAtHand } from './fromLog';
import { misreadOf, type Misread } from './misread';
import { tellShort, type Middle } from './shortSheet';
import { PassReading } from '../readings/passReading';

/** How much of the sheet the readings speak for. */
export type Scope = 'one-place' | 'shift-only' | 'one-axis' | 'whole-area';

export interface Assessment {
  readonly ladder: LadderFit;
  readonly fit: ModelFit;
  /** What the correction is made from: the fit, joined with an earlier set of the load when the two agree. */
  readonly estimate: FieldEstimate;
  readonly pooling: Pooling;
  /** The terms that are corrected, with their doubt. */
  readonly told: TermsTold;
  /** What the log adds to that; null while it holds too little, or nothing of this can be compared with it. */
  readonly fromLog: FromLog | null;
  readonly plan: CorrectionPlan;
  readonly scope: Scope;
  /** The axis that was read where only one was; null when both were. */
  readonly axis: OffsetAxis | null;
  /** Of one axis alone: along that axis. */
  readonly r95Mm: number;
  readonly worstName: string;
  /** Null while only one axis was read: nobody knows yet. */
  readonly state: PlumbState | null;
  /** Typical standard uncertainty of one reading, mm. */
  readonly readingNoiseMm: number;
  /** How much loads differ, and who says so: part of every figure of cuts to come. */
  readonly scatter: ToldScatter;
  /** Of each axis that was cut from both sides. */
  readonly backlash: BacklashTold;
  /** Combs that may be misread: shown, never applied. */
  readonly misread: Misread;
  /** Of a short sheet: what it says of the middle; what it does not see is in every other figure. Null of others. */
  readonly middle: Middle | null;
}

/** What is known beside the readings of a pass. */
export interface Known {
  /** How much loads differ. */
  readonly load?: ToldScatter;
  /** What the set that was read before on the same load leads to expect. */
  readonly expected?: Expected | null;
  readonly log?: LogAtHand | null;
  readonly lengths?: readonly LengthRow[];
  /** The sheet is short: what one place leaves unseen is carried, not taken to be nought. */
  readonly short?: boolean;
}

const UNTOLD_LOADS = scatterOfLoads([], shiftScatter(DEFAULT_LOAD_SCATTER_MM));

/**
 * Everything that one pass says: the ladder, what to change, what 95 of 100 cuts stay within, and the state.
 *
 * With a single station the radius comes from the picks' own intervals (see `intervalEstimate`): rounding is
 * not normal and two picks are too few to pretend it is. Where only one axis was read, that one alone is told.
 */
export function assessPass(
  asRead: readonly PassReading[],
  settings: readonly MachineSetting[],
  workArea: Rect,
  toleranceMm: number,
  known: Known = {},
): Assessment | null {
  const { load = UNTOLD_LOADS, expected = null, log = null, lengths = [], short = false } = known;
  const backlash = backlashOf(asRead);
  const readings = withoutBacklash(asRead, backlash);
  const observations = readings.map((r) => r.observation);
  const axis = onlyAxisOf(readings);
  const ladder = axis
    ? fitOneAxis(observations, axis, rectCentre(workArea))
    : fitLadder(observations, rectCentre(workArea));
  const fit = widestFit(ladder);
  if (!fit) return null;
  const readingNoiseMm = Math.max(...observations.map((o) => o.uMm));
  const withEye = { ...fit, noise: noiseWithRecord(fit, load.eye) };
  if (axis)
    return assessAxis(
      axis,
      { ladder, fit, withEye, readings, readingNoiseMm, backlash },
      settings,
      workArea,
      load,
    );
  const byShort = short
    ? tellShort(readings, settings, workArea, load, readingNoiseMm, { log, expected })
    : null;
  if (byShort) {
    const { plan } = byShort;
    return {
      ...{ ladder, fit, ...byShort, told: fit, axis: null, scope: 'one-place' },
      ...{ r95Mm: plan.before.r95Mm, worstName: plan.before.name, scatter: load, backlash, readingNoiseMm },
      ...{ state: plumbState(plan.before.r95Mm, toleranceMm), misread: misreadOf(readings, fit) },
    };
  }
  const sharpened = joinLengths(withEye, observations, lengths);
  const { fit: estimate, pooling } = poolFits(sharpened, expected);
  // What stations and lengths leave untold is assumed, not read: no record is compared with that.
  const fromLog = log && tellsAll(withEye) ? joinLog(estimate, log) : null;
  const plan = planCorrection(estimate, settings, workArea, load, readingNoiseMm, fromLog);
  const spot = lengths.length === 0 ? spotRadius(readings, workArea, load) : null;
  const r95Mm = spot ?? plan.before.r95Mm;
  return {
    ladder,
    fit,
    estimate,
    pooling,
    told: fromLog
      ? { ...fit, ...termsOfField(fromLog.field, fromLog.covariance) }
      : lengths.length > 0
        ? { ...fit, ...termsOfField(estimate.field, scaledBy(estimate)) }
        : fit,
    fromLog,
    plan,
    axis: null,
    scope: spot !== null ? 'one-place' : estimate.model === 'shift' ? 'shift-only' : 'whole-area',
    r95Mm,
    worstName: plan.before.name,
    state: plumbState(r95Mm, toleranceMm),
    readingNoiseMm,
    scatter: load,
    backlash,
    misread: misreadOf(readings, fit),
    middle: null,
  };
}

/** The same of one axis alone. */
function assessAxis(
  axis: OffsetAxis,
  told: Pick<Assessment, 'ladder' | 'fit' | 'readingNoiseMm' | 'backlash'> & {
    readonly withEye: ModelFit;
    readonly readings: readonly PassReading[];
  },
  settings: readonly MachineSetting[],
  workArea: Rect,
  load: ToldScatter,
): Assessment {
  const { ladder, fit, withEye, readings, readingNoiseMm, backlash } = told;
  // How it turns with every load, one axis cannot tell from how it leans.
  const estimate = load.turnRad > 0 ? withoutSlant(withEye) : withEye;
  const plan = planOf(planCorrection(estimate, settingsOf(settings, axis), workArea, load, readingNoiseMm));
  return {
    ...{ ladder, fit, estimate, pooling: 'alone', told: fit, fromLog: null, plan },
    ...{ scope: 'one-axis', axis, r95Mm: axisR95(plan, axis, workArea) },
    ...{ worstName: plan.before.name, state: null, readingNoiseMm, scatter: load, backlash },
    misread: misreadOf(readings, fit),
    middle: null,
  };
}

/** Its covariance with the noise that it rests on. */
const scaledBy = ({ covarianceKnownU, noise }: FieldEstimate): number[][] =>
  covarianceKnownU.map((row) => row.map((v) => v * noise.factor ** 2));

/** Narrower models take terms to be nought that nobody looked at. */
const tellsAll = ({ model }: FieldEstimate): boolean => model === 'affine' || model === 'projective';

/** The radius at the only station read, or null when there are several (or the picks contradict). */
function spotRadius(readings: readonly PassReading[], workArea: Rect, load: LoadScatter): number | null {
  const stations = new Set(readings.map((r) => r.observation.stationId));
  if (stations.size !== 1) return null;
  const across = estimate(readings, 'across');
  const along = estimate(readings, 'along');
  if (!across || !along) return null;
  const covariance = Array.from({ length: 6 }, () => new Array<number>(6).fill(0));
  covariance[4]![4] = across.sdMm ** 2;
  covariance[5]![5] = along.sdMm ** 2;
  const origin = rectCentre(workArea);
  const bias = { origin, b11: 0, b12: 0, b21: 0, b22: 0, exMm: across.meanMm, eyMm: along.meanMm };
  return worstR95({ bias, covariance, load }, workArea).r95Mm;
}

const estimate = (readings: readonly PassReading[], axis: 'across' | 'along'): IntervalEstimate | null =>
  intervalEstimate(readings.filter((r) => r.observation.axis === axis).map((r) => r.interval));
