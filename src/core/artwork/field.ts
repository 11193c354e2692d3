/* What in a picture is artwork: one figure a pixel, 0 where it is surely background, 255 where it is surely not. */

/** A decoded picture: rows from the top, four bytes a pixel (red, green, blue, opacity), sRGB. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8Array | Uint8ClampedArray;
}

/** What tells the background. */
export const BACKGROUNDS = ['alpha', 'brightness', 'colour'] as const;
export type Background = (typeof BACKGROUNDS)[number];

/** The field of a picture, and between which figures its channels run at an edge. */
export interface Field {
  readonly width: number;
  readonly height: number;
  readonly values: Uint8Array;
  readonly background: Background;
}

/** Below this opacity a pixel is no ink; common practice, no source. */
const OPAQUE = 128;
/** Transparent pixels from which transparency is meant. */
const TRANSPARENT_SHARE = 0.001;
/** A border whose colour wanders by more than this is no background by itself, of 255. */
const GREY_SPREAD = 12;

/** What tells the background best: transparency where there is any, brightness of grey pictures, else colour. */
export function guessBackground(picture: Picture): Background {
  const { rgba } = picture;
  let [clear, coloured, looked] = [0, 0, 0];
  const stride = 4 * Math.max(1, Math.floor(rgba.length / 4 / 100_000));
  for (let i = 0; i < rgba.length; i += stride) {
    looked += 1;
    if (rgba[i + 3]! < OPAQUE) clear += 1;
    else if (
      Math.max(rgba[i]!, rgba[i + 1]!, rgba[i + 2]!) - Math.min(rgba[i]!, rgba[i + 1]!, rgba[i + 2]!) >
      GREY_SPREAD
    )
      coloured += 1;
  }
  if (clear > TRANSPARENT_SHARE * looked) return 'alpha';
  return coloured > TRANSPARENT_SHARE * looked ? 'colour' : 'brightness';
}

/** A word of four times the same byte. */
export const fourAlike = (byte: number): number => Math.imul(byte, 0x01010101);

type Rgb = readonly [number, number, number];

/** The colour of the border: the median of each channel along it; white where the border is clear. */
export function borderColour({ width, height, rgba }: Picture): Rgb {
  const along: number[] = [];
  for (let x = 0; x < width; x += 1) along.push(x, (height - 1) * width + x);
  for (let y = 1; y < height - 1; y += 1) along.push(y * width, y * width + width - 1);
  const seen = along.filter((i) => rgba[4 * i + 3]! >= OPAQUE);
  if (seen.length === 0) return [255, 255, 255];
  const median = (channel: number): number => {
    const counts = new Uint32Array(256);
    for (const i of seen) counts[rgba[4 * i + channel]!]! += 1;
    let [at, left] = [0, seen.length / 2];
    while ((left -= counts[at]!) > 0) at += 1;
    return at;
  };
  return [median(0), median(1), median(2)];
}

/** Colours are told to a sixty-fourth of each channel in the table of distances. */
const BITS = 6;
const SHIFT = 8 - BITS;
const SIDE = 1 << BITS;
/** Distance in OKLab that counts as certainly another colour; black and white are 1 apart. */
const FAR_APART = 0.35;

/**
 * The field of a picture.
 *
 * Method   opacity; distance of the brightness (Rec. 709 luma) from the border’s; or distance in a perceptual colour space
 *          (OKLab, Ottosson 2020; from memory) from the border’s colour, by a table of 64³ colours. A clear pixel is background.
 */
export function fieldOf(picture: Picture, background: Background): Field {
  const { width, height } = picture;
  const pixels = wordsOf(picture);
  const count = width * height;
  // Whole fours of figures are written at once.
  const four = new Int32Array(Math.ceil(count / 4));
  const values = new Uint8Array(four.buffer, 0, count);
  const told = teller(picture, background);
  // Artwork is mostly flat: a pixel like the one before it is not worked out again.
  let last = ~pixels[0]!;
  let value = 0;
  let alike = 0;
  for (let i = 0; i < count;) {
    if (
      (i & 3) === 0 &&
      pixels[i] === last &&
      pixels[i + 1] === last &&
      pixels[i + 2] === last &&
      pixels[i + 3] === last
    ) {
      four[i >> 2] = alike;
      i += 4;
      continue;
    }
    const word = pixels[i]!;
    if (word !== last) {
      last = word;
      value = told(word & 255, (word >> 8) & 255, (word >> 16) & 255, word >>> 24) | 0;
      alike = fourAlike(value);
    }
    values[i] = value;
    i += 1;
  }
  return { width, height, values, background };
}

/** The pixels as whole numbers, red in the lowest byte, opacity in the highest. */
function wordsOf({ rgba }: Picture): Int32Array {
  const aligned = rgba.byteOffset % 4 === 0 ? rgba : rgba.slice();
  return new Int32Array(aligned.buffer, aligned.byteOffset, rgba.length / 4);
}

function teller(
  picture: Picture,
  background: Background,
): (r: number, g: number, b: number, opacity: number) => number {
  if (background === 'alpha') return (_r, _g, _b, opacity) => opacity;
  const border = borderColour(picture);
  if (background === 'brightness') {
    const from = luma(...border);
    const most = Math.max(from, 255 - from);
    return (r, g, b, opacity) => Math.min(255, (opacity * Math.abs(luma(r, g, b) - from)) / most);
  }
  const distance = distances(border);
  return (r, g, b, opacity) => (distance(r >> SHIFT, g >> SHIFT, b >> SHIFT) * opacity) / 255;
}

export const luma = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** How far a colour, told to so many bits a channel, lies from another: worked out once it is met. */
function distances(from: Rgb): (r: number, g: number, b: number) => number {
  const linear = Float64Array.from({ length: SIDE }, (_, i) => toLinear((i * 255) / (SIDE - 1)));
  const [l0, a0, b0] = okLab(toLinear(from[0]), toLinear(from[1]), toLinear(from[2]));
  // One more than the distance; 0 is not known yet.
  const known = new Uint16Array(SIDE ** 3);
  return (r, g, b) => {
    const at = (r << (2 * BITS)) | (g << BITS) | b;
    if (known[at] === 0) {
      const [l, a, c] = okLab(linear[r]!, linear[g]!, linear[b]!);
      known[at] = 1 + Math.min(255, (255 * Math.hypot(l - l0, a - a0, c - b0)) / FAR_APART);
    }
    return known[at]! - 1;
  };
}

/** sRGB’s curve (IEC 61966-2-1). */
function toLinear(byte: number): number {
  const v = byte / 255;
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
}

function okLab(r: number, g: number, b: number): Rgb {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** Nothing stands out from the background: there is no second kind of pixel. */
const LEAST_BETWEEN = 16;

/**
 * The figure that parts background from artwork, 0 to 255; null where there is only one kind of pixel.
 *
 * Method   Otsu 1979: the threshold of the largest variance between the two kinds.
 */
export function otsuThreshold({ values }: Pick<Field, 'values'>): number | null {
  const counts = new Uint32Array(256);
  // Every so many pixels of a large picture: the kinds are told as well, and a prime step meets no pattern.
  const step = values.length > 4_000_000 ? 29 : values.length > 1_000_000 ? 7 : 1;
  let looked = 0;
  for (let i = 0; i < values.length; i += step, looked += 1) counts[values[i]!]! += 1;
  let all = 0;
  counts.forEach((n, v) => (all += n * v));
  let [best, at, below, sum] = [-1, 0, 0, 0];
  let means: readonly [number, number] = [0, 0];
  for (let t = 0; t < 255; t += 1) {
    below += counts[t]!;
    sum += t * counts[t]!;
    const above = looked - below;
    if (below === 0 || above === 0) continue;
    const [low, high] = [sum / below, (all - sum) / above];
    const between = below * above * (high - low) ** 2;
    if (between > best) [best, at, means] = [between, t, [low, high]];
  }
  if (best <= 0 || means[1] - means[0] < LEAST_BETWEEN) return null;
  // Between two kinds of pixels that are each of one figure any threshold does: the middle of them.
  return Math.max(at + 0.5, Math.min(254.5, (means[0] + means[1]) / 2));
}
