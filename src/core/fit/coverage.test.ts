import { normalDeviate, seededRandom } from '../random/random';
import { termsAbout } from '../rigsim';
import { coverageFactor } from '../statistics';
import type { ProofSheet } from '../proof';
import { A4_CENTRE, observe, proofSheet, TRUE_TERMS } from '@test/sheets';

import { transformToField } from './field';
import { fitModel } from './fitModel';
import { intervalDof } from './noise';
import { TERM_NAMES, type Terms } from './types';

const LEVER_MM = 140;

/** Puts every comb of a sheet at phase zero: what happens when the combs are not staggered. */
const unstaggered = (sheet: ProofSheet): ProofSheet => ({
  ...sheet,
  stations: sheet.stations.map((s) => ({
    ...s,
    across: { ...s.across, phaseMm: 0 },
    along: { ...s.along, phaseMm: 0 },
  })),
});

/** As many rigs as what is looked for needs: a share near 95 % many, a failure by a fifth few. */
function trial(
  rigs: number,
  truthOf: (deviate: () => number) => Terms,
  change: (sheet: ProofSheet) => ProofSheet,
) {
  const random = seededRandom(20261123);
  const covered = Object.fromEntries(TERM_NAMES.map((name) => [name, 0])) as Record<keyof Terms, number>;
  const squares = Object.fromEntries(TERM_NAMES.map((name) => [name, 0])) as Record<keyof Terms, number>;
  for (let i = 0; i < rigs; i += 1) {
    const truth = truthOf(() => normalDeviate(random));
    const sheet = change(proofSheet({ secondSet: false, seed: Math.floor(random() * 1e6) }));
    const field = transformToField(termsAbout(truth, A4_CENTRE), A4_CENTRE);
    const fit = fitModel('affine', observe(sheet, 1, field, random), A4_CENTRE);
    if (fit.status !== 'ok') throw new Error(fit.message);
    const factor = coverageFactor(0.95, intervalDof(fit.noise, fit.dof));
    for (const name of TERM_NAMES) {
      const error = fit.terms[name] - truth[name];
      if (Math.abs(error) <= factor * fit.termSe[name]) covered[name] += 1 / rigs;
      squares[name] += (error / (fit.termSe[name] / fit.noise.factor)) ** 2 / rigs;
    }
  }
  const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
  return {
    covered,
    pooled: mean(Object.values(covered)),
    ratioToBound: Math.sqrt(mean(Object.values(squares))),
    shiftRatio: Math.sqrt((squares.shiftXMm + squares.shiftYMm) / 2),
  };
}

const nearlyPlumb = (deviate: () => number): Terms => ({
  shiftXMm: 0.02 * deviate(),
  shiftYMm: 0.02 * deviate(),
  turnRad: (0.02 / LEVER_MM) * deviate(),
  scaleAcross: 1 + (0.02 / LEVER_MM) * deviate(),
  scaleAlong: 1 + (0.02 / LEVER_MM) * deviate(),
  leanRad: (0.02 / LEVER_MM) * deviate(),
});

test('staggered combs: nearly plumb rigs within 1.05 of the least-squares bound, intervals cover 93 to 98 %', () => {
  const result = trial(800, nearlyPlumb, (sheet) => sheet);
  expect(result.ratioToBound).toBeLessThan(1.05);
  expect(result.pooled).toBeGreaterThan(0.93);
  expect(result.pooled).toBeLessThan(0.98);
  for (const share of Object.values(result.covered)) expect(share).toBeGreaterThan(0.93);
});

test('without stagger a rig that is 0.03 mm off shows the same rounding everywhere: error and coverage fail', () => {
  const shifted = (): Terms => ({ ...TRUE_TERMS, shiftXMm: 0.03, shiftYMm: 0.03 });
  const flat = trial(200, shifted, unstaggered);
  expect(flat.shiftRatio).toBeGreaterThan(1.2);
  expect(flat.covered.shiftXMm).toBeLessThan(0.85);
  const staggered = trial(300, shifted, (sheet) => sheet);
  expect(staggered.shiftRatio).toBeLessThan(1.05);
  expect(staggered.covered.shiftXMm).toBeGreaterThan(0.93);
});
