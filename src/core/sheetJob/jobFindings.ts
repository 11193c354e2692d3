import { checkPair, type CheckContext, type CheckedLine, type Finding } from '../artwork/checks';
import type { PieceFinding } from '../artwork/checks/pieceLook';
import { flatten } from '../drawing';
import { applyAffine, type Affine, type Rect } from '../geometry';
import { WITNESS_LAYER } from '../layout/witnessStrip';

import type { JobGeometry } from './job';
import { jobDrawing } from './jobDrawing';
import { overlapsOn } from './overlaps';

/* What is wrong with a sheet job before it is printed: its lines, how its pieces lie, and what was seen of their pictures. */

/** Curves are checked as edges that lie so near, mm. */
const CHECKED_WITHIN_MM = 0.02;
/** More lines of a sheet than this are checked by a part of them: they are copies of each other. */
const MOST_CHECKED = 400;

/** A finding, and the sheet that it is on, from 0. */
export type SheetFinding = Finding & { readonly sheet: number };

/** What was seen of pieces by their pixels, each in its own frame; of what was not looked at there is nothing. */
export type PiecesSeen = ReadonlyMap<string, readonly PieceFinding[]>;

/** What is wrong with a job before it is printed; empty for a good one. */
export function jobFindings(
  geometry: JobGeometry,
  context: CheckContext,
  neededMm: number | null,
  seen: PiecesSeen = new Map(),
): SheetFinding[] {
  const bleeds = geometry.pieces.filter((p) => p.copies !== 0 && p.bleedMm > 0).map((p) => p.bleedMm);
  const bleedMm = bleeds.length > 0 ? Math.min(...bleeds) : null;
  const page = { widthMm: geometry.sheet.sheetWidthMm, heightMm: geometry.sheet.sheetHeightMm };
  const looked = new Set<string>();
  return geometry.sheets.flatMap((placed, sheet) => {
    // A sheet like one before has nothing else to find.
    const like = JSON.stringify(placed);
    if (looked.has(like)) return [];
    looked.add(like);
    const lines = jobDrawing(geometry, sheet)
      .paths // The witness is ours: its combs are open and close together on purpose.
      .filter((path) => path.layer !== WITNESS_LAYER)
      .slice(0, MOST_CHECKED)
      .map((path): CheckedLine => {
        const xy = flatten(path, CHECKED_WITHIN_MM);
        const points = Array.from({ length: xy.length / 2 }, (_, i) => ({
          x: xy[2 * i]!,
          y: xy[2 * i + 1]!,
        }));
        return { points, closed: true, layer: path.layer };
      });
    const ofPieces = placed.flatMap(({ piece, map }) =>
      (seen.get(piece) ?? []).map((f): Finding => ({ ...f, where: f.where && mapped(f.where, map) })),
    );
    // A bleed that is too small by its figure is not told once more by its pixels.
    const lineFindings = checkPair(lines, page, null, { ...context, neededMm, bleedMm });
    const byFigure = new Set(lineFindings.filter((f) => f.where === null).map((f) => f.code));
    return (
      [...overlapsOn(geometry, sheet), ...ofPieces.filter((f) => !byFigure.has(f.code)), ...lineFindings]
        // A hole of the artwork was asked about when the line was made.
        .filter((f) => f.code !== 'island')
        .map((f) => ({ ...f, sheet }))
        .toSorted((a, b) => Number(a.severity === 'look') - Number(b.severity === 'look'))
    );
  });
}

/** Where a rectangle of a piece lies on its sheet. */
function mapped({ x0, y0, x1, y1 }: Rect, map: Affine): Rect {
  const corners = [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ].map((p) => applyAffine(map, p));
  const [xs, ys] = [corners.map((p) => p.x), corners.map((p) => p.y)];
  return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) };
}

/** Findings that say the same of several copies, once, with how many there are. */
export function findingsOnce(
  findings: readonly Finding[],
): readonly (Finding & { readonly times: number })[] {
  const once = new Map<string, Finding & { times: number }>();
  for (const f of findings) {
    const same = once.get(f.message);
    if (same) same.times += 1;
    else once.set(f.message, { ...f, times: 1 });
  }
  return [...once.values()];
}
