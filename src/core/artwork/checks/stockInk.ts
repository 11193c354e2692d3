import { Matrix, solve } from 'ml-matrix';

import { borderColour, type Picture } from '../field';

/* Where a picture prints something: what differs from its stock by more than the stock's own noise, pale tints too. */

export interface StockInk {
  readonly width: number;
  readonly height: number;
  /** How far each pixel is from the stock, the channel that is farthest, 0 to 255; rows from the top. */
  readonly values: Uint8Array;
  /** Above this it is printed. */
  readonly printedFrom: number;
}

/** What is added to the noise that was seen; and what counts as printed at least, of 255. */
const ABOVE_NOISE = 3;
const LEAST = 5;
/** Noise of so many standard deviations is still noise. */
const SIGMAS = 3;
/** Standard deviation of a normal distribution by its median deviation. */
const BY_MEDIAN = 1.4826;
/** So many pixels of the stock are looked at; fewer say nothing of its light. */
const SAMPLES = 6000;
const LEAST_SAMPLES = 200;
const ROUNDS = 4;
/** How wide the border is, in shares of the shorter side. */
const BAND = 0.04;

type Channels = readonly [number, number, number];

/**
 * The ink of a picture against its stock: paper where the picture is clear, else what lies outside its line, whose light may
 * fall off towards the edges as in a photograph.
 *
 * Method   a quadratic surface of each channel through the border, then through all outside that goes with it, round by
 *          round (median absolute deviation): a pale part or a shadow deviates, a vignette does not.
 */
export function stockInk(picture: Picture, outside?: (i: number) => boolean): StockInk {
  const { width, height, rgba } = picture;
  const lit = outside ? lightOf(picture, outside) : null;
  const flat = borderColour(picture);
  const values = new Uint8Array(width * height);
  for (let y = 0, i = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1, i += 1) {
      const p = 4 * i;
      const stock = lit ? lit.at(x, y) : flat;
      const far = Math.max(
        Math.abs(rgba[p]! - stock[0]),
        Math.abs(rgba[p + 1]! - stock[1]),
        Math.abs(rgba[p + 2]! - stock[2]),
      );
      values[i] = Math.min(255, (far * rgba[p + 3]!) / 255);
    }
  return { width, height, values, printedFrom: Math.max(LEAST, (lit?.noise ?? 0) + ABOVE_NOISE) };
}

/** Place in a picture as the surface has it. */
const basis = (x: number, y: number, { width, height }: Picture): number[] => {
  const [u, v] = [(2 * x) / width - 1, (2 * y) / height - 1];
  return [1, u, v, u * u, u * v, v * v];
};

interface Light {
  readonly at: (x: number, y: number) => Channels;
  /** How far pixels of the stock are from it, of 255. */
  readonly noise: number;
}

/** The light of the stock; null where too little of it is seen, or it is clear. */
function lightOf(picture: Picture, outside: (i: number) => boolean): Light | null {
  const { width, height, rgba } = picture;
  const stride = Math.max(1, Math.floor((width * height) / SAMPLES));
  const stock: number[] = [];
  for (let i = 0; i < width * height; i += stride) if (outside(i) && rgba[4 * i + 3]! === 255) stock.push(i);
  const band = BAND * Math.min(width, height);
  // The border first: what lies farther in may be a shadow of the art.
  let seen = stock.filter((i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    return Math.min(x, y, width - 1 - x, height - 1 - y) < band;
  });
  if (seen.length < LEAST_SAMPLES) return null;
  let [surface, noise]: [Matrix | null, number] = [null, 0];
  for (let round = 0; round < ROUNDS; round += 1) {
    const rows = new Matrix(seen.map((i) => basis(i % width, Math.floor(i / width), picture)));
    const colours = new Matrix(seen.map((i) => [rgba[4 * i]!, rgba[4 * i + 1]!, rgba[4 * i + 2]!]));
    surface = solve(rows.transpose().mmul(rows), rows.transpose().mmul(colours), true);
    const off = colours.sub(rows.mmul(surface)).to2DArray();
    const far = off.map((c) => Math.max(...c.map(Math.abs)));
    const median = far.toSorted((a, b) => a - b)[Math.floor(far.length / 2)]!;
    noise = SIGMAS * BY_MEDIAN * median;
    const c = surface.to2DArray();
    const limit = Math.max(LEAST, noise);
    const kept = stock.filter((i) => {
      const row = basis(i % width, Math.floor(i / width), picture);
      return [0, 1, 2].every(
        (k) => Math.abs(rgba[4 * i + k]! - row.reduce((sum, b, j) => sum + b * c[j]![k]!, 0)) <= limit,
      );
    });
    if (kept.length < LEAST_SAMPLES) break;
    seen = kept;
  }
  const c = surface!.to2DArray();
  const at = (x: number, y: number): Channels => {
    const [u, v] = [(2 * x) / width - 1, (2 * y) / height - 1];
    const channel = (k: number): number =>
      c[0]![k]! + c[1]![k]! * u + c[2]![k]! * v + c[3]![k]! * u * u + c[4]![k]! * u * v + c[5]![k]! * v * v;
    return [channel(0), channel(1), channel(2)];
  };
  return { at, noise };
}
