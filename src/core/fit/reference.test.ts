import reference from '@test/reference/regression.json';

import { fTest } from './fitLadder';
import { fitModel } from './fitModel';
import { leastSquares } from './leastSquares';
import { externallyStudentised } from './studentise';
import type { Observation } from './types';

const { Norris, Longley, stackloss, procrustes } = reference;
const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

function regress(rows: number[][], y: number[]) {
  const solved = leastSquares(rows, y);
  if (!solved.ok) throw new Error(solved.refusal.code);
  const rss = sum(solved.value.residuals.map((r) => r * r));
  const dof = y.length - rows[0]!.length;
  const se = rows[0]!.map((_, i) => Math.sqrt((rss / dof) * solved.value.inverseGram.get(i, i)));
  const studentised = externallyStudentised(solved.value.residuals, solved.value.leverages, rss, dof);
  return { ...solved.value, rss, dof, se, studentised };
}

function expectClose(actual: readonly (number | null)[], wanted: readonly number[], relative: number): void {
  expect(actual).toHaveLength(wanted.length);
  wanted.forEach((w, i) => expect(Math.abs(actual[i]! - w)).toBeLessThanOrEqual(relative * Math.abs(w)));
}

test('Norris: certified coefficients, standard errors and residual sum (NIST StRD)', () => {
  const fit = regress(
    Norris.x!.map((x) => [1, x]),
    Norris.y,
  );
  expectClose(fit.coefficients, Norris.certified.params, 1e-11);
  expectClose(fit.se, Norris.certified.se, 1e-11);
  expect(fit.rss).toBeCloseTo(Norris.certified.ssr_residual, 9);
});

test('Longley, ill-conditioned: certified values (NIST StRD); leverage and rstudent (statsmodels)', () => {
  const fit = regress(
    Longley.X.map((row) => [...row, 1]),
    Longley.y,
  );
  expectClose(fit.coefficients, Longley.certified.params, 1e-9);
  expectClose(fit.se, Longley.certified.se, 1e-9);
  expectClose(fit.leverages, Longley.computed_statsmodels.leverage, 1e-7);
  expectClose(fit.studentised, Longley.computed_statsmodels.rstudent, 1e-6);
});

test('stackloss: coefficients, leverage, rstudent and nested F as R 4.2 computes them', () => {
  const full = regress(
    stackloss.X.map((row) => [1, ...row]),
    stackloss.y,
  );
  expectClose(full.coefficients, stackloss.params, 1e-10);
  expectClose(full.se, stackloss.se, 1e-10);
  expectClose(full.leverages, stackloss.leverage, 1e-10);
  expectClose(full.studentised, stackloss.rstudent, 1e-8);
});

test('nested F and its p-value as R prints them for stackloss', () => {
  // The reference compares the full model with the one that keeps the first regressor only.
  const full = regress(
    stackloss.X.map((row) => [1, ...row]),
    stackloss.y,
  );
  const small = regress(
    stackloss.X.map((row) => [1, row[0]!]),
    stackloss.y,
  );
  const test = fTest(small.rss, small.dof, full.rss, full.dof)!;
  expect(test.F).toBeCloseTo(stackloss.F_nested, 9);
  expect(test.p).toBeCloseTo(stackloss.p_nested, 9);
});

function pairs(src: number[][], dst: number[][]): Observation[] {
  return src.flatMap(([x, y], i) => {
    const at = { stationId: String(i), xMm: x!, yMm: y!, uMm: 1 };
    return [
      { ...at, axis: 'across' as const, offsetMm: dst[i]![0]! - x! },
      { ...at, axis: 'along' as const, offsetMm: dst[i]![1]! - y! },
    ];
  });
}

test('rigid, similarity and affine of eight point pairs (scikit-image test points, numpy)', () => {
  const { src, dst, euclidean, similarity, affine } = procrustes[0]!;
  const fit = (model: 'rigid' | 'similarity' | 'affine') => {
    const found = fitModel(model, pairs(src, dst), { x: 0, y: 0 });
    if (found.status !== 'ok') throw new Error(found.message);
    return found;
  };
  expectClose(Object.values(fit('rigid').params), [euclidean!.theta, ...euclidean!.t], 1e-9);
  expect(fit('rigid').chi2 / euclidean!.rss).toBeCloseTo(1, 9);
  const { a, b, tx, ty } = fit('similarity').params as Record<'a' | 'b' | 'tx' | 'ty', number>;
  expectClose(
    [Math.atan2(b, a), Math.hypot(a, b), tx, ty],
    [similarity!.theta, similarity!.scale, ...similarity!.t],
    1e-10,
  );
  expect(fit('similarity').chi2 / similarity!.rss).toBeCloseTo(1, 10);
  const { rss, ...wanted } = affine!;
  for (const [name, value] of Object.entries(wanted))
    expect(fit('affine').params[name]! / value).toBeCloseTo(1, 10);
  expect(fit('affine').chi2 / rss).toBeCloseTo(1, 10);
});

test('Umeyama 1991, worked example (from memory; figures recomputed with scikit-image)', () => {
  const { src, dst, computed } = procrustes[1]!;
  const found = fitModel('similarity', pairs(src, dst), { x: 0, y: 0 });
  if (found.status !== 'ok') throw new Error(found.message);
  const { a, b, tx, ty } = found.params as Record<'a' | 'b' | 'tx' | 'ty', number>;
  expectClose([Math.hypot(a, b), tx, ty], [computed!.c, ...computed!.t], 1e-9);
  expectClose([a / computed!.c, b / computed!.c], [computed!.R[0]![0]!, computed!.R[1]![0]!], 1e-9);
});
