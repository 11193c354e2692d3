import { Matrix, pseudoInverse } from 'ml-matrix';

import { rectCentre, rectHeight, rectWidth, type Rect } from '../geometry';
import { addFields, fieldToTransform, transformToField, type AffineField } from '../fit';

import { integerLeastSquares } from './integerLeastSquares';
import { afterSteps, stepRange, type MachineSetting } from './setting';

export interface SettingChange {
  readonly settingId: string;
  readonly from: number;
  readonly to: number;
  /** What the change does to the cut at the work-area centre, mm. */
  readonly movesXMm: number;
  readonly movesYMm: number;
  /** The best value lies outside the setting's range. */
  readonly clamped: boolean;
}

export interface SettingsSolution {
  readonly changes: readonly SettingChange[];
  /** What is still there after typing, about the work-area centre. */
  readonly leftOver: AffineField;
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

/** One step has to gain at least this, mm², to be taken: between equals the smaller change wins. */
const STEP_PENALTY_MM2 = 1e-10;

/**
 * New values for the settings that minimise the mean square misregistration over the work area.
 *
 * Method   whole steps by integer least squares over the area, ranges kept; between equals the smallest change.
 * Units    settings in their own units; field in mm.
 */
export function solveSettings(
  field: AffineField,
  settings: readonly MachineSetting[],
  workArea: Rect,
): SettingsSolution {
  const centre = rectCentre(workArea);
  const start = transformToField(fieldToTransform(field), centre);
  const before = meanSquareMm2(start, workArea);
  if (settings.length === 0)
    return { changes: [], leftOver: start, meanSquareBefore: before, meanSquareAfter: before };

  const columns = settings.map((s) =>
    areaVector(addFields({ ...start, ...ZERO }, s.effect), workArea).map((v) => v * s.step),
  );
  const target = areaVector(start, workArea);
  const bounds = settings.map(stepRange);
  const steps = integerLeastSquares(columns, target, bounds, STEP_PENALTY_MM2);
  const leftOver = settings.reduce(
    (left, s, i) => addFields(left, s.effect, afterSteps(s, steps[i]!) - s.value),
    start,
  );
  const free = continuousSteps(columns, target);
  return {
    changes: settings.map((setting, i) => {
      const { lowest, highest } = bounds[i]!;
      const clamped =
        (steps[i] === highest && free[i]! > highest + 0.5) ||
        (steps[i] === lowest && free[i]! < lowest - 0.5);
      return change(setting, afterSteps(setting, steps[i]!), clamped, centre);
    }),
    leftOver,
    meanSquareBefore: before,
    meanSquareAfter: meanSquareMm2(leftOver, workArea),
  };
}

/** What the steps would be without rounding and ranges. */
function continuousSteps(columns: readonly (readonly number[])[], target: readonly number[]): number[] {
  return pseudoInverse(new Matrix(columns as number[][]).transpose())
    .mmul(Matrix.columnVector(target as number[]).mul(-1))
    .to1DArray();
}

const ZERO = { b11: 0, b12: 0, b21: 0, b22: 0, exMm: 0, eyMm: 0 };

function change(
  setting: MachineSetting,
  to: number,
  clamped: boolean,
  centre: { x: number; y: number },
): SettingChange {
  const moved = transformToField(fieldToTransform(setting.effect), centre);
  const by = to - setting.value;
  return {
    settingId: setting.id,
    from: setting.value,
    to,
    movesXMm: by * moved.exMm,
    movesYMm: by * moved.eyMm,
    clamped,
  };
}
