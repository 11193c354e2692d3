import type svgpath from 'svgpath';

import { applyAffine, type Affine, type Point } from '../../geometry';
import type { DrawnPath, Segment } from '..';

type SvgPath = ReturnType<typeof svgpath>;
type Style = Pick<DrawnPath, 'layer' | 'colour'>;

/** Absolute path data taken through an affine map, one drawn path for each move; arcs stay arcs. */
export function pathToDrawing(source: SvgPath, map: Affine, style: Style): DrawnPath[] {
  const paths: DrawnPath[] = [];
  let open: { start: Point; segments: Segment[]; run: number[]; closed: boolean } | null = null;
  const put = (p: Point): void => {
    open?.run.push(map.a11 * p.x + map.a12 * p.y + map.tx, map.a21 * p.x + map.a22 * p.y + map.ty);
  };
  const flush = (): void => {
    if (open && open.run.length > 0) {
      open.segments.push({ kind: 'lines', xy: open.run });
      open.run = [];
    }
  };
  const finish = (): void => {
    flush();
    if (open && open.segments.length > 0)
      paths.push({ start: open.start, segments: open.segments, closed: open.closed, pen: null, ...style });
    open = null;
  };
  const begin = (x: number, y: number): void => {
    open ??= { start: applyAffine(map, { x, y }), segments: [], run: [], closed: false };
  };
  source.iterate((segment, _index, x, y) => {
    const command = String(segment[0]);
    const f = segment as unknown as number[];
    const at = (i: number): Point => applyAffine(map, { x: f[i]!, y: f[i + 1]! });
    if (command === 'M') {
      finish();
      begin(f[1]!, f[2]!);
      return;
    }
    begin(x, y);
    switch (command) {
      case 'L':
        return put({ x: f[1]!, y: f[2]! });
      case 'H':
        return put({ x: f[1]!, y });
      case 'V':
        return put({ x, y: f[1]! });
      case 'C':
        flush();
        open!.segments.push({ kind: 'cubic', c1: at(1), c2: at(3), to: at(5) });
        return;
      case 'Q': {
        flush();
        // The same curve as a cubic: controls two thirds of the way to the quadratic's.
        const from = applyAffine(map, { x, y });
        const [q, to] = [at(1), at(3)];
        const third = (a: Point): Point => ({
          x: a.x + (2 / 3) * (q.x - a.x),
          y: a.y + (2 / 3) * (q.y - a.y),
        });
        open!.segments.push({ kind: 'cubic', c1: third(from), c2: third(to), to });
        return;
      }
      case 'A': {
        const arc = centred({ x, y }, { x: f[6]!, y: f[7]! }, f);
        if (arc === null) return put({ x: f[6]!, y: f[7]! });
        flush();
        const vector = (v: Point): Point => ({
          x: map.a11 * v.x + map.a12 * v.y,
          y: map.a21 * v.x + map.a22 * v.y,
        });
        open!.segments.push({
          ...arc,
          centre: applyAffine(map, arc.centre),
          u: vector(arc.u),
          v: vector(arc.v),
        });
        return;
      }
      case 'Z':
      case 'z':
        open!.closed = true;
        finish();
    }
  });
  finish();
  return paths;
}

/**
 * An SVG arc by its centre and conjugate half-axes; null when it is a straight line.
 * Source: W3C SVG 2, implementation notes B.2.4 and B.2.5.
 */
function centred(from: Point, to: Point, f: readonly number[]): (Segment & { kind: 'arc' }) | null {
  let [rx, ry] = [Math.abs(f[1]!), Math.abs(f[2]!)];
  if (rx === 0 || ry === 0 || (from.x === to.x && from.y === to.y)) return null;
  const phi = (f[3]! * Math.PI) / 180;
  const [cos, sin] = [Math.cos(phi), Math.sin(phi)];
  const half = { x: (from.x - to.x) / 2, y: (from.y - to.y) / 2 };
  const px = cos * half.x + sin * half.y;
  const py = -sin * half.x + cos * half.y;
  const grow = (px / rx) ** 2 + (py / ry) ** 2;
  if (grow > 1) {
    rx *= Math.sqrt(grow);
    ry *= Math.sqrt(grow);
  }
  const [large, clockwise] = [f[4] !== 0, f[5] !== 0];
  const under = (rx * ry) ** 2 / ((rx * py) ** 2 + (ry * px) ** 2) - 1;
  const size = (large === clockwise ? -1 : 1) * Math.sqrt(Math.max(0, under));
  const cx = (size * rx * py) / ry;
  const cy = (-size * ry * px) / rx;
  const start = Math.atan2((py - cy) / ry, (px - cx) / rx);
  let sweep = Math.atan2((-py - cy) / ry, (-px - cx) / rx) - start;
  if (clockwise && sweep < 0) sweep += 2 * Math.PI;
  if (!clockwise && sweep > 0) sweep -= 2 * Math.PI;
  return {
    kind: 'arc',
    centre: { x: cos * cx - sin * cy + (from.x + to.x) / 2, y: sin * cx + cos * cy + (from.y + to.y) / 2 },
    u: { x: rx * cos, y: rx * sin },
    v: { x: -ry * sin, y: ry * cos },
    from: start,
    sweep,
  };
}
