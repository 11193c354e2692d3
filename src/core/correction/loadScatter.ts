import type { EyeOnRecord } from '../fit';
import { coverageFactor, radialFactor } from '../statistics';

import type { LoadScatter } from './prediction';

/** What the first reading of a load found, with what was typed and what its file undid taken out: the rig’s own. */
export interface LoadOnRecord {
  readonly shiftXMm: number;
  readonly shiftYMm: number;
  readonly turnRad: number;
  /** Standard uncertainty of the shift, an axis. */
  readonly shiftUMm: number;
  readonly turnURad: number;
  /** What its own residuals say of who read it. */
  readonly eye: EyeOnRecord;
  /** Something was done to the rig since the load before: the two say nothing about each other. */
  readonly afterEvent: boolean;
}

/** Scatter of loads, and where its figures come from. */
export interface ToldScatter extends LoadScatter {
  readonly from: 'assumed' | 'log';
  /** Loads that were looked at. */
  readonly loads: number;
  /** Residuals of all of them together. */
  readonly eye: EyeOnRecord;
}

/**
 * What is assumed weighs as much as so many degrees of freedom of the log: enough that a log that happens to show no
 * scatter does not promise none, little enough that one of 0.1 mm is not drawn towards 0.03 (`bench -- held`).
 */
const ASSUMED_DOF = 0.5;
/** Degrees of freedom from which a log without scatter counts fully against what is assumed: ten loads. */
const DOF_TO_ARGUE = 12;
/** What stays of it then: no log promises that loads do not differ at all. */
const LEAST_OF_ASSUMED = 1 / 8;
/** Pairs of loads from which the log is asked at all. */
const PAIRS_TO_TELL = 3;
/** A difference beyond so many times the typical one is no scatter: somebody touched the rig and did not say so. */
const JUMP = 4;
const PAIRS_TO_SEE_A_JUMP = 5;
/** Residuals beyond so many times the given u are a misread comb, and say nothing of the eye. */
const MISREAD_FACTOR = 3;
/** Median of |z| of a normal deviate. */
const MEDIAN_OF_DEVIATE = 0.6745;

/**
 * How much loads of a rig differ, from what the log holds of them, oldest first.
 *
 * Method   mean square successive difference of the shifts, an axis, less what reading them adds: a slow walk of the rig
 *          counts little (von Neumann 1941, its degrees of freedom 2(n − 1)²/(3n − 4); from memory). The turn of a
 *          one-mark rig is not corrected, so it is taken about zero. What is assumed is joined by its weight, and as
 *          long as there are few, the figure is widened: the shift, which has two axes, by the radius that holds 95 of
 *          100 (F with 2 degrees above), the turn by Student’s t.
 * Units    mm, rad, standard deviations.
 */
export function scatterOfLoads(record: readonly LoadOnRecord[], assumed: LoadScatter): ToldScatter {
  const differences = withoutJumps(
    record.flatMap((r, i) => {
      const before = record[i - 1];
      if (!before || r.afterEvent) return [];
      return [
        {
          x: r.shiftXMm - before.shiftXMm,
          y: r.shiftYMm - before.shiftYMm,
          readVar: r.shiftUMm ** 2 + before.shiftUMm ** 2,
        },
      ];
    }),
  );
  const pairs = differences.length;
  const loads = record.length;
  const eye = eyeOf(record);
  if (pairs < PAIRS_TO_TELL) return { ...assumed, from: 'assumed', loads, eye };
  const shiftVar =
    differences.reduce((sum, d) => sum + (d.x ** 2 + d.y ** 2) / 2 - d.readVar, 0) / (2 * pairs);
  const shiftDof = (4 * pairs ** 2) / (3 * pairs - 1);
  const turns = assumed.turnRad > 0 ? record : [];
  const turnVar =
    turns.reduce((sum, r) => sum + r.turnRad ** 2 - r.turnURad ** 2, 0) / Math.max(1, turns.length);
  return {
    shiftMm: joined(shiftVar, shiftDof, assumed.shiftMm, radialFactor),
    turnRad: joined(turnVar, turns.length, assumed.turnRad, coverageFactor),
    pivot: assumed.pivot,
    from: 'log',
    loads,
    eye,
  };
}

/** The residuals of all loads that hold no misread comb. */
const eyeOf = (record: readonly LoadOnRecord[]): EyeOnRecord =>
  record
    .map((r) => r.eye)
    .filter(({ chi2, dof }) => chi2 <= MISREAD_FACTOR ** 2 * dof)
    .reduce((all, one) => ({ chi2: all.chi2 + one.chi2, dof: all.dof + one.dof }), { chi2: 0, dof: 0 });

/** A variance of the log with the assumed one, as a standard deviation to promise by. */
function joined(
  variance: number,
  dof: number,
  assumed: number,
  factor: (level: number, dof: number) => number,
): number {
  if (dof === 0) return assumed;
  const all = dof + ASSUMED_DOF;
  const part = (ASSUMED_DOF * assumed ** 2) / all;
  // A log that reads below nothing argues against what is assumed, the less the fewer loads it has; never against all of it.
  const least = part * Math.max(LEAST_OF_ASSUMED, 1 - dof / DOF_TO_ARGUE);
  const mixed = Math.max(least, part + (dof * variance) / all);
  return (Math.sqrt(mixed) * factor(0.95, all)) / factor(0.95, Infinity);
}

interface Difference {
  readonly x: number;
  readonly y: number;
  readonly readVar: number;
}

function withoutJumps(list: readonly Difference[]): readonly Difference[] {
  if (list.length < PAIRS_TO_SEE_A_JUMP) return list;
  const sizes = list.flatMap((d) => [Math.abs(d.x), Math.abs(d.y)]).sort((a, b) => a - b);
  const typical = sizes[Math.floor(sizes.length / 2)]! / MEDIAN_OF_DEVIATE;
  return list.filter((d) => Math.max(Math.abs(d.x), Math.abs(d.y)) <= JUMP * typical);
}
