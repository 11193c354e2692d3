import type { Point, Rect } from '../../geometry';

import type { CheckedLine } from './types';

/* Lines found by place: which other lines pass near, without asking each of each. */

interface Piece {
  readonly line: number;
  readonly at: number;
  readonly a: Point;
  readonly b: Point;
}

/** Pieces of all lines in squares of a grid. */
export class PieceGrid {
  private readonly squares = new Map<number, Piece[]>();
  private readonly cellMm: number;

  constructor(lines: readonly CheckedLine[], reachMm: number) {
    this.cellMm = Math.max(2, reachMm);
    lines.forEach((line, i) => eachPiece(line, (a, b, at) => this.put({ line: i, at, a, b })));
  }

  /** The pieces that may come within the grid's reach of a place. */
  *near(p: Point): Generator<Piece> {
    const [cx, cy] = [Math.floor(p.x / this.cellMm), Math.floor(p.y / this.cellMm)];
    for (let x = cx - 1; x <= cx + 1; x += 1)
      for (let y = cy - 1; y <= cy + 1; y += 1) yield* this.squares.get(keyOf(x, y)) ?? [];
  }

  private put(piece: Piece): void {
    const { a, b } = piece;
    const steps = Math.max(1, Math.ceil(Math.hypot(b.x - a.x, b.y - a.y) / this.cellMm));
    const seen = new Set<number>();
    for (let i = 0; i <= steps; i += 1) {
      const x = Math.floor((a.x + ((b.x - a.x) * i) / steps) / this.cellMm);
      const y = Math.floor((a.y + ((b.y - a.y) * i) / steps) / this.cellMm);
      const key = keyOf(x, y);
      if (seen.has(key)) continue;
      seen.add(key);
      const square = this.squares.get(key);
      if (square) square.push(piece);
      else this.squares.set(key, [piece]);
    }
  }
}

const keyOf = (x: number, y: number): number => x * 4_000_037 + y;

export function eachPiece(line: CheckedLine, visit: (a: Point, b: Point, at: number) => void): void {
  const { points, closed } = line;
  const last = closed ? points.length : points.length - 1;
  for (let i = 0; i < last; i += 1) visit(points[i]!, points[(i + 1) % points.length]!, i);
}

/** Places along a line no farther apart than `apartMm`, each with the way outward of an anticlockwise line. */
export function along(
  line: CheckedLine,
  apartMm: number,
): (Point & { readonly nx: number; readonly ny: number })[] {
  const out: (Point & { readonly nx: number; readonly ny: number })[] = [];
  eachPiece(line, (a, b) => {
    const [x, y] = [b.x - a.x, b.y - a.y];
    const length = Math.hypot(x, y);
    if (length === 0) return;
    const steps = Math.max(1, Math.ceil(length / apartMm));
    for (let i = 0; i < steps; i += 1) {
      const t = (i + 0.5) / steps;
      out.push({ x: a.x + t * x, y: a.y + t * y, nx: y / length, ny: -x / length });
    }
  });
  return out;
}

export function toPiece(p: Point, { a, b }: { readonly a: Point; readonly b: Point }): number {
  const [x, y] = [b.x - a.x, b.y - a.y];
  const size = x * x + y * y;
  const t = size === 0 ? 0 : Math.max(0, Math.min(1, ((p.x - a.x) * x + (p.y - a.y) * y) / size));
  return Math.hypot(p.x - a.x - t * x, p.y - a.y - t * y);
}

/** Whether two pieces cross within both, not only touch. */
export function crosses(a: Point, b: Point, c: Point, d: Point): boolean {
  const side = (p: Point, q: Point, r: Point): number =>
    (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
  const [c1, d1, a1, b1] = [side(a, b, c), side(a, b, d), side(c, d, a), side(c, d, b)];
  return c1 * d1 < 0 && a1 * b1 < 0;
}

export function boundsOf(line: CheckedLine): Rect {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const p of line.points) {
    x0 = Math.min(x0, p.x);
    y0 = Math.min(y0, p.y);
    x1 = Math.max(x1, p.x);
    y1 = Math.max(y1, p.y);
  }
  return { x0, y0, x1, y1 };
}

/** Whether a line enters an upright rectangle. */
export function enters(line: CheckedLine, r: Rect): boolean {
  let found = false;
  const inside = (p: Point): boolean => p.x > r.x0 && p.x < r.x1 && p.y > r.y0 && p.y < r.y1;
  const corners: Point[] = [
    { x: r.x0, y: r.y0 },
    { x: r.x1, y: r.y0 },
    { x: r.x1, y: r.y1 },
    { x: r.x0, y: r.y1 },
  ];
  eachPiece(line, (a, b) => {
    found ||= inside(a) || corners.some((c, i) => crosses(a, b, c, corners[(i + 1) % 4]!));
  });
  return found;
}

/** How long a line is, mm. */
export function lengthOf(line: CheckedLine): number {
  let sum = 0;
  eachPiece(line, (a, b) => (sum += Math.hypot(b.x - a.x, b.y - a.y)));
  return sum;
}
