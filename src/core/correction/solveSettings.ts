import { Matrix, pseudoInverse } from 'ml-matrix';

import { rectCentre, rectHeight, rectWidth, type Rect } from '../geometry';
import { addFields, fieldToTransform, transformToField, type AffineField } from '../fit';

import { stepNeighbours, type MachineSetting } from './setting';

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
function areaVector(field: AffineField, workArea: Rect): number[] {
  const f = transformToField(fieldToTransform(field), rectCentre(workArea));
  const w = rectWidth(workArea) / Math.sqrt(12);
  const h = rectHeight(workArea) / Math.sqrt(12);
  return [f.b11 * w, f.b12 * h, f.b21 * w, f.b22 * h, f.exMm, f.eyMm];
}

/**
 * New values for the settings that minimise the mean square misregistration over the work area.
 *
 * Method   linear least squares over the area, then every combination of neighbouring steps is tried
 *          and ranges are kept; the smallest change wins a tie.
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

  const wanted = continuousOptimum(start, settings, workArea);
  let best = { values: settings.map((s) => s.value), leftOver: start, score: Infinity, travel: Infinity };
  for (const values of combinations(settings.map((s, i) => stepNeighbours(s, wanted[i]!)))) {
    const leftOver = values.reduce(
      (left, value, i) => addFields(left, settings[i]!.effect, value - settings[i]!.value),
      start,
    );
    const score = meanSquareMm2(leftOver, workArea);
    const travel = values.reduce((sum, v, i) => sum + Math.abs(v - settings[i]!.value), 0);
    const tie = Math.abs(score - best.score) <= 1e-12 * (1 + before);
    if (tie ? travel < best.travel : score < best.score) best = { values, leftOver, score, travel };
  }
  return {
    changes: settings.map((setting, i) => change(setting, best.values[i]!, wanted[i]!, centre)),
    leftOver: best.leftOver,
    meanSquareBefore: before,
    meanSquareAfter: best.score,
  };
}

function continuousOptimum(
  field: AffineField,
  settings: readonly MachineSetting[],
  workArea: Rect,
): number[] {
  const columns = settings.map((s) => areaVector(addFields({ ...field, ...ZERO }, s.effect), workArea));
  const target = Matrix.columnVector(areaVector(field, workArea)).mul(-1);
  const solution = pseudoInverse(new Matrix(columns).transpose()).mmul(target);
  return settings.map((s, i) => s.value + solution.get(i, 0));
}

const ZERO = { b11: 0, b12: 0, b21: 0, b22: 0, exMm: 0, eyMm: 0 };

function change(
  setting: MachineSetting,
  to: number,
  wanted: number,
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
    clamped: Math.abs(to - wanted) > setting.step * 1.000001,
  };
}

function combinations(choices: readonly (readonly number[])[]): number[][] {
  return choices.reduce<number[][]>(
    (lists, next) => lists.flatMap((list) => next.map((v) => [...list, v])),
    [[]],
  );
}
