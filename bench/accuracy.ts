import {
  areaVector,
  declaredEffect,
  shiftScatter,
  planCorrection,
  solveSettings,
  type MachineSetting,
} from '../src/core/correction';
import {
  addFields,
  fieldPrediction,
  fitModel,
  intervalDof,
  transformToField,
  type AffineField,
} from '../src/core/fit';
import { rectLattice } from '../src/core/geometry';
import { normalDeviate, seededRandom } from '../src/core/random/random';
import { termsAbout } from '../src/core/rigsim';
import { coverageFactor } from '../src/core/statistics';
import { A4_AREA, A4_CENTRE, observe, proofSheet } from '../test/sheets';

/*
 * How well one pass on a 3 × 3 sheet with 0.1 mm combs corrects 1,000 simulated rigs, against the best that
 * unbiased readings of the same noise allow (the Gaussian least-squares bound).
 */

const RIGS = 1000;
const STEP_MM = 0.1;

const offset = (id: string, direction: 'right' | 'further', step: number): MachineSetting => ({
  id,
  name: id,
  step,
  value: 0,
  min: null,
  max: null,
  effect: declaredEffect({ kind: 'offset', unit: 'mm', direction, anchor: { x: 0, y: 0 }, nominalMm: null }),
});
const scale = (id: string, direction: 'wider' | 'longer'): MachineSetting => ({
  ...offset(id, 'right', 0.01),
  effect: declaredEffect({
    kind: 'scale',
    unit: 'percent',
    direction,
    anchor: { x: 0, y: 0 },
    nominalMm: null,
  }),
});

const SETTINGS: Readonly<Record<string, readonly MachineSetting[]>> = {
  'offsets in steps of 0.05 mm': [offset('X', 'right', 0.05), offset('Y', 'further', 0.05)],
  'offsets and both scales in steps of 0.01 %': [
    offset('X', 'right', 0.05),
    offset('Y', 'further', 0.05),
    scale('SX', 'wider'),
    scale('SY', 'longer'),
  ],
};

const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
const square = (field: AffineField): number => sum(areaVector(field, A4_AREA).map((v) => v * v));

/** Mean square over the area of the estimation error, restricted to what some effects can do; all six when none are given. */
function bound(covariance: readonly (readonly number[])[], effects: readonly AffineField[] | null): number {
  const unit = (i: number): AffineField => {
    const v = [0, 0, 0, 0, 0, 0];
    v[i] = 1;
    const [b11, b12, b21, b22, exMm, eyMm] = v as [number, number, number, number, number, number];
    return { origin: A4_CENTRE, b11, b12, b21, b22, exMm, eyMm };
  };
  const columns = [0, 1, 2, 3, 4, 5].map((i) => areaVector(unit(i), A4_AREA));
  const inArea = (a: readonly number[], b: readonly number[]): number =>
    sum(a.map((ai, i) => ai * sum(b.map((bj, j) => bj * covariance[i]![j]!))));
  const rowOf = (direction: readonly number[]): number[] =>
    columns.map((c) => sum(c.map((v, i) => v * direction[i]!)));
  const directions =
    effects === null
      ? [0, 1, 2, 3, 4, 5].map((i) => [0, 1, 2, 3, 4, 5].map((j) => Number(i === j)))
      : orthonormal(effects.map((e) => areaVector(addFields({ ...unit(0), b11: 0 }, e), A4_AREA)));
  return sum(directions.map((d) => inArea(rowOf(d), rowOf(d))));
}

/** Gram–Schmidt. */
function orthonormal(vectors: readonly (readonly number[])[]): number[][] {
  const basis: number[][] = [];
  for (const vector of vectors) {
    const rest = basis.reduce(
      (v, b) => {
        const along = sum(b.map((x, i) => x * v[i]!));
        return v.map((x, i) => x - along * b[i]!);
      },
      [...vector],
    );
    const length = Math.sqrt(sum(rest.map((v) => v * v)));
    if (length > 1e-12) basis.push(rest.map((v) => v / length));
  }
  return basis;
}

function study(linear: number): void {
  const random = seededRandom(Math.round(1000 * linear));
  const done = { shrunk: 0, bound: 0, covered: 0, corners: 0 };
  const settable = Object.keys(SETTINGS).map((name) => ({ name, got: 0, best: 0, bound: 0 }));
  for (let i = 0; i < RIGS; i += 1) {
    const deviate = (sd: number): number => sd * normalDeviate(random);
    const truth = transformToField(
      termsAbout(
        {
          shiftXMm: deviate(0.4),
          shiftYMm: deviate(0.4),
          turnRad: deviate(0.0005 * linear),
          scaleAcross: 1 + deviate(0.0005 * linear),
          scaleAlong: 1 + deviate(0.0005 * linear),
          leanRad: deviate(0.0005 * linear),
        },
        A4_CENTRE,
      ),
      A4_CENTRE,
    );
    const acuityMm = 0.02 + 0.03 * random();
    const sheet = proofSheet({ seed: i + 1, secondSet: false });
    const uMm = Math.sqrt(STEP_MM ** 2 / 12 + acuityMm ** 2);
    // The noise is known here, as repeats would have told it.
    const observations = observe(sheet, 1, truth, random, acuityMm / STEP_MM).map((o) => ({ ...o, uMm }));
    const fit = fitModel('affine', observations, A4_CENTRE);
    if (fit.status !== 'ok') throw new Error(fit.message);
    const { field } = planCorrection(fit, [], A4_AREA, shiftScatter(0), uMm);
    done.shrunk += square(addFields(truth, field, -1)) / RIGS;
    done.bound += bound(fit.covarianceKnownU, null) / RIGS;
    const reach = coverageFactor(0.95, intervalDof(fit.noise, fit.dof)) * fit.noise.factor;
    for (const p of rectLattice(A4_AREA, 2, 2)) {
      const said = fieldPrediction(fit.field, fit.covarianceKnownU, p);
      const is = fieldPrediction(truth, fit.covarianceKnownU, p);
      done.covered += Number(Math.abs(said.meanX - is.meanX) <= reach * Math.sqrt(said.varX));
      done.covered += Number(Math.abs(said.meanY - is.meanY) <= reach * Math.sqrt(said.varY));
      done.corners += 2;
    }
    for (const s of settable) {
      const settings = SETTINGS[s.name]!;
      const typed = solveSettings(field, settings, A4_AREA);
      const left = typed.changes.reduce((f, c, j) => addFields(f, settings[j]!.effect, c.to - c.from), truth);
      s.got += square(left) / RIGS;
      s.best += solveSettings(truth, settings, A4_AREA).meanSquareAfter / RIGS;
      s.bound +=
        bound(
          fit.covarianceKnownU,
          settings.map((x) => x.effect),
        ) / RIGS;
    }
  }
  const ratio = Math.sqrt(done.shrunk / done.bound);
  console.log(
    `linear terms × ${linear}: file correction ${Math.sqrt(done.shrunk).toFixed(4)} mm, bound ${Math.sqrt(done.bound).toFixed(4)} mm, ratio ${ratio.toFixed(3)}; 95 % intervals at the corners cover ${((100 * done.covered) / done.corners).toFixed(1)} %`,
  );
  for (const s of settable)
    console.log(
      `  ${s.name}, no file: ${Math.sqrt(s.got).toFixed(4)} mm; √(best² + bound²) ${Math.sqrt(s.best + s.bound).toFixed(4)} mm; ratio ${Math.sqrt(s.got / (s.best + s.bound)).toFixed(3)}`,
    );
}

export function accuracy(): void {
  console.log(`${RIGS} simulated rigs, one pass of 3 × 3 stations, 0.1 mm combs, acuity 0.02 to 0.05 mm:`);
  for (const linear of [1, 0.2, 2]) study(linear);
}
