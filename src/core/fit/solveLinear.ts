import type { Point } from '../geometry';
import { accept, type Outcome, refuse } from '../outcome';

import { leastSquares, type LeastSquares, leastSquaresApart, type LeastSquaresRefusal } from './leastSquares';
import { type Frame, scaled, type Solution, undetermined } from './modelFrame';
import { unitRow } from './propagate';
import type { FitRefusal, Observation } from './types';

/** Design row of the similarity at scaled place q; the intercepts come last. */
const similarityRow = (across: boolean, q: Point): number[] =>
  across ? [q.x, -q.y, 1, 0] : [q.y, q.x, 0, 1];

/** How the linear coefficients (per reach) make up (b11, b12, b21, b22), and where the two intercepts stand. */
const LINEAR_PATTERN = {
  shift: { linear: [[], [], [], []], intercepts: [0, 1] },
  similarity: {
    linear: [
      [1, 0],
      [0, -1],
      [0, 1],
      [1, 0],
    ],
    intercepts: [2, 3],
  },
  // One axis after the other: b11, b12, across; b21, b22, along.
  affine: {
    linear: [
      [1, 0, 0, 0, 0],
      [0, 1, 0, 0, 0],
      [0, 0, 0, 1, 0],
      [0, 0, 0, 0, 1],
    ],
    intercepts: [2, 5],
  },
} as const;

/** Weighted rows and values of a linear model, solved; shift and affine an axis at a time, since neither ties the two. */
function solvedRows(
  model: 'shift' | 'similarity' | 'affine',
  observations: readonly Observation[],
  frame: Frame,
): Outcome<LeastSquares, LeastSquaresRefusal> {
  const values = observations.map((o) => o.offsetMm / o.uMm);
  if (model === 'similarity')
    return leastSquares(
      observations.map((o) => similarityRow(o.axis === 'across', scaled(o, frame)).map((v) => v / o.uMm)),
      values,
    );
  const rows = observations.map((o) => {
    if (model === 'shift') return [1 / o.uMm];
    const q = scaled(o, frame);
    return [q.x / o.uMm, q.y / o.uMm, 1 / o.uMm];
  });
  return leastSquaresApart(
    rows,
    values,
    observations.map((o) => o.axis === 'across'),
  );
}

export function solveLinear(
  model: 'shift' | 'similarity' | 'affine',
  observations: readonly Observation[],
  frame: Frame,
): Outcome<Solution, FitRefusal> {
  const solved = solvedRows(model, observations, frame);
  if (!solved.ok) return refuse(undetermined(solved.refusal));
  const beta = solved.value.coefficients;
  const k = beta.length;
  const { linear, intercepts } = LINEAR_PATTERN[model];
  const jacobian = [
    ...linear.map((row) => Array.from({ length: k }, (_, j) => (row[j] ?? 0) / frame.reachMm)),
    unitRow(k, intercepts[0]),
    unitRow(k, intercepts[1]),
  ];
  const [b11, b12, b21, b22, exMm, eyMm] = jacobian.map((row) =>
    row.reduce((sum, v, j) => sum + v * beta[j]!, 0),
  ) as [number, number, number, number, number, number];
  const field = { origin: frame.centre, b11, b12, b21, b22, exMm, eyMm };
  return accept({ solved: solved.value, field, jacobian });
}
