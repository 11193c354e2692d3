import { areaVector, planCorrection, scatterOfLoads, shiftScatter } from '../src/core/correction';
import { addFields, fitModel, transformToField, type AffineField } from '../src/core/fit';
import { normalDeviate, seededRandom } from '../src/core/random/random';
import { termsAbout } from '../src/core/rigsim';
import { A4_AREA, A4_CENTRE, observe, proofSheet } from '../test/sheets';

/*
 * When to leave a rig alone: the mean square error of the next load, over the work area, when everything is corrected whose
 * fitted mean square exceeds so many times its estimation variance; against the better of correcting always and never.
 */

const RATIOS = [0, 1, 2, 3, 4] as const;
const SCATTERS_MM = [0, 0.03, 0.06, 0.1] as const;
/** How far out rigs are, as a share of a new one: plumb ones, ones that have crept, untouched ones. */
const OUT = [0, 0.1, 0.2, 0.4, 1] as const;
const RIGS = 400;

const square = (field: AffineField): number => areaVector(field, A4_AREA).reduce((sum, v) => sum + v * v, 0);

/** Mean square errors of the next load without and with the correction, and the ratio the rule looks at. */
function rigsOf(scatterMm: number, out: number) {
  const random = seededRandom(Math.round(1000 * scatterMm) + Math.round(100 * out) + 1);
  const deviate = (sd: number): number => sd * normalDeviate(random);
  const load = (field: AffineField): AffineField => ({
    ...field,
    exMm: field.exMm + deviate(scatterMm),
    eyMm: field.eyMm + deviate(scatterMm),
  });
  return Array.from({ length: RIGS }, (_, i) => {
    const truth = transformToField(
      termsAbout(
        {
          ...{ shiftXMm: deviate(0.4 * out), shiftYMm: deviate(0.4 * out), turnRad: deviate(0.0005 * out) },
          ...{ scaleAcross: 1 + deviate(0.0005 * out), scaleAlong: 1 + deviate(0.0005 * out) },
          leanRad: deviate(0.0003 * out),
        },
        A4_CENTRE,
      ),
      A4_CENTRE,
    );
    const fit = fitModel('affine', observe(proofSheet({ seed: i + 1 }), 1, load(truth), random), A4_CENTRE);
    if (fit.status !== 'ok') throw new Error(fit.message);
    const scatter = scatterOfLoads([], shiftScatter(scatterMm));
    const plan = planCorrection(fit, [], A4_AREA, scatter, 0.035);
    const next = load(truth);
    return {
      ratio: plan.meanSquareMm2 / plan.estimationVarianceMm2,
      left: square(next),
      corrected: square(addFields(next, plan.field, -1)),
    };
  });
}

export function leaveBench(): void {
  console.log(
    'mean square error of the next load, as a multiple of the better of always and never correcting:',
  );
  console.log(`| load scatter, mm | out by | ${RATIOS.map((r) => `ratio ${r}`).join(' | ')} |`);
  console.log(`| --- | --- | ${RATIOS.map(() => '---').join(' | ')} |`);
  const costs = RATIOS.map(() => [] as number[]);
  for (const scatterMm of SCATTERS_MM)
    for (const out of OUT) {
      // Nothing wrong and all loads alike: there is nothing to compare with.
      if (scatterMm === 0 && out === 0) continue;
      const list = rigsOf(scatterMm, out);
      const mean = (of: (r: (typeof list)[number]) => number): number =>
        list.reduce((sum, r) => sum + of(r), 0) / list.length;
      const best = Math.max(
        1e-9,
        Math.min(
          mean((r) => r.left),
          mean((r) => r.corrected),
        ),
      );
      const row = RATIOS.map((limit, j) => {
        const cost = mean((r) => (r.ratio > limit ? r.corrected : r.left)) / best;
        costs[j]!.push(cost);
        return cost.toFixed(2);
      });
      console.log(`| ${scatterMm} | ${out} | ${row.join(' | ')} |`);
    }
  console.log(
    `over all: ${RATIOS.map((r, j) => `ratio ${r} mean ${(costs[j]!.reduce((a, b) => a + b, 0) / costs[j]!.length).toFixed(3)}, worst ${Math.max(...costs[j]!).toFixed(2)}`).join('; ')}`,
  );
}
