import { leastSquares } from '../fit';
import { coverageFactor } from '../statistics';
import type { OffsetAxis } from '../units';

import type { PassReading } from '../readings/passReading';

/*
 * Backlash: a carriage that comes from the left stops a little short of where it stops when it comes from the right. A sheet
 * cut one way shows it as shift. Where every other station is cut from the other side, the two are told apart.
 */

/** How far what is cut from the high side lands beyond what is cut from the low side, mm, along one axis. */
export interface Backlash {
  readonly mm: number;
  readonly se: number;
  /** Half-width of its 95 % interval, mm. */
  readonly half95Mm: number;
  /** Its interval leaves out nought, and it is more than one reading can be wrong. */
  readonly real: boolean;
}

export type BacklashTold = Readonly<Record<OffsetAxis, Backlash | null>>;

const NOT_TOLD: BacklashTold = { across: null, along: null };

/** Plane and backlash: three and one. */
const PARAMETERS = 4;

/**
 * Backlash of each axis, its lines read from both sides.
 *
 * Method   weighted least squares of offset = plane in (x, y) ± ½ backlash, an axis by itself; scatter larger than what
 *          was given widens the doubt and is Student's t.
 * Returns  null for an axis that was not read from both sides at enough places.
 */
export function backlashOf(readings: readonly PassReading[]): BacklashTold {
  return { across: ofAxis(readings, 'across'), along: ofAxis(readings, 'along') };
}

function ofAxis(readings: readonly PassReading[], axis: OffsetAxis): Backlash | null {
  const own = readings.filter((r) => r.observation.axis === axis && r.from !== undefined);
  if (own.length <= PARAMETERS || !own.some((r) => r.from === 1) || !own.some((r) => r.from === -1))
    return null;
  const xs = own.map((r) => r.observation.xMm);
  const ys = own.map((r) => r.observation.yMm);
  const middle = (list: readonly number[]): number => (Math.min(...list) + Math.max(...list)) / 2;
  const [cx, cy] = [middle(xs), middle(ys)];
  const reach = Math.max(1, ...xs.map((x) => Math.abs(x - cx)), ...ys.map((y) => Math.abs(y - cy)));
  const solved = leastSquares(
    own.map(({ observation: o, from }) =>
      [(o.xMm - cx) / reach, (o.yMm - cy) / reach, 1, from! / 2].map((v) => v / o.uMm),
    ),
    own.map(({ observation: o }) => o.offsetMm / o.uMm),
  );
  if (!solved.ok) return null;
  const { coefficients, inverseGram, residuals } = solved.value;
  const dof = own.length - PARAMETERS;
  const scatter = Math.sqrt(residuals.reduce((sum, r) => sum + r * r, 0) / dof);
  const se = Math.max(1, scatter) * Math.sqrt(inverseGram.get(3, 3));
  const mm = coefficients[3]!;
  const noise = Math.min(...own.map((r) => r.observation.uMm));
  const half95Mm = coverageFactor(0.95, scatter > 1 ? dof : Infinity) * se;
  return { mm, se, half95Mm, real: Math.abs(mm) > half95Mm && Math.abs(mm) > noise };
}

/** Readings with the backlash that is told taken out: what a cut from both sides lands at on average. */
export function withoutBacklash(
  readings: readonly PassReading[],
  told: BacklashTold = NOT_TOLD,
): readonly PassReading[] {
  if (!told.across?.real && !told.along?.real) return readings;
  return readings.map((r) => {
    const backlash = told[r.observation.axis];
    if (!backlash?.real || r.from === undefined) return r;
    const by = (r.from / 2) * backlash.mm;
    const { loMm, hiMm, acuityMm } = r.interval;
    return {
      ...r,
      observation: { ...r.observation, offsetMm: r.observation.offsetMm - by },
      interval: { loMm: loMm - by, hiMm: hiMm - by, acuityMm },
    };
  });
}
