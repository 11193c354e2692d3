import tQuantile from '@stdlib/stats-base-dists-t-quantile';

import { conclusions, suspectReadings, type FittedModels } from './fitLadder';
import type { ModelFit } from './types';

/* Which readings look odd, and which model explains: by limits that are written out here. */

const fitWith = (studentised: readonly number[], dof: number): ModelFit =>
  ({
    dof,
    observations: studentised.map((s, i) => ({
      ...{ stationId: `S${i}`, axis: 'across', studentised: s },
      ...{ residualMm: 1 },
    })),
  }) as unknown as ModelFit;

test.each([
  [18, 12],
  [36, 30],
  [8, 2],
])(
  'of %i readings with %i degrees of freedom one is odd beyond the Bonferroni limit, and not before',
  (n, dof) => {
    // Two-sided at 0.05 of all of them together; an outside residual has one degree of freedom less (Cook & Weisberg 1982, 2.2).
    const limit = tQuantile(1 - 0.05 / (2 * n), dof - 1);
    const plain = tQuantile(0.975, dof - 1);
    expect(limit).toBeGreaterThan(1.3 * plain);
    const rest = Array.from({ length: n - 1 }, () => 0.4);
    const odd = (studentised: number): number =>
      suspectReadings(fitWith([...rest, studentised], dof), []).length;
    expect([odd((plain + limit) / 2), odd(limit * 0.999), odd(limit * 1.001), odd(-limit * 1.001)]).toEqual([
      0, 0, 1, 1,
    ]);
    expect(suspectReadings(fitWith([99], 1), [])).toEqual([]);
  },
);

test.each([
  [20, 12, 'affine'],
  [20, 10.1, 'affine'],
  [20, 9.9, 'projective'],
  [20, 25, 'affine'],
])('an affine of AIC %f beside a projective of %f: the %s explains', (affine, projective, wanted) => {
  const model = (name: string, aicKnownU: number): ModelFit =>
    ({ status: 'ok', model: name, aicKnownU, dof: 10, chi2: 10, observations: [] }) as unknown as ModelFit;
  const models = {
    affine: model('affine', affine),
    projective: model('projective', projective),
  } as FittedModels;
  expect(conclusions(models, [])).toMatchObject({ recommended: wanted, widest: 'affine' });
});

test('what lies within its own uncertainty is no misreading, however well the others agree', () => {
  const fit = fitWith([0.1, 0.1, 0.1, 0.1, 0.1, 0.1, 0.1, 400], 4);
  const of = (uMm: number) =>
    suspectReadings(fit, [{ stationId: 'S7', axis: 'across', uMm } as never]).map((s) => s.stationId);
  // A residual of 1 mm: beyond twice 0.49, within twice 0.51.
  expect([of(0.49), of(0.51)]).toEqual([['S7'], []]);
});
