import type { AffineField } from '../fit';
import type { LoadScatter } from '../correction';
import { rectCentre, type Point, type Rect } from '../geometry';

import { covarianceInMm, inMm, outOfMm, rowsAt, scaleOf } from './scales';
import {
  momentsOf,
  plus,
  seen,
  seenAt,
  seenBy,
  widened,
  SIZE,
  type Gaussian,
  type Spot,
  type Square,
  type Vector,
  type Weighted,
} from './gaussian';

/** The rig's own misregistration as one load told it: what was typed and what its file undid are taken out. */
export interface LoadTold {
  readonly atDays: number;
  /** About the middle of the work area. */
  readonly own: AffineField;
  /** 6 × 6, of (b11, b12, b21, b22, ex, ey): reading alone. */
  readonly covariance: readonly (readonly number[])[];
  /** Something was done to the rig since the load before: what was known of where it stands is known no more. */
  readonly afterEvent: boolean;
  /** Doubt of what was typed since the load before, 6 × 6; null when nothing was. */
  readonly typedCovariance: readonly (readonly number[])[] | null;
  /**
   * Of a check at one place: where it was. Then only the shift of `own` counts, as read there, with its variances, and it
   * sharpens what full loads have told; by itself it tells nothing.
   */
  readonly spot?: Point | undefined;
}

/** What the log expects of the rig's own misregistration, before anything is read of the next load. */
export interface LogPrior {
  readonly version: string;
  /** Full loads that were looked through, and those since something was last done to the rig. */
  readonly loads: number;
  readonly sinceEvent: number;
  /** One belief for each way the rig may walk and its loads may scatter, by how well that explains the log. */
  readonly parts: readonly Part[];
  readonly workArea: Rect;
  readonly load: LoadScatter;
}

interface Walk {
  /** Scatter of loads, a standard deviation per axis, mm. */
  readonly loadMm: number;
  /** Walk of the shift and of the linear terms at the edge of the work area, mm in the square root of a day. */
  readonly shiftMm: number;
  readonly linearMm: number;
}
interface Part extends Weighted, Walk {}

export const LOG_PRIOR_VERSION = 'log-prior-2';

/** Loads since the last event from which the log is asked. */
export const LOADS_TO_TELL = 3;

/*
 * Ways a rig may be, with weights before the log is asked; no published source. A log of a few loads leaves them as they
 * are, one of many tells them apart: what is promised is averaged over them instead of resting on one best guess.
 */
const LOADS_MM = [0.012, 0.02, 0.033, 0.055, 0.09];
const WALKS_MM = [0.0005, 0.002, 0.006, 0.018];
const LINEAR_WALKS_MM = [0.0005, 0.004];
const USUAL_LOAD_MM = 0.03;
const USUAL_WALK_MM = 0.0015;
const SPREAD_OF_LN_LOAD = 0.7;
const SPREAD_OF_LN_WALK = 1.5;

/**
 * How a rig may have jumped between two loads although nobody said so: shift and linear terms, mm, standard deviations.
 * A mixture, not a gate: a load that contradicts weakly counts weakly (Gordon & Smith 1990, dynamic mixtures; from memory).
 */
const JUMPS = [
  { chance: 0.68, shiftMm: 0, linearMm: 0 },
  { chance: 0.07, shiftMm: 0.12, linearMm: 0.02 },
  { chance: 0.22, shiftMm: 0.3, linearMm: 0.06 },
  { chance: 0.03, shiftMm: 1, linearMm: 0.3 },
];

const WALKS: readonly (Walk & { readonly weight: number })[] = LOADS_MM.flatMap((loadMm) =>
  WALKS_MM.flatMap((shiftMm) =>
    LINEAR_WALKS_MM.map((linearMm) => ({
      ...{ loadMm, shiftMm, linearMm },
      weight: Math.exp(
        -0.5 *
          ((Math.log(loadMm / USUAL_LOAD_MM) / SPREAD_OF_LN_LOAD) ** 2 +
            (Math.log(shiftMm / USUAL_WALK_MM) / SPREAD_OF_LN_WALK) ** 2),
      ),
    })),
  ),
);

/** Variances of the six, mm². */
const spread = ({ shiftMm, linearMm }: { shiftMm: number; linearMm: number }, times = 1): Vector => {
  const [linear, shift] = [times * linearMm ** 2, times * shiftMm ** 2];
  return Float64Array.of(linear, linear, linear, linear, shift, shift);
};
/** What is done to a rig may move its cut anywhere, and what it stretches or turns it by little; no published source. */
const EVENT = { shiftMm: 3, linearMm: 0.3 };
const JUMPED = JUMPS.map((jump) => ({ log: Math.log(jump.chance), variances: spread(jump) }));

/** What differs from load to load, as a covariance: a shift, and the turn of a rig with one mark. */
function scatterOf(loadMm: number, { turnRad, pivot }: LoadScatter, area: Rect): Square {
  const plain = widened(new Float64Array(SIZE * SIZE), spread({ shiftMm: loadMm, linearMm: 0 }));
  if (turnRad === 0) return plain;
  const scale = scaleOf(area);
  const centre = rectCentre(area);
  const turn = [0, -1, 1, 0, pivot.y - centre.y, centre.x - pivot.x].map((v, i) => v * scale[i]! * turnRad);
  return plain.map((v, k) => v + turn[Math.floor(k / SIZE)]! * turn[k % SIZE]!);
}

/**
 * Goes through the loads of a setup, oldest first, and says what the next one should find.
 *
 * Method   local level in six coefficients with load scatter as noise (Harvey 1989; from memory), for each of a grid of
 *          walks and scatters, weighted by the likelihood of the log (an average over the restricted likelihood, the
 *          start being diffuse, instead of its maximum); jumps nobody logged as a mixture that is collapsed after each
 *          load; an event forgets where the rig stood, not how it walks.
 * Returns  null when too few loads are on record since something was done to the rig: `leastLoads`, three where the log
 *          stands beside readings that tell all terms. With nought what stood before the event counts, within what such
 *          an event may have moved.
 */
export function logPrior(
  loads: readonly LoadTold[],
  workArea: Rect,
  load: LoadScatter,
  now: {
    readonly atDays: number;
    readonly afterEvent: boolean;
    readonly typedCovariance: LoadTold['typedCovariance'];
  },
  leastLoads = LOADS_TO_TELL,
): LogPrior | null {
  const lastEvent = now.afterEvent ? loads.length : loads.findLastIndex((l) => l.afterEvent);
  const full = (list: readonly LoadTold[]): number => list.filter((l) => !l.spot).length;
  const sinceEvent = full(loads.slice(Math.max(0, lastEvent)));
  if (sinceEvent < leastLoads || full(loads) === 0) return null;
  const told = loads.map((l, i) => ({
    y: inMm(l.own, workArea),
    noise: covarianceInMm(l.covariance, workArea),
    rows: l.spot ? rowsAt(l.spot, workArea) : null,
    afresh: i === 0 || l.afterEvent,
    days: i === 0 ? 0 : Math.max(0, l.atDays - loads[i - 1]!.atDays),
    typed: l.typedCovariance && covarianceInMm(l.typedCovariance, workArea),
  }));
  let ways = WALKS.map((walk) => ({
    walk,
    scatter: scatterOf(walk.loadMm, load, workArea),
    belief: null as Gaussian | null,
    log: Math.log(walk.weight),
  }));
  for (const { y, noise, rows, afresh, days, typed } of told) {
    ways = ways.map((way) => {
      // The first sight of a rig, wherever it stands, is all that is known of it, and tells nothing of how it walks.
      if (afresh || !way.belief)
        return rows
          ? { ...way, belief: null }
          : { ...way, belief: { mean: y, covariance: plus(noise, way.scatter) } };
      const before = walked(way.belief, way.walk, days, typed);
      const step = rows
        ? lookAt(before, spotOf(rows, y, noise, way.scatter))
        : look(before, y, noise, way.scatter);
      return { ...way, belief: step.after, log: way.log + step.logDensity };
    });
    const best = Math.max(...ways.map((way) => way.log));
    ways = ways.filter((way) => way.log > best - LET_GO);
  }
  const best = Math.max(...ways.map((way) => way.log));
  const rest = Math.max(0, now.atDays - loads.at(-1)!.atDays);
  const typed = now.typedCovariance && covarianceInMm(now.typedCovariance, workArea);
  const parts = ways.flatMap(({ walk, belief, log }) => {
    if (!belief) return [];
    const here = walked(belief, walk, rest, typed);
    const covariance = sinceEvent === 0 ? widened(here.covariance, spread(EVENT)) : here.covariance;
    return [{ ...walk, mean: here.mean, covariance, weight: Math.exp(log - best) }];
  });
  return { version: LOG_PRIOR_VERSION, loads: full(loads), sinceEvent, parts, workArea, load };
}

/** Explanations that are so much less likely than the best, in logarithms, are let go. */
const LET_GO = 7;

const walked = (b: Gaussian, walk: Walk, days: number, typed: Square | null): Gaussian => {
  const apart = widened(b.covariance, spread(walk, days));
  return { mean: b.mean, covariance: typed ? plus(apart, typed) : apart };
};

interface Looked {
  readonly after: Gaussian;
  readonly logDensity: number;
  /** The chance that it has jumped since the load before. */
  readonly jumped: number;
}

const spotOf = (rows: Spot['rows'], y: Vector, noise: Square, scatter: Square): Spot => {
  const [xx, xy, yy] = seenBy(scatter, rows);
  const read = (i: number): number => noise[(SIZE + 1) * i]!;
  return { rows, y: [y[4]!, y[5]!], noise: [xx + read(4), xy, yy + read(5)] };
};

/** A load is looked at: whether the rig stayed or jumped is part of what it tells. */
const look = (before: Gaussian, y: Vector, noise: Square, scatter: Square): Looked => {
  const r = plus(noise, scatter);
  return looked(before, (belief) => seen(belief, y, r));
};

/** A check at one place is looked at in the same way. */
const lookAt = (before: Gaussian, spot: Spot): Looked => looked(before, (belief) => seenAt(belief, spot));

function looked(before: Gaussian, see: (belief: Gaussian) => ReturnType<typeof seen>): Looked {
  const ways = JUMPED.map(({ log, variances }) => {
    const one = see({ mean: before.mean, covariance: widened(before.covariance, variances) });
    return { mean: one.after.mean, covariance: one.after.covariance, log: log + one.logDensity };
  });
  const most = Math.max(...ways.map((w) => w.log));
  const weighted = ways.map(({ mean, covariance, log }) => ({
    mean,
    covariance,
    weight: Math.exp(log - most),
  }));
  const all = weighted.reduce((sum, w) => sum + w.weight, 0);
  return {
    after: momentsOf(weighted),
    logDensity: most + Math.log(all),
    jumped: 1 - weighted[0]!.weight / all,
  };
}

/** What the log and a load tell together of the rig. */
export interface WithLog {
  /** The rig's own, about the middle of the work area: what loads to come scatter about. */
  readonly own: AffineField;
  readonly covariance: readonly (readonly number[])[];
  /** The chance that the rig has moved since the load before although nobody logged it. */
  readonly moved: number;
}

/** Joins what a load told of the rig's own with what the log expects. */
export function withLog(prior: LogPrior, told: Pick<LoadTold, 'own' | 'covariance'>): WithLog {
  const { workArea, load } = prior;
  const y = inMm(told.own, workArea);
  const noise = covarianceInMm(told.covariance, workArea);
  const beliefs = prior.parts.map((part) => {
    const one = look(part, y, noise, scatterOf(part.loadMm, load, workArea));
    return { ...one, log: Math.log(part.weight) + one.logDensity };
  });
  const most = Math.max(...beliefs.map((l) => l.log));
  const parts = beliefs.map((l) => ({ ...l.after, weight: Math.exp(l.log - most), jumped: l.jumped }));
  const all = parts.reduce((sum, p) => sum + p.weight, 0);
  return {
    ...outOfMm(momentsOf(parts), workArea),
    moved: parts.reduce((sum, p) => sum + (p.weight / all) * p.jumped, 0),
  };
}

/** What the log expects before anything is read. */
export const expectedByLog = (prior: LogPrior): Omit<WithLog, 'moved'> =>
  outOfMm(momentsOf(prior.parts), prior.workArea);
