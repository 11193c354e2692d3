import { SAME } from '../tolerance';
import { rectCentre, rectLattice, type Point, type Rect } from '../geometry';
import type { OffsetAxis } from '../units';

export interface ReadComb {
  readonly at: Point;
  readonly axis: OffsetAxis;
  readonly uMm: number;
}

export interface NextStation {
  /** The station that tells most now; null when all are read. */
  readonly stationId: string | null;
  /** What 95 of 100 cuts stay within on average over the work area, of a rig that is true: by what is read, and with it. */
  readonly nowMm: number;
  readonly thenMm: number;
  /** One more would change nothing that anybody could see. */
  readonly enough: boolean;
}

/** Before anything is read a rig is taken to be so far out at most, mm, and so many mm per mm. */
const PRIOR_SHIFT_MM = 3;
const PRIOR_LINEAR = 0.01;
/** Less than this, and less than this share, is nothing. */
const NOTHING_MM = 0.005;
const NOTHING_SHARE = 0.02;
const LATTICE = 5;
/** Radius of 95 of 100 over σ of an axis, without bias (Rayleigh, closed form). */
const R95_OF_SD = Math.sqrt(-2 * Math.log(0.05));

type Covariance = readonly (readonly number[])[];

/**
 * Which station to read next: the one after which 95 of 100 cuts stay within least, on average over the work area.
 *
 * Model     offset = shift + two slopes on each axis (the affine fit), wide priors so that it says something from the first
 *           reading on; a read comb shrinks the covariance by a rank-one update (recursive least squares).
 * Criterion mean r95 over a lattice, greedy; scatter of the load that tells and of the next one included, so that it stops
 *           where loads differ more than readings do.
 */
export function nextStation(
  stations: readonly { readonly id: string; readonly centre: Point }[],
  read: readonly (ReadComb & { readonly stationId: string })[],
  workArea: Rect,
  uMm: number,
  loadSdMm: number,
): NextStation {
  const middle = rectCentre(workArea);
  const row = (p: Point): number[] => [p.x - middle.x, p.y - middle.y, 1];
  const lattice = rectLattice(workArea, LATTICE, LATTICE).map(row);
  const told = { across: PRIOR, along: PRIOR };
  for (const r of read) told[r.axis] = updated(told[r.axis], row(r.at), r.uMm);
  const within = ({ across, along }: Readonly<Record<OffsetAxis, Covariance>>): number =>
    lattice.reduce(
      (sum, p) =>
        sum + R95_OF_SD * Math.sqrt((variance(across, p) + variance(along, p)) / 2 + 2 * loadSdMm ** 2),
      0,
    ) / lattice.length;
  const nowMm = within(told);
  const with_ = (at: Point, id: string): number => {
    const missing = (axis: OffsetAxis): boolean => !read.some((r) => r.stationId === id && r.axis === axis);
    return within({
      across: missing('across') ? updated(told.across, row(at), uMm) : told.across,
      along: missing('along') ? updated(told.along, row(at), uMm) : told.along,
    });
  };
  const open = stations.filter(
    ({ id }) => new Set(read.filter((r) => r.stationId === id).map((r) => r.axis)).size < 2,
  );
  const best = open
    .map(({ id, centre }) => ({ id, thenMm: with_(centre, id) }))
    .reduce<{ id: string; thenMm: number } | null>(
      (b, s) => (b === null || s.thenMm < b.thenMm - SAME ? s : b),
      null,
    );
  const thenMm = best?.thenMm ?? nowMm;
  return {
    stationId: best?.id ?? null,
    nowMm,
    thenMm,
    enough: nowMm - thenMm < Math.max(NOTHING_MM, NOTHING_SHARE * nowMm),
  };
}

const PRIOR: Covariance = [
  [PRIOR_LINEAR ** 2, 0, 0],
  [0, PRIOR_LINEAR ** 2, 0],
  [0, 0, PRIOR_SHIFT_MM ** 2],
];

const times = (p: Covariance, r: readonly number[]): number[] =>
  p.map((line) => line.reduce((sum, v, j) => sum + v * r[j]!, 0));

const variance = (p: Covariance, r: readonly number[]): number =>
  times(p, r).reduce((sum, v, i) => sum + v * r[i]!, 0);

function updated(p: Covariance, r: readonly number[], uMm: number): Covariance {
  const pr = times(p, r);
  const total = pr.reduce((sum, v, i) => sum + v * r[i]!, 0) + uMm ** 2;
  return p.map((line, i) => line.map((v, j) => v - (pr[i]! * pr[j]!) / total));
}
