import type { Background, CutLine, CutLineRecipe } from '@/core/artwork';
import { COARSE_DPI } from '@/core/artwork/coarse';
import type { Point } from '@/core/geometry';
import { largestWidthMm, type Room } from '@/core/sheetJob/room';
import {
  fieldLength,
  fixed,
  lengthRefusalText,
  lengthText,
  parseLength,
  plainLength,
  type LengthUnit,
} from '@/core/units';

/** The form as it is typed. */
export interface OutlineForm {
  readonly by: 'width' | 'height';
  readonly size: string;
  readonly border: string;
  readonly join: CutLineRecipe['join'];
  readonly apart: boolean;
  readonly close: string;
  readonly leastArea: string;
  readonly background: 'auto' | Background;
  /** From 0 to 1; empty for the one that parts best. */
  readonly threshold: string;
  readonly ignore: readonly Point[];
}

export type LengthField = 'size' | 'border' | 'close';
export type OutlineErrors = Partial<Record<LengthField | 'leastArea', string>>;

export interface Opened {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly dpi: number | null;
}

/** Stated as the greatest deviation of a line from what is seen. */
export const LINE_TOLERANCE_MM = 0.05;
const MM_PER_INCH = 25.4;

/** No size is asked for more finely. */
const hundredths = (mm: number): number => Math.round(mm * 100) / 100;

/** The form for a picture that was just opened: its own size when it says one. */
export const firstForm = ({ width, dpi }: Opened, unit: LengthUnit): OutlineForm => ({
  ...{ by: 'width', size: dpi === null ? '' : fieldLength(hundredths((width / dpi) * MM_PER_INCH), unit) },
  ...{
    border: fieldLength(2, unit),
    join: 'round',
    apart: false,
    close: fieldLength(1, unit),
    leastArea: '4',
  },
  ...{ background: 'auto', threshold: '', ignore: [] },
});

/** The form for a recipe that a piece has already. */
export function formOf(recipe: CutLineRecipe, { width, height }: Opened, unit: LengthUnit): OutlineForm {
  const { size } = recipe;
  const by = 'heightMm' in size ? 'height' : 'width';
  const mm =
    'widthMm' in size
      ? size.widthMm
      : 'heightMm' in size
        ? size.heightMm
        : ((by === 'width' ? width : height) / size.dpi) * MM_PER_INCH;
  return {
    ...{ by, size: fieldLength(mm, unit), join: recipe.join, apart: recipe.apart ?? false },
    ignore: recipe.ignore,
    ...{ border: fieldLength(recipe.borderMm, unit), close: fieldLength(recipe.closeMm, unit) },
    ...{ leastArea: String(recipe.minAreaMm2), background: recipe.background },
    threshold: recipe.threshold === null ? '' : String(recipe.threshold),
  };
}

/** The size with which one piece is as large as the sheet takes, as it is typed; null where nothing tells. */
export function largestSize(
  { width, height }: Opened,
  form: OutlineForm,
  line: CutLine | null,
  rooms: readonly Room[],
  unit: LengthUnit,
): string | null {
  const border = parseLength(form.border, unit);
  if (!border.ok || rooms.length === 0) return null;
  const all = line?.lines.flatMap((l) => l.points) ?? [];
  const span = (list: readonly number[]): number =>
    list.reduce((a, b) => Math.max(a, b), -Infinity) - list.reduce((a, b) => Math.min(a, b), Infinity);
  // Without a line yet, the whole picture is taken for ink.
  const ink =
    line && all.length > 0
      ? {
          width: (span(all.map((p) => p.x)) - 2 * border.value) / line.trace.widthMm,
          height: (span(all.map((p) => p.y)) - 2 * border.value) / line.trace.widthMm,
        }
      : { width: 1, height: height / width };
  const widthMm = largestWidthMm(rooms, ink, border.value);
  if (widthMm === null) return null;
  // What is typed is rounded: never up, or it would not fit.
  const mm = Math.floor((form.by === 'width' ? widthMm : (widthMm * height) / width) * 10) / 10;
  return mm >= 1 ? fieldLength(mm, unit) : null;
}

/** What was typed as a recipe, or what is wrong with it by field. */
export function readOutlineForm(
  form: OutlineForm,
  unit: LengthUnit,
):
  | { readonly ok: true; readonly recipe: CutLineRecipe }
  | { readonly ok: false; readonly errors: OutlineErrors } {
  const errors: OutlineErrors = {};
  const length = (field: LengthField, least: number, most: number, words: string): number => {
    const read = parseLength(form[field], unit);
    if (!read.ok) errors[field] = lengthRefusalText(read.refusal, unit);
    else if (read.value < least || read.value > most) errors[field] = words;
    return read.ok ? read.value : 0;
  };
  const across = `Between ${plainLength(1, unit)} and ${plainLength(60_000, unit)}.`;
  const size = form.size.trim() === '' ? 0 : length('size', 1, 60_000, across);
  if (form.size.trim() === '')
    errors.size = `How ${form.by === 'width' ? 'wide' : 'high'} is it to be? The other side follows.`;
  const borderMm = length(
    'border',
    -50,
    200,
    `Between ${plainLength(-50, unit)} and ${plainLength(200, unit)}; minus cuts inside the ink.`,
  );
  const closeMm = length('close', 0, 50, `Between 0 and ${plainLength(50, unit)}.`);
  const area = Number(form.leastArea.replace(',', '.'));
  if (form.leastArea.trim() === '' || !Number.isFinite(area) || area < 0)
    errors.leastArea = 'A number of square millimetres, 0 or more.';
  if (Object.keys(errors).length > 0) return { ok: false, errors };
  const recipe: CutLineRecipe = {
    size: form.by === 'width' ? { widthMm: size } : { heightMm: size },
    threshold: form.threshold === '' ? null : Number(form.threshold),
    ...{ background: form.background, join: form.join, apart: form.apart, ignore: form.ignore },
    ...{ toleranceMm: LINE_TOLERANCE_MM, closeMm, minAreaMm2: area, borderMm },
  };
  return { ok: true, recipe };
}

/** Both sides of the size and how dense the picture is then; null while no size is known. */
export function sizeSaid({ width, height }: Opened, recipe: CutLineRecipe, unit: LengthUnit) {
  const { size } = recipe;
  const mmPerPx =
    'widthMm' in size
      ? size.widthMm / width
      : 'heightMm' in size
        ? size.heightMm / height
        : MM_PER_INCH / size.dpi;
  const dpi = MM_PER_INCH / mmPerPx;
  return {
    words: `${lengthText(width * mmPerPx, unit)} wide, ${lengthText(height * mmPerPx, unit)} high, ${fixed(dpi, 0)} pixels an inch`,
    coarse:
      dpi < COARSE_DPI
        ? `Fewer than ${COARSE_DPI} pixels an inch print coarsely: make it smaller, or find a larger picture.`
        : null,
  };
}

/** The one sentence at the top. */
export function outlineAnswer(
  { lines, trace, borderMm }: CutLine,
  unit: LengthUnit,
  wantedMm = borderMm,
): string {
  if (lines.length === 0) return 'Nothing is left to cut: the border goes farther in than the shape is wide.';
  const outer = lines.filter((l) => !l.hole).length;
  const holes = lines.length - outer;
  const xs = lines.flatMap((l) => l.points.map((p) => p.x));
  const ys = lines.flatMap((l) => l.points.map((p) => p.y));
  const span = (list: readonly number[]): number =>
    list.reduce((a, b) => Math.max(a, b), -Infinity) - list.reduce((a, b) => Math.min(a, b), Infinity);
  const beyond = lines.some((l) =>
    l.points.some((p) => p.x < 0 || p.y < 0 || p.x > trace.widthMm || p.y > trace.heightMm),
  );
  return `${outer === 1 ? 'One line' : `${outer} lines`}${holes > 0 ? ` and ${holes === 1 ? 'one hole' : `${holes} holes`}` : ''}, ${lengthText(span(xs), unit)} wide and ${lengthText(span(ys), unit)} high${beyond ? ', beyond the picture’s edge' : ''}.${
    borderMm < wantedMm - 0.01 ? ` Kept apart: the border is ${lengthText(borderMm, unit)}.` : ''
  }`;
}

/** A closed line as SVG path data, y down. */
export const pathOf = (points: readonly Point[], heightMm: number): string =>
  `M${points.map((p) => `${p.x.toFixed(3)} ${(heightMm - p.y).toFixed(3)}`).join('L')}Z`;
