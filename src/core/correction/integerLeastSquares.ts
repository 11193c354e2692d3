import { Matrix, QrDecomposition } from 'ml-matrix';

export interface StepBounds {
  readonly lowest: number;
  readonly highest: number;
}

/** Nodes looked at before the best found so far is taken: no change at all to begin with, so never worse than that. */
const NODE_LIMIT = 20_000;

/**
 * Whole numbers w within bounds that minimise ‖y + Σ wᵢ·aᵢ‖² + Σ (costᵢ·wᵢ)².
 *
 * Shapes   `columns` k vectors of the length of `y`; `bounds` and `costs` k; bounds hold 0, where nothing is changed.
 * Method   QR, then depth-first enumeration outward from the conditional optimum, cut off by the best found
 *          (Schnorr & Euchner 1994; Agrell et al. 2002; memory). Exact while within NODE_LIMIT.
 * Why      neighbours of the rounded optimum are not enough when settings act on the same thing: an offset
 *          has to follow what rounding did to a scale about a far anchor.
 */
export function integerLeastSquares(
  columns: readonly (readonly number[])[],
  y: readonly number[],
  bounds: readonly StepBounds[],
  costs: readonly number[],
): number[] {
  const k = columns.length;
  const stacked = columns.map((column, j) => [...column, ...costs.map((cost, i) => (i === j ? cost : 0))]);
  const qr = new QrDecomposition(new Matrix(stacked).transpose());
  const r = qr.upperTriangularMatrix;
  const target = qr.orthogonalMatrix
    .transpose()
    .mmul(Matrix.columnVector([...y.map((v) => -v), ...new Array<number>(k).fill(0)]))
    .to1DArray();

  const current = new Array<number>(k).fill(0);
  const nothing = new Array<number>(k).fill(0);
  let best = bounds.every((b) => b.lowest <= 0 && b.highest >= 0)
    ? { steps: nothing, cost: target.reduce((sum, v) => sum + v * v, 0) }
    : { steps: nothing, cost: Infinity };
  let nodes = 0;
  const descend = (level: number, costSoFar: number): void => {
    let rest = target[level]!;
    for (let j = level + 1; j < k; j += 1) rest -= r.get(level, j) * current[j]!;
    const diagonal = r.get(level, level);
    // A column that moves nothing is best left alone, however far its range goes.
    if (diagonal === 0 || !Number.isFinite(rest / diagonal)) {
      current[level] = Math.min(bounds[level]!.highest, Math.max(bounds[level]!.lowest, 0));
      if (level === 0) {
        if (costSoFar + rest ** 2 < best.cost) best = { steps: [...current], cost: costSoFar + rest ** 2 };
      } else descend(level - 1, costSoFar + rest ** 2);
      return;
    }
    for (const steps of outward(rest / diagonal, bounds[level]!)) {
      const cost = costSoFar + (rest - diagonal * steps) ** 2;
      if (cost >= best.cost || nodes > NODE_LIMIT) return;
      nodes += 1;
      current[level] = steps;
      if (level === 0) best = { steps: [...current], cost };
      else descend(level - 1, cost);
    }
  };
  descend(k - 1, 0);
  return best.steps;
}

/** Whole numbers within bounds by growing distance from a centre. */
function* outward(centre: number, { lowest, highest }: StepBounds): Generator<number> {
  const start = Math.min(highest, Math.max(lowest, Math.round(centre)));
  yield start;
  let down = start - 1;
  let up = start + 1;
  while (down >= lowest || up <= highest) {
    const downFirst = up > highest || (down >= lowest && centre - down <= up - centre);
    yield downFirst ? down-- : up++;
  }
}
