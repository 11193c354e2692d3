import { fitModel, type Observation } from '../fit';
import { applyAffine, type Affine, type Point, type Rect } from '../geometry';
import { accept, refuse, type Outcome } from '../outcome';

/* Registration by hand: where the tool was driven over the printed marks says where the print lies. */

export interface Placement {
  readonly model: 'shift' | 'rigid' | 'affine';
  /** From a place in the file to where it lies under the tool. */
  readonly map: Affine;
  /** What the map leaves at each mark. */
  readonly residualsMm: readonly number[];
  /** How far the print moved: at the middle of the marks, and its turn. */
  readonly moved: { readonly xMm: number; readonly yMm: number; readonly turnRad: number };
  readonly warnings: readonly PlacementWarning[];
}

export interface PlacementWarning {
  readonly code: 'distance-differs' | 'art-outside' | 'marks-in-line' | 'does-not-fit';
  readonly message: string;
}

export type PlacementRefusal =
  { readonly code: 'marks-coincide' } | { readonly code: 'folded'; readonly message: string };

/** What a tool is driven over a mark to, by eye; common practice, no source. */
export const DRIVEN_U_MM = 0.1;

/**
 * One mark: shift. Two: turn and shift, with the misfit of their distance as residual. Three or more: affine by least
 * squares; where they lie in a line, turn and shift.
 *
 * Units    mm, rad.
 * Refuses  marks-coincide, folded (the marks were driven to in another order).
 */
export function placementFrom(
  marks: readonly Point[],
  driven: readonly Point[],
  options: {
    readonly uMm?: number | undefined;
    readonly art?: Rect | undefined;
    readonly cuttable?: Rect | undefined;
  } = {},
): Outcome<Placement, PlacementRefusal> {
  const uMm = options.uMm ?? DRIVEN_U_MM;
  const observations = marks.flatMap((m, i): Observation[] => {
    const at = { stationId: String(i + 1), xMm: m.x, yMm: m.y, uMm };
    return [
      { ...at, axis: 'across', offsetMm: driven[i]!.x - m.x },
      { ...at, axis: 'along', offsetMm: driven[i]!.y - m.y },
    ];
  });
  const wanted = (['shift', 'rigid', 'affine'] as const)[Math.min(3, marks.length) - 1]!;
  const middle = middleOf(marks);
  let fit = fitModel(wanted, observations, middle);
  const inLine = wanted === 'affine' && fit.status === 'refused' && fit.reason !== 'folded';
  if (inLine) fit = fitModel('rigid', observations, middle);
  if (fit.status === 'refused')
    return fit.reason === 'folded'
      ? refuse({ code: 'folded', message: fit.message })
      : refuse({ code: 'marks-coincide' });
  const map = affineOf(fit.model, fit.params as Record<string, number>);
  const residualsMm = marks.map((m, i) => {
    const at = applyAffine(map, m);
    return Math.hypot(driven[i]!.x - at.x, driven[i]!.y - at.y);
  });
  const centre = applyAffine(map, middle);
  return accept({
    model: fit.model as Placement['model'],
    map,
    residualsMm,
    moved: {
      xMm: centre.x - middle.x,
      yMm: centre.y - middle.y,
      turnRad: Math.atan2(map.a21, map.a11),
    },
    warnings: warningsOf(marks, driven, map, residualsMm, inLine, uMm, options),
  });
}

function affineOf(model: string, p: Record<string, number>): Affine {
  if (model === 'shift') return { a11: 1, a12: 0, a21: 0, a22: 1, tx: p.tx!, ty: p.ty! };
  if (model === 'affine') return { a11: p.a11!, a12: p.a12!, a21: p.a21!, a22: p.a22!, tx: p.tx!, ty: p.ty! };
  const [cos, sin] = [Math.cos(p.theta!), Math.sin(p.theta!)];
  return { a11: cos, a12: -sin, a21: sin, a22: cos, tx: p.tx!, ty: p.ty! };
}

function warningsOf(
  marks: readonly Point[],
  driven: readonly Point[],
  map: Affine,
  residualsMm: readonly number[],
  inLine: boolean,
  uMm: number,
  { art, cuttable }: { readonly art?: Rect | undefined; readonly cuttable?: Rect | undefined },
): PlacementWarning[] {
  const warnings: PlacementWarning[] = [];
  if (marks.length === 2) {
    const misfit = distance(driven[0]!, driven[1]!) - distance(marks[0]!, marks[1]!);
    if (Math.abs(misfit) > 4 * uMm * Math.SQRT2)
      warnings.push({
        code: 'distance-differs',
        message: `The two marks were found ${Math.abs(misfit).toFixed(2)} mm ${misfit > 0 ? 'further apart' : 'closer together'} than they are in the file: drive over them again, or the print was scaled.`,
      });
  }
  if (inLine)
    warnings.push({
      code: 'marks-in-line',
      message:
        'The marks lie in one line: they tell turn and shift, not how the print was stretched beside it.',
    });
  const worst = Math.max(...residualsMm);
  if (marks.length > 3 && worst > 4 * uMm)
    warnings.push({
      code: 'does-not-fit',
      message: `Mark ${residualsMm.indexOf(worst) + 1} lies ${worst.toFixed(2)} mm from where the others put it: drive over it again.`,
    });
  if (art && cuttable) {
    const out = cornersOf(art)
      .map((c) => applyAffine(map, c))
      .map((c) => Math.max(cuttable.x0 - c.x, c.x - cuttable.x1, cuttable.y0 - c.y, c.y - cuttable.y1));
    const most = Math.max(...out);
    if (most > OUTSIDE_GUARD_MM)
      warnings.push({
        code: 'art-outside',
        message: `The art reaches ${most.toFixed(2)} mm out of what can be cut: print it again nearer the middle.`,
      });
  }
  return warnings;
}

/** Sums of decimal figures are not exact. */
const OUTSIDE_GUARD_MM = 1e-6;

const cornersOf = (r: Rect): Point[] => [
  { x: r.x0, y: r.y0 },
  { x: r.x1, y: r.y0 },
  { x: r.x1, y: r.y1 },
  { x: r.x0, y: r.y1 },
];

const distance = (a: Point, b: Point): number => Math.hypot(b.x - a.x, b.y - a.y);

const middleOf = (points: readonly Point[]): Point => ({
  x: points.reduce((sum, p) => sum + p.x, 0) / points.length,
  y: points.reduce((sum, p) => sum + p.y, 0) / points.length,
});

/** What is wrong and what would be right. */
export function placementRefusalText(refusal: PlacementRefusal): string {
  switch (refusal.code) {
    case 'marks-coincide':
      return 'Two marks are at one place: give marks that lie apart.';
    case 'folded':
      return 'These places belong to a print that was turned over: check that the marks were driven over in the order of the file.';
    default:
      return refusal satisfies never;
  }
}
