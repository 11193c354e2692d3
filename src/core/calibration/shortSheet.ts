import {
  misregistrationAt,
  planCorrection,
  type CorrectionPlan,
  type Expected,
  type LoadScatter,
  type MachineSetting,
  type Pooling,
} from '../correction';
import { intervalEstimate } from '../comb';
import { zeroField, type AffineField, type FieldEstimate, type Observation } from '../fit';
import { rectCentre, type Point, type Rect } from '../geometry';
import { joinUntold, type PassReading } from '../readings';
import { seenAt, seenBy, type Vector } from '../record/gaussian';
import { covarianceInMm, inMm, outOfMm, rowsAt } from '../record/scales';
import { chiSquareUpper, radialQuantile } from '../statistics';
import { OFFSET_AXES } from '../units';

import { joinLog, type FromLog, type LogAtHand } from './fromLog';

/*
 * A short sheet: two picks at one place tell the shift. What they leave unseen (turn, size, lean) is what the log knows of
 * this rig, or what an untouched rig may be off: it is in every promise, and never corrected on a guess.
 */

/** What a short sheet says of the middle. */
export interface Middle {
  /** Within how much of the print the cut lies there on this load, on 95 of 100 such readings, mm. */
  readonly thisLoadMm: number;
  /** The same of loads to come. */
  readonly nextLoadsMm: number;
}

export interface ShortTold {
  readonly estimate: FieldEstimate;
  readonly pooling: Pooling;
  readonly fromLog: FromLog | null;
  /** Made from the shift alone, and by settings that move the cut; its radii are of the whole work area. */
  readonly plan: CorrectionPlan;
  readonly middle: Middle;
}

/** So far about the middle is decided and typed: there nothing of the unseen terms counts. */
const MIDDLE_MM = 0.5;
const aboutMiddle = (area: Rect): Rect => {
  const { x, y } = rectCentre(area);
  return { x0: x - MIDDLE_MM, x1: x + MIDDLE_MM, y0: y - MIDDLE_MM, y1: y + MIDDLE_MM };
};

/** Whether a setting moves the cut, everywhere alike. */
export const movesOnly = ({ effect: e }: Pick<MachineSetting, 'effect'>): boolean =>
  e.b11 === 0 && e.b12 === 0 && e.b21 === 0 && e.b22 === 0;

/**
 * What two picks say; null unless both axes were read at one place and agree.
 *
 * Method  the picks' own intervals (`intervalEstimate`: rounding is not normal) as a shift where they were read; the other
 *         terms from the log, else nought within what untouched rigs are off (`joinUntold`). Of a set that was read before on
 *         the same load what it leads to expect comes first (`expected`).
 */
export function tellShort(
  readings: readonly PassReading[],
  settings: readonly MachineSetting[],
  workArea: Rect,
  load: LoadScatter,
  readingNoiseMm: number,
  { log, expected }: { readonly log: LogAtHand | null; readonly expected: Expected | null },
): ShortTold | null {
  const seen = seenIn(readings, rectCentre(workArea));
  if (!seen) return null;
  const { estimate, pooling } = withBefore(seen, expected, workArea);
  const fromLog = log && joinLog(estimate, log);
  const plan = planCorrection(
    estimate,
    settings.filter(movesOnly),
    workArea,
    load,
    readingNoiseMm,
    fromLog ?? { field: estimate.field, covariance: withLoad(estimate.covarianceKnownU, load) },
    // Without a log the unseen terms are a guess: in the promise, not in a file.
    { about: aboutMiddle(workArea), corrected: fromLog ? (field) => field : shiftOf },
  );
  const { covariance, shares, field } = plan;
  const middle = rectCentre(workArea);
  return {
    ...{ estimate, pooling, fromLog, plan },
    middle: {
      thisLoadMm: thisLoad(seen.estimate),
      nextLoadsMm: radialQuantile(misregistrationAt({ bias: field, covariance, load, shares }, middle), 0.95),
    },
  };
}

/** With the shift of the load that was read. */
const withLoad = (covariance: readonly (readonly number[])[], { shiftMm }: LoadScatter): number[][] =>
  covariance.map((row, i) => row.map((v, j) => (i === j && i > 3 ? v + shiftMm ** 2 : v)));

/** Chance of disagreeing so much by reading alone, below which the two sets are not joined. */
const DISAGREE_P = 1e-3;

/** What is known after the picks: with what the set before led to expect, where the two agree. */
function withBefore(
  { estimate, observations, spot }: Seen,
  expected: Expected | null,
  area: Rect,
): { readonly estimate: FieldEstimate; readonly pooling: Pooling } {
  const alone = joinUntold(estimate, observations);
  if (!expected) return { estimate: alone, pooling: 'alone' };
  const rows = rowsAt(spot, area);
  const before = { mean: inMm(expected.field, area), covariance: covarianceInMm(expected.covariance, area) };
  const [x, y] = observations as [Observation, Observation];
  const noise = [x.uMm ** 2, 0, y.uMm ** 2] as const;
  const { after } = seenAt(before, { rows, y: [x.offsetMm, y.offsetMm], noise });
  const [dx, dy] = [x, y].map((o, i) => o.offsetMm - dot(rows[i]!, before.mean)) as [number, number];
  const [xx, xy, yy] = seenBy(before.covariance, rows);
  const chi2 = mahalanobis2(dx, dy, xx + noise[0], xy, yy + noise[2]);
  if (chiSquareUpper(chi2, 2) < DISAGREE_P) return { estimate: alone, pooling: 'disagrees' };
  const { own: field, covariance: covarianceKnownU } = outOfMm(after, area);
  return { estimate: { ...alone, field, covarianceKnownU }, pooling: 'joined' };
}

const dot = (a: Vector, b: Vector): number => a.reduce((sum, v, i) => sum + v * b[i]!, 0);

/** (dx, dy) in its own standard deviations, squared. */
const mahalanobis2 = (dx: number, dy: number, xx: number, xy: number, yy: number): number =>
  (yy * dx * dx - 2 * xy * dx * dy + xx * dy * dy) / (xx * yy - xy * xy);

const shiftOf = ({ origin, exMm, eyMm }: AffineField): AffineField => ({ ...zeroField(origin), exMm, eyMm });

/** What the picks alone say of the load at hand, where they were read. */
function thisLoad({ field: bias, covarianceKnownU: covariance }: FieldEstimate): number {
  const load = { shiftMm: 0, turnRad: 0, pivot: bias.origin };
  return radialQuantile(misregistrationAt({ bias, covariance, load }, bias.origin), 0.95);
}

/** The two picks as a shift, where they were read. */
interface Seen {
  readonly spot: Point;
  readonly observations: readonly Observation[];
  readonly estimate: FieldEstimate;
}

function seenIn(readings: readonly PassReading[], origin: Point): Seen | null {
  const axes = OFFSET_AXES.map((axis) => {
    const own = readings.filter((r) => r.observation.axis === axis);
    return { own, told: intervalEstimate(own.map((r) => r.interval)) };
  });
  const [across, along] = axes as [(typeof axes)[number], (typeof axes)[number]];
  if (!across.told || !along.told) return null;
  const observations = axes.map(({ own, told }): Observation => ({
    ...own[0]!.observation,
    offsetMm: told!.meanMm,
    uMm: told!.sdMm,
  }));
  const spot = { x: observations[1]!.xMm, y: observations[0]!.yMm };
  const variances = [0, 0, 0, 0, across.told.sdMm ** 2, along.told.sdMm ** 2];
  return {
    spot,
    observations,
    estimate: {
      model: 'shift',
      field: { ...zeroField(origin), exMm: across.told.meanMm, eyMm: along.told.meanMm },
      covarianceKnownU: variances.map((v, i) => variances.map((_, j) => (i === j ? v : 0))),
      noise: { kind: 'given-u', factor: 1 },
    },
  };
}
