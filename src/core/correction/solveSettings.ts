import { Matrix, pseudoInverse } from 'ml-matrix';

import { compose, rectCentre, rectHeight, rectWidth, type Affine, type Point, type Rect } from '../geometry';
import { addFields, fieldToTransform, transformToField, type AffineField } from '../fit';

import { integerLeastSquares, type StepBounds } from './integerLeastSquares';
import { effectVector } from './provedEffects';
import { afterSteps, DECLARED_EFFECT_U, stepRange, type MachineSetting } from './setting';

export interface SettingChange {
  readonly settingId: string;
  readonly from: number;
  readonly to: number;
  /** What the change does to the cut at the work-area centre, mm. */
  readonly movesXMm: number;
  readonly movesYMm: number;
  /** The best value lies outside the setting's range. */
  readonly clamped: boolean;
  /** It moves the cut far more than there is to correct, against another setting: its effect is to be seen first. */
  readonly questioned: boolean;
}

export interface SettingsSolution {
  readonly changes: readonly SettingChange[];
  /** What is still there after typing, about the work-area centre. */
  readonly leftOver: AffineField;
  /** What the doubt of the typed effects adds to the covariance of what is left, about the work-area centre. */
  readonly effectCovariance: readonly (readonly number[])[];
  readonly meanSquareBefore: number;
  readonly meanSquareAfter: number;
}

/**
 * Mean over the work area of |d|², mm².
 * For d = B(p − c) + e about the centre of a W × H rectangle: |e|² + (b11² + b21²)W²/12 + (b12² + b22²)H²/12.
 */
export function meanSquareMm2(field: AffineField, workArea: Rect): number {
  return areaVector(field, workArea).reduce((sum, v) => sum + v * v, 0);
}

/** The field as a vector whose squared length is its mean square over the work area. */
export function areaVector(field: AffineField, workArea: Rect): number[] {
  const f = transformToField(fieldToTransform(field), rectCentre(workArea));
  const w = rectWidth(workArea) / Math.sqrt(12);
  const h = rectHeight(workArea) / Math.sqrt(12);
  return [f.b11 * w, f.b12 * h, f.b21 * w, f.b22 * h, f.exMm, f.eyMm];
}

/** Sure of at least so much of an effect nobody is: travel always costs a little. */
const LEAST_EFFECT_U = 0.01;
/** The last steps follow the cut alone, by so many at most and a share of the way (u² is what a doubt pulls short); what is left of a step's cost lets the smaller of equals win. */
const POLISH_STEPS = 3;
const POLISH_SHARE = 0.01;
const STEP_COST_MM = 1e-5;
/** What typing one more figure has to gain, as a share of the estimation variance. */
const FIGURE_COST = 0.01;
/** A setting that moves the cut so many times as far as all there is to correct is up against another one: it is questioned. */
const MUCH_OF_NEEDED = 3;
/** … and no setting is ever asked for more than this. */
const MOST_OF_NEEDED = 6;
/** A solution is first-order: its turns and stretches, done one after the other, may differ from it by this much. */
const ORDER_MM = 0.01;
const ORDER_SHARE = 0.02;
const TRUST_STEPS = 12;

/**
 * New values for the settings that minimise the expected mean square misregistration over the work area.
 *
 * Method   whole steps by integer least squares over the area, ranges kept. Every step costs what the effect's own doubt
 *          adds (u·effect)²: two settings that nearly do the same are not driven against each other like a vernier.
 *          One that does not gain FIGURE_COST of the estimation variance is held. Never worse than typing nothing.
 * Units    settings in their own units; field in mm; `estimationVarianceMm2` over the area.
 */
export function solveSettings(
  field: AffineField,
  settings: readonly MachineSetting[],
  workArea: Rect,
  estimationVarianceMm2 = 0,
): SettingsSolution {
  const centre = rectCentre(workArea);
  const start = transformToField(fieldToTransform(field), centre);
  const before = meanSquareMm2(start, workArea);
  if (settings.length === 0)
    return {
      ...{ changes: [], leftOver: start, effectCovariance: effectCovariance([], centre) },
      ...{ meanSquareBefore: before, meanSquareAfter: before },
    };

  const problem = problemOf(start, settings, workArea, FIGURE_COST * estimationVarianceMm2);
  const needed = Math.sqrt(before);
  const most = problem.columns.map((column) => Math.max(1, (MOST_OF_NEEDED * needed) / length(column)));
  let [steps, reach] = [settings.map(() => 0), 1];
  for (let tries = 0; tries < TRUST_STEPS; tries += 1, reach /= 2) {
    const found = fewestChanges(
      problem,
      settings.map((s, i) => within(stepRange(s), Math.max(1, reach * most[i]!))),
    );
    const doubt = orderDoubtMm(start, settings, found, workArea);
    if (doubt > Math.max(ORDER_MM, ORDER_SHARE * needed)) continue;
    steps = polished(problem, settings, found);
    break;
  }
  const by = (i: number): number => afterSteps(settings[i]!, steps[i]!) - settings[i]!.value;
  const leftOver = settings.reduce((left, s, i) => addFields(left, s.effect, by(i)), start);
  const free = continuousSteps(problem);
  return {
    changes: settings.map((setting, i) => {
      const { lowest, highest } = stepRange(setting);
      const clamped =
        (steps[i] === highest && free[i]! > highest + 0.5) ||
        (steps[i] === lowest && free[i]! < lowest - 0.5);
      const questioned = Math.abs(steps[i]!) * length(problem.columns[i]!) > MUCH_OF_NEEDED * needed;
      return change(setting, afterSteps(setting, steps[i]!), { clamped, questioned }, centre);
    }),
    leftOver,
    effectCovariance: effectCovariance(
      settings.map((s, i) => ({ effect: s.effect, typed: (s.effectU ?? DECLARED_EFFECT_U) * by(i) })),
      centre,
    ),
    meanSquareBefore: before,
    meanSquareAfter: meanSquareMm2(leftOver, workArea),
  };
}

interface Problem {
  /** What one step of each setting does, as area vectors. */
  readonly columns: readonly (readonly number[])[];
  readonly target: readonly number[];
  /** What the doubt of an effect costs a step, mm. */
  readonly costs: readonly number[];
  readonly figureCostMm2: number;
}

function problemOf(
  start: AffineField,
  settings: readonly MachineSetting[],
  workArea: Rect,
  figureCostMm2: number,
): Problem {
  const columns = settings.map((s) =>
    areaVector(addFields({ ...start, ...ZERO }, s.effect), workArea).map((v) => v * s.step),
  );
  const costs = settings.map(
    (s, i) => Math.max(LEAST_EFFECT_U, s.effectU ?? DECLARED_EFFECT_U) * length(columns[i]!),
  );
  return { columns, target: areaVector(start, workArea), costs, figureCostMm2 };
}

const length = (v: readonly number[]): number => Math.hypot(...v);

const within = (range: StepBounds, most: number): StepBounds => ({
  lowest: Math.min(Math.max(range.lowest, Math.ceil(-most)), Math.max(0, range.lowest)),
  highest: Math.max(Math.min(range.highest, Math.floor(most)), Math.min(0, range.highest)),
});

/** The best steps, with every setting held that gains less than its figure costs. */
function fewestChanges(problem: Problem, bounds: readonly StepBounds[]): number[] {
  let limits = bounds;
  let steps = solved(problem, limits);
  for (;;) {
    const now = costOf(problem, steps);
    const without = steps
      .map((step, i) => ({ step, i }))
      .filter(({ step, i }) => step !== 0 && bounds[i]!.lowest <= 0 && bounds[i]!.highest >= 0)
      .map(({ i }) => {
        const held = limits.map((b, j) => (j === i ? { lowest: 0, highest: 0 } : b));
        const found = solved(problem, held);
        return { held, found, cost: costOf(problem, found) };
      })
      .reduce<{ held: StepBounds[]; found: number[]; cost: number } | null>(
        (best, here) => (best === null || here.cost < best.cost ? here : best),
        null,
      );
    if (!without || without.cost > now) return steps;
    [limits, steps] = [without.held, without.found];
  }
}

/** The doubt of an effect pulls every change a little short: the last steps are found without it. */
function polished(problem: Problem, settings: readonly MachineSetting[], steps: readonly number[]): number[] {
  const bounds = settings.map((s, i) => {
    const [step, range] = [steps[i]!, stepRange(s)];
    if (step === 0) return { lowest: 0, highest: 0 };
    const reach = POLISH_STEPS + Math.ceil(POLISH_SHARE * Math.abs(step));
    return {
      lowest: Math.max(range.lowest, step - reach),
      highest: Math.min(range.highest, step + reach),
    };
  });
  const fine = { ...problem, costs: settings.map(() => STEP_COST_MM) };
  const best = solved(fine, bounds);
  return costOf(fine, best) < costOf(fine, steps) ? best : [...steps];
}

const solved = ({ columns, target, costs }: Problem, bounds: readonly StepBounds[]): number[] =>
  integerLeastSquares(columns, target, bounds, costs);

/** Expected mean square after so many steps, and what typing the figures costs. */
function costOf({ columns, target, costs, figureCostMm2 }: Problem, steps: readonly number[]): number {
  const left = target.map((v, row) => v + sum(columns.map((c, i) => c[row]! * steps[i]!)));
  const doubt = sum(costs.map((cost, i) => (cost * steps[i]!) ** 2));
  return sum(left.map((v) => v * v)) + doubt + figureCostMm2 * steps.filter((s) => s !== 0).length;
}

const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);

/**
 * How far apart the changes land when the machine carries them out one after the other, first to last or last to first,
 * and when they are simply added: root mean square over the area, the larger of the two, mm.
 */
function orderDoubtMm(
  start: AffineField,
  settings: readonly MachineSetting[],
  steps: readonly number[],
  workArea: Rect,
): number {
  const maps = settings.map((s, i) => settingMap(s.effect, afterSteps(s, steps[i]!) - s.value));
  const added = settings.reduce(
    (left, s, i) => addFields(left, s.effect, afterSteps(s, steps[i]!) - s.value),
    start,
  );
  const apart = (order: readonly Affine[]): number => {
    const landed = order.reduce((t, m) => compose(m, t), fieldToTransform(start));
    return Math.sqrt(meanSquareMm2(addFields(transformToField(landed, added.origin), added, -1), workArea));
  };
  return Math.max(apart(maps), apart([...maps].reverse()));
}

/** What a setting really does when it is changed by so much: a turn turns, anything else is its displacement. */
function settingMap(effect: AffineField, by: number): Affine {
  const { b11, b12, b21, b22, origin } = effect;
  if (b11 !== 0 || b22 !== 0 || b12 !== -b21 || b21 === 0)
    return fieldToTransform(addFields({ ...effect, ...ZERO }, effect, by));
  const [c, s] = [Math.cos(b21 * by), Math.sin(b21 * by)];
  return {
    ...{ a11: c, a12: -s, a21: s, a22: c },
    tx: origin.x - c * origin.x + s * origin.y + effect.exMm * by,
    ty: origin.y - s * origin.x - c * origin.y + effect.eyMm * by,
  };
}

/** Doubt of what was typed: for each setting its effect and how far what was typed may be from what it did. */
export function effectCovariance(
  doubts: readonly { readonly effect: AffineField; readonly typed: number }[],
  centre: Point,
): number[][] {
  const moves = doubts.map(({ effect, typed }) => effectVector(effect, centre).map((v) => v * typed));
  return Array.from({ length: 6 }, (_, i) =>
    Array.from({ length: 6 }, (__, j) => sum(moves.map((m) => m[i]! * m[j]!))),
  );
}

/** What the steps would be without rounding and ranges. */
function continuousSteps({ columns, target, costs }: Problem): number[] {
  const stacked = columns.map((column, j) => [...column, ...costs.map((cost, i) => (i === j ? cost : 0))]);
  return pseudoInverse(new Matrix(stacked).transpose())
    .mmul(Matrix.columnVector([...target, ...costs.map(() => 0)]).mul(-1))
    .to1DArray();
}

const ZERO = { b11: 0, b12: 0, b21: 0, b22: 0, exMm: 0, eyMm: 0 };

function change(
  setting: MachineSetting,
  to: number,
  signs: Pick<SettingChange, 'clamped' | 'questioned'>,
  centre: Point,
): SettingChange {
  const moved = transformToField(fieldToTransform(setting.effect), centre);
  const by = to - setting.value;
  return {
    settingId: setting.id,
    from: setting.value,
    to,
    movesXMm: by * moved.exMm,
    movesYMm: by * moved.eyMm,
    ...signs,
  };
}
