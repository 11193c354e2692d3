import type { Point } from '../geometry';
import { accept, refuse, type Outcome } from '../outcome';

import { leastSquares } from './leastSquares';
import { scaled, undetermined, type Frame, type Solution } from './modelFrame';
import type { FitRefusal, Observation } from './types';

/**
 * d = B·(p − c) + e + bow·y²: affine with a quadratic along the feed on each axis, by weighted least squares.
 *
 * Units    mm; bowX and bowY in mm per mm² of raw y, the other parameters of T as for the affine model.
 * Method   columns x, y, y², 1 in centred and scaled places; the field handed on is the tangent at `tangentAt`.
 * Source   docs/maths.md, “Fitting”, roll.
 * Refuses  not-determined, for example with stations at only two distances.
 */
export function solveRoll(
  observations: readonly Observation[],
  frame: Frame,
  tangentAt: Point,
): Outcome<Solution, FitRefusal> {
  const rows = observations.map((o) => {
    const q = scaled(o, frame);
    const own = [q.x, q.y, q.y * q.y, 1];
    const none = [0, 0, 0, 0];
    return (o.axis === 'across' ? [...own, ...none] : [...none, ...own]).map((v) => v / o.uMm);
  });
  const solved = leastSquares(
    rows,
    observations.map((o) => o.offsetMm / o.uMm),
  );
  if (!solved.ok) return refuse(undetermined(solved.refusal));
  const beta = solved.value.coefficients;
  const { reachMm: reach, centre } = frame;
  const at = { x: (tangentAt.x - centre.x) / reach, y: (tangentAt.y - centre.y) / reach };
  // Of one axis: slope along x, slope along y and value of the tangent, by its four coefficients.
  const slopeX = [1 / reach, 0, 0, 0];
  const slopeY = [0, 1 / reach, (2 * at.y) / reach, 0];
  const value = [at.x, at.y, at.y * at.y, 1];
  const zero = [0, 0, 0, 0];
  const jacobian = [
    [...slopeX, ...zero],
    [...slopeY, ...zero],
    [...zero, ...slopeX],
    [...zero, ...slopeY],
    [...value, ...zero],
    [...zero, ...value],
  ];
  const of = (row: readonly number[]): number => row.reduce((sum, v, j) => sum + v * beta[j]!, 0);
  const [b11, b12, b21, b22, exMm, eyMm] = jacobian.map(of) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];

  // The same in raw mm about (0, 0): y² = (reach·q + yc)².
  const yc = centre.y / reach;
  const xc = centre.x / reach;
  const raw: Readonly<Record<string, readonly number[]>> = {
    a11: [...slopeX, ...zero],
    a12: [0, 1 / reach, (-2 * yc) / reach, 0, ...zero],
    a21: [...zero, ...slopeX],
    a22: [...zero, 0, 1 / reach, (-2 * yc) / reach, 0],
    tx: [-xc, -yc, yc * yc, 1, ...zero],
    ty: [...zero, -xc, -yc, yc * yc, 1],
    bowX: [0, 0, 1 / (reach * reach), 0, ...zero],
    bowY: [...zero, 0, 0, 1 / (reach * reach), 0],
  };
  const gram = solved.value.inverseGram;
  const variance = (row: readonly number[]): number =>
    row.reduce((sum, v, i) => sum + v * row.reduce((s, w, j) => s + w * gram.get(i, j), 0), 0);
  return accept({
    solved: solved.value,
    field: { origin: tangentAt, b11, b12, b21, b22, exMm, eyMm },
    jacobian,
    roll: {
      params: Object.fromEntries(
        Object.entries(raw).map(([name, row]) => [name, of(row) + Number(name === 'a11' || name === 'a22')]),
      ),
      se: Object.fromEntries(
        Object.entries(raw).map(([name, row]) => [name, Math.sqrt(Math.max(0, variance(row)))]),
      ),
    },
  });
}
