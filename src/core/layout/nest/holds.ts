import { Clipper, FillRule, type Path64 } from 'clipper2-ts';

import type { Point, Rect } from '../../geometry';

import type { NestedSheets, NestJob } from './nest';
import { spaced, STEPS_PER_MM, toSteps, turnedOutline, type Outline } from './noFit';
import { turned } from './turned';

/** Outlines are thinned out for nesting: so much nearer than the gap they may lie, mm. */
const DOUBT_MM = 0.2;
/** Less overlap than this is a touch, mm². */
const TOUCH_MM2 = 0.01;

/**
 * Whether a nesting is one of this job: so many of each as were asked for, all within what may be used, clear of the zones,
 * none nearer another than the gap. Whoever made it.
 */
export function nestingHolds({ usable, zones, shapes, gapMm }: NestJob, sheets: NestedSheets): boolean {
  const known = new Map(shapes.map((s) => [s.id, s]));
  const all = sheets.flat();
  if (all.length === 0 || sheets.some((s) => s.length === 0)) return false;
  if (all.some((p) => !known.has(p.item) || (!known.get(p.item)!.mayTurn && p.turnDeg !== 0))) return false;
  for (const { id, copies } of shapes)
    if (copies !== null && all.filter((p) => p.item === id).length !== copies) return false;
  const outlines = new Map<string, Outline>();
  const outlineOf = (item: string, by: number): Outline => {
    const key = `${item} ${by}`;
    const own = outlines.get(key) ?? spaced(known.get(item)!.outlines, by);
    outlines.set(key, own);
    return own;
  };
  const half = Math.max(0, gapMm / 2 - DOUBT_MM);
  return sheets.every((sheet) => {
    const laid = sheet.map((p) => {
      const moved = known.get(p.item)!.outlines.map((path) =>
        path.map((q) => {
          const t = turned(q, p.turnDeg);
          return { x: t.x + p.x, y: t.y + p.y };
        }),
      );
      const grown = turnedOutline(outlineOf(p.item, half - DOUBT_MM), p.turnDeg).map((path) =>
        Clipper.translatePath(path, Math.round(p.x * STEPS_PER_MM), Math.round(p.y * STEPS_PER_MM)),
      );
      return { box: boxOf(moved), moved: moved.map(toSteps), grown };
    });
    return laid.every(
      ({ box, moved, grown }, i) =>
        box.x0 >= usable.x0 - DOUBT_MM / 10 &&
        box.y0 >= usable.y0 - DOUBT_MM / 10 &&
        box.x1 <= usable.x1 + DOUBT_MM / 10 &&
        box.y1 <= usable.y1 + DOUBT_MM / 10 &&
        zones.every((z) => !meet(box, z, 0) || !overlap(moved, [rectOf(shrunk(z, DOUBT_MM))])) &&
        laid.slice(i + 1).every((other) => !meet(box, other.box, gapMm) || !overlap(grown, other.grown)),
    );
  });
}

const overlap = (a: Outline, b: Outline): boolean =>
  Math.abs(Clipper.areaPaths(Clipper.intersect([...a], [...b], FillRule.NonZero))) / STEPS_PER_MM ** 2 >
  TOUCH_MM2;

const meet = (a: Rect, b: Rect, by: number): boolean =>
  a.x0 < b.x1 + by && b.x0 < a.x1 + by && a.y0 < b.y1 + by && b.y0 < a.y1 + by;

const shrunk = (r: Rect, by: number): Rect => ({
  x0: r.x0 + by,
  y0: r.y0 + by,
  x1: r.x1 - by,
  y1: r.y1 - by,
});

const rectOf = ({ x0, y0, x1, y1 }: Rect): Path64 =>
  toSteps([
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ]);

function boxOf(paths: readonly (readonly Point[])[]): Rect {
  const box = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
  for (const p of paths.flat()) {
    box.x0 = Math.min(box.x0, p.x);
    box.y0 = Math.min(box.y0, p.y);
    box.x1 = Math.max(box.x1, p.x);
    box.y1 = Math.max(box.y1, p.y);
  }
  return box;
}
