import { affineMap, applyAffine, IDENTITY, type Affine, type Point, type Rect } from '../geometry';
import { measure, type Drawing, type DrawnPath } from '../drawing';
import { drawnSizeMm, markPlaces, shapeAt, type MarkKit, type SheetSize } from '../marks';

import { ATTITUDES, laidAt } from './fileFrame';

/** Small things in a drawing are grouped when they are this near each other, mm. */
const TOGETHER_MM = 0.2;
/** A mark found this far from where it belongs is not it, mm. */
const NEAR_MM = 0.25;
/** A path of more places than this is no mark; a drawing of more small things than this is not searched. */
const POINTS_OF_A_MARK = 200;
const MOST_BLOBS = 3000;
const MOST_CANDIDATES = 300;

interface Wanted {
  readonly at: Point;
  readonly sizeMm: number;
  readonly bar: boolean;
}

/**
 * Where a drawing lies on the sheet by the marks that are drawn in it: every way, along the sheet's edges, in which all
 * marks of the kit are where they belong. Empty when they are not in the file, or when the kit has fewer than two.
 *
 * Maps     file, mm → sheet, mm; one each way, the shift being the mean over the marks.
 */
export function layingsByMarks(drawing: Drawing, kit: MarkKit, sheet: SheetSize): Affine[] {
  const wanted = wantedOf(kit, sheet);
  if (wanted.length < 2) return [];
  const largest = Math.max(...wanted.map((w) => w.sizeMm)) + 2 * kit.lineMm + 1;
  const blobs = blobsOf(drawing.paths, largest);
  if (blobs === null) return [];
  const fitting = (w: Wanted): Point[] =>
    blobs
      .filter((b) => isSize(b, w, kit.lineMm))
      .map((b) => ({ x: (b.x0 + b.x1) / 2, y: (b.y0 + b.y1) / 2 }));
  const candidates = wanted.map(fitting);
  if (candidates.some((c) => c.length === 0 || c.length > MOST_CANDIDATES)) return [];
  const found: Affine[] = [];
  for (const attitude of ATTITUDES)
    for (const first of candidates[0]!) {
      const turned = applyAffine(laidAt(attitude, { x: 0, y: 0 }), first);
      const zero = { x: wanted[0]!.at.x - turned.x, y: wanted[0]!.at.y - turned.y };
      const map = settled(laidAt(attitude, zero), wanted, candidates);
      if (map && !found.some((f) => sameMap(f, map))) found.push(map);
    }
  return found;
}

/** The map moved so that the marks' mean lies where it belongs; null when one of them is missing. */
function settled(
  map: Affine,
  wanted: readonly Wanted[],
  candidates: readonly (readonly Point[])[],
): Affine | null {
  let [dx, dy] = [0, 0];
  for (const [i, { at }] of wanted.entries()) {
    const near = candidates[i]!.map((c) => applyAffine(map, c)).find(
      (p) => Math.hypot(p.x - at.x, p.y - at.y) <= NEAR_MM,
    );
    if (!near) return null;
    dx += (at.x - near.x) / wanted.length;
    dy += (at.y - near.y) / wanted.length;
  }
  return { ...map, tx: map.tx + dx, ty: map.ty + dy };
}

export const sameMap = (a: Affine, b: Affine, withinMm = NEAR_MM): boolean =>
  a.a11 === b.a11 && a.a12 === b.a12 && Math.hypot(a.tx - b.tx, a.ty - b.ty) <= withinMm && a.a22 === b.a22;

/** The marks of a kit, and the second mark beside the leading one where that is its sign. */
function wantedOf(kit: MarkKit, sheet: SheetSize): Wanted[] {
  if (kit.frame) return [];
  return markPlaces(kit, sheet).flatMap((place) => {
    const bar = shapeAt(kit, place) === 'bar';
    const mark = { at: place.centre, sizeMm: drawnSizeMm(kit, place), bar };
    const second = { x: place.centre.x + 1.5 * kit.sizeMm * place.inward.x, y: place.centre.y };
    return place.leading && kit.leadSign === 'doubled'
      ? [mark, { at: second, sizeMm: kit.sizeMm, bar }]
      : [mark];
  });
}

/** Whether something small has the size of a mark, drawn as its middle line or round its ink. */
function isSize(b: Rect, { sizeMm, bar }: Wanted, lineMm: number): boolean {
  const fits = (mm: number): boolean => mm >= 0.97 * sizeMm - 0.1 && mm <= 1.03 * sizeMm + 2 * lineMm + 0.1;
  const [w, h] = [b.x1 - b.x0, b.y1 - b.y0];
  return bar ? fits(Math.max(w, h)) && Math.min(w, h) <= lineMm + 0.1 : fits(w) && fits(h);
}

/** Bounds of the small things of a drawing, strokes that touch taken together; null when there are too many. */
function blobsOf(paths: readonly DrawnPath[], largestMm: number): Rect[] | null {
  const small: Rect[] = [];
  for (const path of paths) {
    if (pointsOf(path) > POINTS_OF_A_MARK) continue;
    const { bounds: b } = measure([path], STILL);
    if (b.x1 - b.x0 <= largestMm && b.y1 - b.y0 <= largestMm) small.push(b);
    if (small.length > MOST_BLOBS) return null;
  }
  return together(small);
}

const STILL = affineMap(IDENTITY);

const pointsOf = (path: DrawnPath): number =>
  path.segments.reduce((n, s) => n + (s.kind === 'lines' ? s.xy.length / 2 : 1), 1);

const touch = (a: Rect, b: Rect): boolean =>
  a.x0 <= b.x1 + TOGETHER_MM &&
  b.x0 <= a.x1 + TOGETHER_MM &&
  a.y0 <= b.y1 + TOGETHER_MM &&
  b.y0 <= a.y1 + TOGETHER_MM;

const union = (a: Rect, b: Rect): Rect => ({
  x0: Math.min(a.x0, b.x0),
  y0: Math.min(a.y0, b.y0),
  x1: Math.max(a.x1, b.x1),
  y1: Math.max(a.y1, b.y1),
});

/** Rectangles that touch become one, from left to right. */
function together(list: readonly Rect[]): Rect[] {
  const open: Rect[] = [];
  const done: Rect[] = [];
  for (const next of [...list].sort((a, b) => a.x0 - b.x0)) {
    for (let i = open.length - 1; i >= 0; i -= 1)
      if (open[i]!.x1 + TOGETHER_MM < next.x0) done.push(...open.splice(i, 1));
    let grown = next;
    for (let i = open.findIndex((o) => touch(o, grown)); i >= 0; i = open.findIndex((o) => touch(o, grown)))
      grown = union(grown, open.splice(i, 1)[0]!);
    open.push(grown);
  }
  return [...done, ...open];
}
