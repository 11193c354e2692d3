import type { Field, Picture } from './field';
import { FOUR_ALIKE, luma } from './field';

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
  const passed = new Uint8Array(columns * (height + 1));
  // Whole figures compare fastest; none lies between this and the threshold.
  const most = Math.floor(threshold);
  const inside = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < width && y < height && values[y * width + x]! > most;
  const placer = new Placer(picture, field, threshold);
  const lines: PixelContour[] = [];
  const four =
    values.byteOffset % 4 === 0
      ? new Uint32Array(values.buffer, values.byteOffset, values.length >> 2)
      : null;
  const buffer = new PointBuffer(mostPoints);
  for (let y = 0; y < height; y += 1) {
    const row = y * width;
    let [last, before] = [0, false];
    for (let x = 0; x < width; x += 1) {
      // Flat parts are passed four pixels at a time.
      if (four && ((row + x) & 3) === 0) {
        const alike = last * FOUR_ALIKE;
        while (x + 4 <= width && four[(row + x) >> 2] === alike) x += 4;
        if (x >= width) break;
      }
      const value = values[row + x]!;
      if (value === last) continue;
      last = value;
      const now = value > most;
      // Every closed line runs down somewhere along the left edge of a pixel.
      if (now && !before && (passed[y * columns + x]! & LEFT_EDGE) === 0) {
        const line = follow(x, y, inside, passed, columns, placer, buffer);
        if (!line) return null;
        lines.push(line);
      }
      before = now;
    }
  }
  return lines;
}

/** The edge between pixel (x − 1, y) and (x, y), passed with artwork on the right pixel. */
const LEFT_EDGE = 1;

type Inside = (x: number, y: number) => boolean;

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
  let [x, y] = [startX, startY];
  // The side on which the outside lies: 2 is left.
  let out = 2;
  do {
    placer.find(x, y, STEP_X[out]!, STEP_Y[out]!);
    if (!buffer.put(placer.x, placer.y)) return null;
    if (out === 2) passed[y * columns + x]! |= LEFT_EDGE;
    // With the outside at the left the walk goes down, and so on round: its heading is a quarter turn from the outside.
    const ahead = (out + 3) % 4;
    const [ax, ay] = [x + STEP_X[ahead]!, y + STEP_Y[ahead]!];
    const [dx, dy] = [ax + STEP_X[out]!, ay + STEP_Y[out]!];
    if (inside(dx, dy)) {
      // Round an inner corner, or over to a pixel that touches by its corner.
      [x, y] = [dx, dy];
      out = (out + 1) % 4;
    } else if (inside(ax, ay)) [x, y] = [ax, ay];
    else out = (out + 3) % 4;
  } while (x !== startX || y !== startY || out !== 2);
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

/** As many pixels as are looked at across an edge: two, and the reach on both sides. */
const ACROSS = 2 * REACH + 2;
/** Colours of both sides nearer than this, squared, are too alike to tell how they mix. */
const TOO_ALIKE = 24 ** 2;

/** Finds where between an inner pixel and its outer neighbour the edge lies; one for a picture, since it is asked often. */
class Placer {
  x = 0;
  y = 0;
  private readonly seen = [0, 1, 2].map(() => new Float64Array(ACROSS)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  private readonly channels: 1 | 3;

  constructor(
    private readonly picture: Picture,
    private readonly field: Field,
    private readonly threshold: number,
  ) {
    this.channels = field.background === 'colour' ? 3 : 1;
  }

  private at(x: number, y: number): number {
    const { width, height, values } = this.field;
    return x < 0 || y < 0 || x >= width || y >= height ? 0 : values[y * width + x]!;
  }

  /** From the inner pixel one step (sx, sy) outward. */
  find(inX: number, inY: number, sx: number, sy: number): void {
    const { threshold } = this;
    const [from, to] = [this.at(inX, inY), this.at(inX + sx, inY + sy)];
    let share = (from - threshold) / (from - to);
    // Far enough in and out to see both colours unmixed, and no farther than one side lasts.
    let [deep, away] = [0, 0];
    while (deep < REACH && this.at(inX - sx * (deep + 1), inY - sy * (deep + 1)) > threshold) deep += 1;
    while (away < REACH && this.at(inX + sx * (away + 2), inY + sy * (away + 2)) <= threshold) away += 1;
    const mixed = this.halfWay(inX - sx * deep, inY - sy * deep, sx, sy, deep + away + 2);
    if (mixed !== null) share = Math.max(-1, Math.min(2, mixed - deep));
    this.x = inX + 0.5 + sx * share;
    this.y = inY + 0.5 + sy * share;
  }

  /** How many pixels from the first the mixture of the first and the last is half; null where they are too alike. */
  private halfWay(x0: number, y0: number, sx: number, sy: number, count: number): number | null {
    const { width, height, rgba } = this.picture;
    const [r, g, b] = this.seen;
    for (let k = 0; k < count; k += 1) {
      const [x, y] = [x0 + sx * k, y0 + sy * k];
      const beyond = x < 0 || y < 0 || x >= width || y >= height;
      const i = 4 * (y * width + x);
      if (this.field.background === 'alpha') r[k] = beyond ? 0 : rgba[i + 3]!;
      // Beyond the picture’s edge nothing is mixed in: the pixel at the edge is covered or not.
      else if (beyond) return null;
      else if (this.channels === 1) r[k] = luma(rgba[i]!, rgba[i + 1]!, rgba[i + 2]!);
      else [r[k], g[k], b[k]] = [rgba[i]!, rgba[i + 1]!, rgba[i + 2]!];
    }
    const end = count - 1;
    const [ar, ag, ab] = [r[0]! - r[end]!, g[0]! - g[end]!, b[0]! - b[end]!];
    const size = this.channels === 1 ? ar * ar : ar * ar + ag * ag + ab * ab;
    if (size < TOO_ALIKE) return null;
    let before = 1;
    for (let k = 1; k <= end; k += 1) {
      const along =
        this.channels === 1
          ? (r[k]! - r[end]!) * ar
          : (r[k]! - r[end]!) * ar + (g[k]! - g[end]!) * ag + (b[k]! - b[end]!) * ab;
      const now = along / size;
      if (before >= 0.5 && now < 0.5) return k - 1 + (before - 0.5) / (before - now);
      before = now;
    }
    return null;
  }
}
