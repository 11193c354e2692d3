import type { Affine, Point, Rect } from '../../geometry';
import { flatten, type DrawnPath } from '..';

import { Stop } from './scan';

/** A plotter unit: 1/40 mm (HP-GL; memory). */
export const HPGL_UNIT_MM = 0.025;

/** A curve that is cut off at the window's edge becomes lines this close to it, mm. */
const WINDOW_CHORD_MM = 0.003;

interface Scale {
  readonly x: number;
  readonly y: number;
  readonly x0: number;
  readonly y0: number;
}

const PLOTTER_UNITS: Scale = { x: HPGL_UNIT_MM, y: HPGL_UNIT_MM, x0: 0, y0: 0 };

type Four = readonly [number, number, number, number];

/**
 * What a program says of its coordinates: P1 and P2 (IP), user units (SC), turning (RO), window (IW).
 * User units hang on P1 and P2 and follow them when they move. Turning is about the origin of the plotter's units
 * (HP-GL/2 and HP-GL Reference Guide; memory; hp2xx does the same).
 */
export class Frame {
  /** User units → mm on each axis, before turning. */
  scale = PLOTTER_UNITS;
  /** Quarter turns counter-clockwise. */
  quarters = 0;
  private corners: Four | null = null;
  private units: readonly number[] | null = null;
  /** mm, as it lies on the media. */
  private window: Rect | null = null;

  /** DF, and part of IN: plotter units, no window, P1 and P2 as the machine has them. */
  defaults(): void {
    this.scale = PLOTTER_UNITS;
    this.units = null;
    this.corners = null;
    this.window = null;
  }

  /** IP: both corners; one, which the other follows; or none, which is the machine's own. */
  place(f: readonly number[]): void {
    if (f.length === 4) this.corners = [f[0]!, f[1]!, f[2]!, f[3]!];
    else if (f.length === 2 && this.corners) {
      const [x1, y1, x2, y2] = this.corners;
      this.corners = [f[0]!, f[1]!, x2 + f[0]! - x1, y2 + f[1]! - y1];
    } else this.corners = null;
    if (this.units) this.rescale(this.units);
  }

  /** SC: four corners, the same with equal units on both axes (type 1), or plotter units a user unit (type 2). */
  rescale(f: readonly number[]): void {
    this.units = null;
    if (f.length === 0) {
      this.scale = PLOTTER_UNITS;
      return;
    }
    const fail = (why: string): never => {
      throw new Stop({ code: 'not-understood', command: 'SC', why });
    };
    const [a, b, c, d, kind = 0] = f as readonly [number, number, number, number, number?];
    if (f.length < 4 || ![0, 1, 2].includes(kind))
      return fail('a scale that the published command set does not have; write it in plotter units');
    if (!this.corners)
      return fail('no IP before it, so its corners depend on the machine; write it in plotter units');
    const [x1, y1, x2, y2] = this.corners;
    if (kind === 2 ? b === 0 || d === 0 : a === b || c === d || x1 === x2 || y1 === y2)
      return fail('its corners coincide');
    this.scale =
      kind === 2 ? byFactor(x1, y1, f) : kind === 1 ? alike(this.corners, f) : byCorners(this.corners, f);
    this.units = f;
  }

  /** RO. */
  turn(degrees: number): void {
    if (![0, 90, 180, 270].includes(degrees))
      throw new Stop({
        code: 'not-understood',
        command: 'RO',
        why: 'a page turned by something else than quarters; write it without turning',
      });
    this.quarters = degrees / 90;
  }

  /** From mm before turning to mm as it lies on the media. */
  get turned(): Affine {
    const [cos, sin] = QUARTERS[this.quarters]!;
    return { a11: cos, a12: -sin, a21: sin, a22: cos, tx: 0, ty: 0 };
  }

  onMedia({ x, y }: Point): Point {
    const [cos, sin] = QUARTERS[this.quarters]!;
    return { x: cos * x - sin * y + 0, y: sin * x + cos * y + 0 };
  }

  fromMedia({ x, y }: Point): Point {
    const [cos, sin] = QUARTERS[this.quarters]!;
    return { x: cos * x + sin * y + 0, y: -sin * x + cos * y + 0 };
  }

  /** IW: in the units in use; none takes the window away. */
  setWindow(f: readonly number[]): void {
    if (f.length < 4) {
      this.window = null;
      return;
    }
    const { x, y, x0, y0 } = this.scale;
    const p = this.onMedia({ x: f[0]! * x + x0, y: f[1]! * y + y0 });
    const q = this.onMedia({ x: f[2]! * x + x0, y: f[3]! * y + y0 });
    this.window = {
      x0: Math.min(p.x, q.x),
      y0: Math.min(p.y, q.y),
      x1: Math.max(p.x, q.x),
      y1: Math.max(p.y, q.y),
    };
  }

  /** What of a path on the media lies in the window: itself where all of it does. */
  inWindow(path: DrawnPath): readonly DrawnPath[] {
    const { window } = this;
    if (!window) return [path];
    const xy = flatten(path, WINDOW_CHORD_MM);
    const outside = (i: number): boolean =>
      xy[i]! < window.x0 || xy[i]! > window.x1 || xy[i + 1]! < window.y0 || xy[i + 1]! > window.y1;
    let whole = true;
    for (let i = 0; i < xy.length && whole; i += 2) whole = !outside(i);
    return whole ? [path] : pieces(path, xy, window);
  }
}

/** Cosine and sine of quarter turns, exactly. */
const QUARTERS = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
] as const;

function byCorners([x1, y1, x2, y2]: Four, f: readonly number[]): Scale {
  const [xMin, xMax, yMin, yMax] = f as Four;
  const x = ((x2 - x1) / (xMax - xMin)) * HPGL_UNIT_MM;
  const y = ((y2 - y1) / (yMax - yMin)) * HPGL_UNIT_MM;
  return { x, y, x0: x1 * HPGL_UNIT_MM - xMin * x, y0: y1 * HPGL_UNIT_MM - yMin * y };
}

function byFactor(x1: number, y1: number, f: readonly number[]): Scale {
  const [xMin, xFactor, yMin, yFactor] = f as Four;
  const [x, y] = [xFactor * HPGL_UNIT_MM, yFactor * HPGL_UNIT_MM];
  return { x, y, x0: x1 * HPGL_UNIT_MM - xMin * x, y0: y1 * HPGL_UNIT_MM - yMin * y };
}

/** Equal units on both axes, as large as fit; what is left over lies left and below by the given percentages. */
function alike([x1, y1, x2, y2]: Four, f: readonly number[]): Scale {
  const [xMin, xMax, yMin, yMax] = f as Four;
  const [left, bottom] = [f[5] ?? 50, f[6] ?? 50];
  const unit = Math.min(Math.abs((x2 - x1) / (xMax - xMin)), Math.abs((y2 - y1) / (yMax - yMin)));
  const x = unit * Math.sign((x2 - x1) / (xMax - xMin));
  const y = unit * Math.sign((y2 - y1) / (yMax - yMin));
  const startX = x1 + ((x2 - x1 - x * (xMax - xMin)) * left) / 100;
  const startY = y1 + ((y2 - y1 - y * (yMax - yMin)) * bottom) / 100;
  return {
    x: x * HPGL_UNIT_MM,
    y: y * HPGL_UNIT_MM,
    x0: (startX - xMin * x) * HPGL_UNIT_MM,
    y0: (startY - yMin * y) * HPGL_UNIT_MM,
  };
}

/** The parts of a broken line within a window (Liang & Barsky 1984). */
function pieces(path: DrawnPath, xy: readonly number[], w: Rect): DrawnPath[] {
  const made: DrawnPath[] = [];
  let run: number[] = [];
  const end = (): void => {
    if (run.length >= 4)
      made.push({
        ...path,
        start: { x: run[0]!, y: run[1]! },
        segments: [{ kind: 'lines', xy: run.slice(2) }],
        closed: false,
      });
    run = [];
  };
  for (let i = 2; i < xy.length; i += 2) {
    const [ax, ay, bx, by] = [xy[i - 2]!, xy[i - 1]!, xy[i]!, xy[i + 1]!];
    const share = within(ax, ay, bx - ax, by - ay, w);
    if (!share) {
      end();
      continue;
    }
    const [from, to] = share;
    if (from > 0 || run.length === 0) {
      end();
      run.push(ax + from * (bx - ax), ay + from * (by - ay));
    }
    run.push(ax + to * (bx - ax), ay + to * (by - ay));
    if (to < 1) end();
  }
  end();
  return made;
}

function within(x: number, y: number, dx: number, dy: number, w: Rect): [number, number] | null {
  let [from, to] = [0, 1];
  for (const [p, q] of [
    [-dx, x - w.x0],
    [dx, w.x1 - x],
    [-dy, y - w.y0],
    [dy, w.y1 - y],
  ] as const) {
    if (p === 0) {
      if (q < 0) return null;
      continue;
    }
    if (p < 0) from = Math.max(from, q / p);
    else to = Math.min(to, q / p);
  }
  return from < to ? [from, to] : null;
}
