import { rectHeight, rectWidth, type Rect } from '../../geometry';

/* What is left of a sheet: the largest upright rectangles that hold nothing (Jylänki 2010, maximal rectangles; memory). */

const GUARD_MM = 1e-6;

const overlap = (a: Rect, b: Rect): boolean =>
  a.x0 < b.x1 - GUARD_MM && b.x0 < a.x1 - GUARD_MM && a.y0 < b.y1 - GUARD_MM && b.y0 < a.y1 - GUARD_MM;

const holds = (outer: Rect, inner: Rect): boolean =>
  outer.x0 <= inner.x0 && outer.y0 <= inner.y0 && outer.x1 >= inner.x1 && outer.y1 >= inner.y1;

/** The free rectangles after something is put down; those that lie in another are dropped. */
export function without(free: readonly Rect[], taken: Rect): Rect[] {
  if (!free.some((f) => overlap(f, taken))) return [...free];
  const parts = free.flatMap((f) => (overlap(f, taken) ? around(f, taken) : [f]));
  return parts.filter((p, i) => !parts.some((q, j) => i !== j && holds(q, p) && (!holds(p, q) || j < i)));
}

const around = (f: Rect, t: Rect): Rect[] =>
  [
    { ...f, x1: Math.min(f.x1, t.x0) },
    { ...f, x0: Math.max(f.x0, t.x1) },
    { ...f, y1: Math.min(f.y1, t.y0) },
    { ...f, y0: Math.max(f.y0, t.y1) },
  ].filter((r) => rectWidth(r) > GUARD_MM && rectHeight(r) > GUARD_MM);

export const grown = (r: Rect, by: number): Rect => ({
  x0: r.x0 - by,
  y0: r.y0 - by,
  x1: r.x1 + by,
  y1: r.y1 + by,
});
