import type { Field, Picture } from './field';
import { fourAlike, luma } from './field';

/** A closed line round pixels, in pixels, x right and y down, x and y in turn: the artwork lies to its left seen y up. */
export type PixelContour = Float64Array;

/** So far an edge is looked at beyond the two pixels that it lies between: antialiasing and a soft print reach no farther. */
const REACH = 2;

/**
 * Closed lines round everything above the threshold.
 *
 * Method   marching squares on the pixels’ middles (Lorensen & Cline 1987, in the plane) with a flat record of what was
 *          passed; where a line crosses between two pixels its place is found half-way between the colours of both sides
 *          just there, in the picture’s own figures, which antialiasing mixes linearly.
 * Units    pixels; (0, 0) the outer corner of the first. Beyond the picture is background.
 * Returns  null with more points than asked for.
 */
export function contoursOf(
  picture: Picture,
  field: Field,
  threshold: number,
  mostPoints: number,
): PixelContour[] | null {
  const { width, height, values } = field;
  // Cells lie between four pixels; the first row and column reach into the background round the picture.
  const columns = width + 1;
  // A bit a cell.
  const passed = new Uint8Array((columns * (height + 1) + 7) >> 3);
  // Whole figures compare fastest; none lies between this and the threshold.
  const most = Math.floor(threshold);
  const inside = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < width && y < height && values[y * width + x]! > most;
  const placer = new Placer(picture, field, threshold);
  const lines: PixelContour[] = [];
  const four =
    values.byteOffset % 4 === 0 ? new Int32Array(values.buffer, values.byteOffset, values.length >> 2) : null;
  const buffer = new PointBuffer(mostPoints);
  for (let y = 0; y < height; y += 1) {
    const row = y * width;
    let last = 0;
    let alike = 0;
    let before = false;
    for (let x = 0; x < width; x += 1) {
      // Flat parts are passed four pixels at a time.
      if (four && ((row + x) & 3) === 0) {
        while (x + 4 <= width && four[(row + x) >> 2] === alike) x += 4;
        if (x >= width) break;
      }
      const value = values[row + x]!;
      if (value === last) continue;
      last = value;
      alike = fourAlike(value);
      const now = value > most;
      // Every closed line runs down somewhere along the left edge of a pixel.
      if (now && !before && (passed[(y * columns + x) >> 3]! & (1 << ((y * columns + x) & 7))) === 0) {
        const line = follow(x, y, inside, passed, columns, placer, buffer);
        if (!line) return null;
        lines.push(line);
      }
      before = now;
    }
  }
  return lines;
}

type Inside = (x: number, y: number) => boolean;

const LEFT = 2;
/** Right, down, left, up. */
const STEP_X = [1, 0, -1, 0];
const STEP_Y = [0, 1, 0, -1];

/**
 * Walks round the artwork with it on the left hand (y down), from the left edge of pixel (x, y) downwards, one crossing
 * between an inner and an outer pixel at a time. Pixels that touch by a corner belong together. Null when there are too many.
 */
function follow(
  startX: number,
  startY: number,
  inside: Inside,
  passed: Uint8Array,
  columns: number,
  placer: Placer,
  buffer: PointBuffer,
): PixelContour | null {
  let x = startX;
  let y = startY;
  // The side on which the outside lies.
  let out = LEFT;
  do {
    const outX = STEP_X[out]!;
    const outY = STEP_Y[out]!;
    placer.find(x, y, outX, outY);
    if (!buffer.put(placer.x, placer.y)) return null;
    // The edge to the left, passed with artwork on its right.
    if (out === LEFT) passed[(y * columns + x) >> 3]! |= 1 << ((y * columns + x) & 7);
    // With the outside at the left the walk goes down, and so on round: its heading is a quarter turn from the outside.
    const ahead = (out + 3) & 3;
    const aheadX = x + STEP_X[ahead]!;
    const aheadY = y + STEP_Y[ahead]!;
    if (inside(aheadX + outX, aheadY + outY)) {
      // Round an inner corner, or over to a pixel that touches by its corner.
      x = aheadX + outX;
      y = aheadY + outY;
      out = (out + 1) & 3;
    } else if (inside(aheadX, aheadY)) {
      x = aheadX;
      y = aheadY;
    } else out = (out + 3) & 3;
  } while (x !== startX || y !== startY || out !== LEFT);
  return buffer.taken();
}

/** Takes points in until a line is whole; so many in all lines together, and no more. */
class PointBuffer {
  private xy = new Float64Array(4096);
  private size = 0;

  constructor(private left: number) {}

  put(x: number, y: number): boolean {
    if ((this.left -= 1) < 0) return false;
    if (this.size === this.xy.length) {
      const larger = new Float64Array(2 * this.xy.length);
      larger.set(this.xy);
      this.xy = larger;
    }
    this.xy[this.size] = x;
    this.xy[this.size + 1] = y;
    this.size += 2;
    return true;
  }

  taken(): Float64Array {
    const line = this.xy.slice(0, this.size);
    this.size = 0;
    return line;
  }
}

/** Asked for every pixel across every edge: bound once, not looked up in its module each time. */
const brightness = luma;

/** As many pixels as are looked at across an edge: two, and the reach on both sides. */
const ACROSS = 2 * REACH + 2;
/** Colours of both sides nearer than this, squared, are too alike to tell how they mix. */
const TOO_ALIKE = 24 ** 2;

/** Finds where between an inner pixel and its outer neighbour the edge lies; one for a picture, since it is asked often. */
class Placer {
  x = 0;
  y = 0;
  private readonly red = new Float64Array(ACROSS);
  private readonly green = new Float64Array(ACROSS);
  private readonly blue = new Float64Array(ACROSS);
  private readonly values: Uint8Array;
  private readonly rgba: Picture['rgba'];
  private readonly width: number;
  private readonly height: number;
  private readonly byOpacity: boolean;
  private readonly byColour: boolean;

  constructor(
    { rgba }: Picture,
    { values, width, height, background }: Field,
    private readonly threshold: number,
  ) {
    [this.values, this.rgba, this.width, this.height] = [values, rgba, width, height];
    this.byOpacity = background === 'alpha';
    this.byColour = background === 'colour';
  }

  /** From the inner pixel one step (sx, sy) outward. */
  find(inX: number, inY: number, sx: number, sy: number): void {
    const { values, threshold } = this;
    const step = sy * this.width + sx;
    const inner = inY * this.width + inX;
    const left = sx !== 0 ? inX : inY;
    const right = sx !== 0 ? this.width - 1 - inX : this.height - 1 - inY;
    // So many pixels of the picture there are inward and outward of the inner one; beyond is background.
    const inward = sx + sy > 0 ? left : right;
    const outward = sx + sy > 0 ? right : left;
    const from = values[inner]!;
    const to = outward > 0 ? values[inner + step]! : 0;
    let share = (from - threshold) / (from - to);
    // Far enough in and out to see both colours unmixed, and no farther than one side lasts.
    let deep = 0;
    while (deep < REACH && deep < inward && values[inner - step * (deep + 1)]! > threshold) deep += 1;
    let away = 0;
    while (away < REACH && (away + 2 > outward || values[inner + step * (away + 2)]! <= threshold)) away += 1;
    const mixed = this.halfWay(inner - step * deep, step, deep + away + 2, deep + outward + 1);
    if (mixed !== null) share = Math.max(-1, Math.min(2, mixed - deep));
    this.x = inX + 0.5 + sx * share;
    this.y = inY + 0.5 + sy * share;
  }

  /**
   * How many pixels from the first the mixture of the first and the last is half; null where they are too alike. Of `count`
   * pixels the first `within` are the picture's.
   */
  private halfWay(first: number, step: number, count: number, within: number): number | null {
    const { rgba, byOpacity, byColour, red: r, green: g, blue: b } = this;
    // Beyond the picture’s edge nothing is mixed in: the pixel at the edge is covered or not.
    if (within < count && !byOpacity) return null;
    for (let k = 0, i = 4 * first; k < count; k += 1, i += 4 * step) {
      if (byOpacity) r[k] = k < within ? rgba[i + 3]! : 0;
      else if (byColour) {
        r[k] = rgba[i]!;
        g[k] = rgba[i + 1]!;
        b[k] = rgba[i + 2]!;
      } else r[k] = brightness(rgba[i]!, rgba[i + 1]!, rgba[i + 2]!);
    }
    const end = count - 1;
    const lastR = r[end]!;
    const lastG = g[end]!;
    const lastB = b[end]!;
    const ar = r[0]! - lastR;
    const ag = byColour ? g[0]! - lastG : 0;
    const ab = byColour ? b[0]! - lastB : 0;
    const size = ar * ar + ag * ag + ab * ab;
    if (size < TOO_ALIKE) return null;
    let before = 1;
    for (let k = 1; k <= end; k += 1) {
      let along = (r[k]! - lastR) * ar;
      if (byColour) along += (g[k]! - lastG) * ag + (b[k]! - lastB) * ab;
      const now = along / size;
      if (before >= 0.5 && now < 0.5) return k - 1 + (before - 0.5) / (before - now);
      before = now;
    }
    return null;
  }
}
