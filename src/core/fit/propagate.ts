import type { Point } from '../geometry';

export const unitRow = (length: number, at: number): number[] =>
  Array.from({ length }, (_, i) => Number(i === at));

/** J·C·Jᵀ. */
export function propagate(
  jacobian: readonly (readonly number[])[],
  c: readonly (readonly number[])[],
): number[][] {
  return jacobian.map((left) =>
    jacobian.map((right) =>
      left.reduce((sum, l, i) => sum + l * right.reduce((s, r, j) => s + r * c[i]![j]!, 0), 0),
    ),
  );
}

/** Covariance of the field's coefficients when its origin moves: e′ = e + B·(to − from). */
export function moveCovariance(c: readonly (readonly number[])[], from: Point, to: Point): number[][] {
  const dx = to.x - from.x;
  const dy = to.y - from.y;
  const jacobian = Array.from({ length: 6 }, (_, i) => unitRow(6, i));
  jacobian[4] = [dx, dy, 0, 0, 1, 0];
  jacobian[5] = [0, 0, dx, dy, 0, 1];
  return propagate(jacobian, c);
}
