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

/** Never more than this is taken for noise, of 255: a stock that varies more is no plain stock. */
const MOST_NOISE = 20;
/** What is added to the noise that was seen; and what counts as printed at least. */
const ABOVE_NOISE = 3;
const LEAST = 5;
/** This share of the border may be noisier: specks, or art that touches it. */
const QUANTILE = 0.98;
/** How wide the border is in which noise is looked for, pixels. */
const BORDER_PX = 2;

/** The ink of a picture against its stock: paper where the picture is clear, else the colour of its border. */
export function stockInk(picture: Picture): StockInk {
  const { width, height, rgba } = picture;
  const [red, green, blue] = borderColour(picture);
  const values = new Uint8Array(width * height);
  for (let i = 0, p = 0; i < values.length; i += 1, p += 4) {
    const far = Math.max(
      Math.abs(rgba[p]! - red),
      Math.abs(rgba[p + 1]! - green),
      Math.abs(rgba[p + 2]! - blue),
    );
    values[i] = (far * rgba[p + 3]!) / 255;
  }
  return {
    width,
    height,
    values,
    printedFrom: Math.max(LEAST, noiseOf(values, width, height) + ABOVE_NOISE),
  };
}

function noiseOf(values: Uint8Array, width: number, height: number): number {
  const counts = new Uint32Array(256);
  let seen = 0;
  const count = (x: number, y: number): void => {
    counts[values[y * width + x]!]! += 1;
    seen += 1;
  };
  const band = Math.min(BORDER_PX, Math.floor(Math.min(width, height) / 2));
  for (let k = 0; k < band; k += 1) {
    for (let x = 0; x < width; x += 1) {
      count(x, k);
      count(x, height - 1 - k);
    }
    for (let y = band; y < height - band; y += 1) {
      count(k, y);
      count(width - 1 - k, y);
    }
  }
  let [left, noise] = [seen * (1 - QUANTILE), 255];
  while (noise > 0 && (left -= counts[noise]!) > 0) noise -= 1;
  return Math.min(MOST_NOISE, noise);
}
