import {
  applyAffine,
  compose,
  determinant,
  invertAffine,
  rectCentre,
  type Affine,
  type Point,
  type Rect,
} from '@/core/geometry';
import { placementFrom, placementRefusalText, type Placement } from '@/core/placement';
import {
  angleFigure,
  fieldLength,
  lengthRefusalText,
  offsetText,
  parseLength,
  type LengthUnit,
} from '@/core/units';

/** A mark as it stands in the form: where it is in the file, and where the tool was driven to. */
export interface MarkFields {
  readonly x: string;
  readonly y: string;
  readonly drivenX: string;
  readonly drivenY: string;
}

export const MARK_FIELDS = ['x', 'y', 'drivenX', 'drivenY'] as const;
export type MarkField = (typeof MARK_FIELDS)[number];

export const MOST_MARKS = 4;

export interface ByHandSetup {
  readonly sheet: { readonly widthMm: number; readonly heightMm: number };
  readonly workArea: Rect;
  /** The cut file's own axes → the sheet. */
  readonly toSheet: Affine;
}

export type ByHand =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'wrong'; readonly errors: readonly Partial<Record<MarkField, string>>[] }
  | { readonly kind: 'refused'; readonly message: string }
  | {
      readonly kind: 'placed';
      readonly placement: Placement;
      readonly answer: string;
      /** What `/api/correct` has to undo so that the file lies where the print does. */
      readonly undo: Affine;
      /** On the sheet: where the marks should be and where they were found. */
      readonly meant: readonly Point[];
      readonly found: readonly Point[];
    };

/** The form as it opens: the marks of the setup, in the file's own axes. */
export function firstMarks(marks: readonly Point[], toSheet: Affine, unit: LengthUnit): MarkFields[] {
  const toFile = invertAffine(toSheet);
  const known = marks.slice(0, MOST_MARKS).map((m) => {
    const p = applyAffine(toFile, m);
    return { x: fieldLength(p.x, unit), y: fieldLength(p.y, unit), drivenX: '', drivenY: '' };
  });
  return known.length > 0 ? known : [{ x: '', y: '', drivenX: '', drivenY: '' }];
}

/** What was typed, worked out; marks that were not driven to are left out. */
export function readByHand(rows: readonly MarkFields[], setup: ByHandSetup, unit: LengthUnit): ByHand {
  const used = rows.map((r) => r.drivenX.trim() !== '' || r.drivenY.trim() !== '');
  if (!used.includes(true)) return { kind: 'nothing' };
  const errors: Partial<Record<MarkField, string>>[] = rows.map(() => ({}));
  const read = rows.map((row, i) => {
    const figures = {} as Record<MarkField, number>;
    for (const name of MARK_FIELDS) {
      if (!used[i]) continue;
      const parsed = parseLength(row[name], unit);
      if (parsed.ok) figures[name] = parsed.value;
      else errors[i]![name] = lengthRefusalText(parsed.refusal, unit);
    }
    return figures;
  });
  if (errors.some((e) => Object.keys(e).length > 0)) return { kind: 'wrong', errors };
  const told = read.filter((_, i) => used[i]);
  const marks = told.map((f) => ({ x: f.x, y: f.y }));
  const driven = told.map((f) => ({ x: f.drivenX, y: f.drivenY }));
  const toFile = invertAffine(setup.toSheet);
  const found = placementFrom(marks, driven, {
    art: boxThrough(toFile, setup.workArea),
    cuttable: boxThrough(toFile, { x0: 0, y0: 0, x1: setup.sheet.widthMm, y1: setup.sheet.heightMm }),
  });
  if (!found.ok) return { kind: 'refused', message: placementRefusalText(found.refusal) };
  return {
    kind: 'placed',
    placement: found.value,
    answer: answerOf(found.value, setup, unit),
    undo: invertAffine(found.value.map),
    meant: marks.map((m) => applyAffine(setup.toSheet, m)),
    found: driven.map((m) => applyAffine(setup.toSheet, m)),
  };
}

/** Less is not shown in degrees to two places. */
const NO_TURN_RAD = 0.00009;

/** “The print lies 3.20 mm right and 1.10 mm back, turned 0.35° clockwise.” Of the middle of the work area. */
function answerOf({ map, model }: Placement, { toSheet, workArea }: ByHandSetup, unit: LengthUnit): string {
  const onSheet = compose(toSheet, compose(map, invertAffine(toSheet)));
  const middle = rectCentre(workArea);
  const at = applyAffine(onSheet, middle);
  const across = offsetText(at.x - middle.x, 'across', unit);
  const along = offsetText(at.y - middle.y, 'along', unit);
  const turn = Math.atan2(onSheet.a21, onSheet.a11);
  const turned =
    Math.abs(turn) < NO_TURN_RAD
      ? 'not turned'
      : `turned ${angleFigure(Math.abs(turn))} ${turn > 0 ? 'anticlockwise' : 'clockwise'}`;
  const size = 100 * (Math.sqrt(Math.abs(determinant(onSheet))) - 1);
  const scaled =
    model === 'affine' && Math.abs(size) >= 0.02
      ? ` It is ${Math.abs(size).toFixed(2)} % too ${size > 0 ? 'large' : 'small'}.`
      : '';
  return model === 'shift'
    ? `The print lies ${across} and ${along} of where the file has it. A second mark would tell its turn.`
    : `The print lies ${across} and ${along} of where the file has it, ${turned}.${scaled}`;
}

/** The box round a rectangle that was mapped: exact where frames lie along the sheet's edges. */
function boxThrough(map: Affine, r: Rect): Rect {
  const corners = [
    { x: r.x0, y: r.y0 },
    { x: r.x1, y: r.y0 },
    { x: r.x0, y: r.y1 },
    { x: r.x1, y: r.y1 },
  ].map((c) => applyAffine(map, c));
  const [xs, ys] = [corners.map((c) => c.x), corners.map((c) => c.y)];
  return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) };
}
