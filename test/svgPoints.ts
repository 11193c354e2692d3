import type { Point } from '@/core/geometry';

/**
 * Points along absolute path data, sampled by formulas written apart from the code under test:
 * Bézier polynomials, and arcs by the W3C SVG 2 implementation notes, B.2.4 (end points to centre).
 */
export function samplePath(d: string, perSegment = 9, perLine = perSegment): Point[] {
  const tokens = d.match(/[a-zA-Z]|[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?/g) ?? [];
  const points: Point[] = [];
  let i = 0;
  let at: Point = { x: 0, y: 0 };
  let start: Point = at;
  let command = '';
  let lastC: Point[] = [];
  let lastQ: Point[] = [];
  const take = (): number => Number(tokens[i++]);
  const point = (): Point => ({ x: take(), y: take() });
  const curve = (controls: Point[]): void => {
    const all = [at, ...controls];
    const pieces = controls.length === 1 ? perLine : perSegment;
    for (let k = 1; k <= pieces; k += 1) points.push(bezier(all, k / pieces));
    at = all.at(-1)!;
  };
  while (i < tokens.length) {
    if (/[a-zA-Z]/.test(tokens[i]!)) command = tokens[i++]!;
    if (!/[CS]/.test(command)) lastC = [];
    if (!/[QT]/.test(command)) lastQ = [];
    if (command === 'M') {
      at = point();
      start = at;
      points.push(at);
      command = 'L';
    } else if (command === 'L') curve([point()]);
    else if (command === 'H') curve([{ x: take(), y: at.y }]);
    else if (command === 'V') curve([{ x: at.x, y: take() }]);
    else if (command === 'C') curve((lastC = [point(), point(), point()]));
    else if (command === 'Q') curve((lastQ = [point(), point()]));
    else if (command === 'S') curve((lastC = [mirrored(lastC.at(-2), at), point(), point()]));
    else if (command === 'T') curve((lastQ = [mirrored(lastQ.at(-2), at), point()]));
    else if (command === 'A') {
      const arc = [take(), take(), take(), take(), take()] as const;
      const to = point();
      for (let k = 1; k <= perSegment; k += 1) points.push(arcPoint(at, to, ...arc, k / perSegment));
      at = to;
    } else if (command === 'Z' || command === 'z') at = start;
    else throw new Error(`samplePath: “${command}” is not expected here`);
  }
  return points;
}

/** The control point that a smooth curve takes over from the one before it. */
const mirrored = (control: Point | undefined, at: Point): Point =>
  control ? { x: 2 * at.x - control.x, y: 2 * at.y - control.y } : at;

function bezier(controls: Point[], t: number): Point {
  if (controls.length === 1) return controls[0]!;
  const next = controls.slice(1).map((p, i) => ({
    x: controls[i]!.x + t * (p.x - controls[i]!.x),
    y: controls[i]!.y + t * (p.y - controls[i]!.y),
  }));
  return bezier(next, t);
}

function arcPoint(
  from: Point,
  to: Point,
  rx0: number,
  ry0: number,
  degrees: number,
  large: number,
  sweep: number,
  t: number,
): Point {
  const phi = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(phi), Math.sin(phi)];
  const hx = (from.x - to.x) / 2;
  const hy = (from.y - to.y) / 2;
  const x1 = cos * hx + sin * hy;
  const y1 = -sin * hx + cos * hy;
  const lambda = Math.max(1, Math.sqrt((x1 / rx0) ** 2 + (y1 / ry0) ** 2));
  const rx = rx0 * lambda;
  const ry = ry0 * lambda;
  const under = (rx * ry) ** 2 - (rx * y1) ** 2 - (ry * x1) ** 2;
  const k = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, under) / ((rx * y1) ** 2 + (ry * x1) ** 2));
  const cx1 = (k * rx * y1) / ry;
  const cy1 = (-k * ry * x1) / rx;
  const a0 = Math.atan2((y1 - cy1) / ry, (x1 - cx1) / rx);
  let sweepAngle = Math.atan2((-y1 - cy1) / ry, (-x1 - cx1) / rx) - a0;
  if (sweep && sweepAngle < 0) sweepAngle += 2 * Math.PI;
  if (!sweep && sweepAngle > 0) sweepAngle -= 2 * Math.PI;
  const a = a0 + t * sweepAngle;
  const x = rx * Math.cos(a);
  const y = ry * Math.sin(a);
  return {
    x: cos * (x + cx1) - sin * (y + cy1) + (from.x + to.x) / 2,
    y: sin * (x + cx1) + cos * (y + cy1) + (from.y + to.y) / 2,
  };
}
