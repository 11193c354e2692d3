import fc from 'fast-check';

import { seededRandom } from '../../random/random';
import type { Picture } from '../field';
import type { ClosedPath } from '../offset';

import { lookAtPiece } from './pieceLook';

/* A piece looked at by its own pixels: 60 × 40 mm at 254 pixels an inch, a dark body and what lies beside it. */

const MM_PER_PX = 0.1;
const [WIDTH, HEIGHT] = [600, 400];
type Rgb = readonly [number, number, number];
const WHITE: Rgb = [255, 255, 255];
const INK: Rgb = [40, 50, 120];

/** A picture by its colour at each place, mm, y up; noisy by so much each way. */
function picture(colour: (x: number, y: number) => Rgb | null, stock: Rgb = WHITE, noise = 0): Picture {
  const random = seededRandom(7);
  const rgba = new Uint8ClampedArray(4 * WIDTH * HEIGHT);
  for (let row = 0; row < HEIGHT; row += 1)
    for (let column = 0; column < WIDTH; column += 1) {
      const at = [(column + 0.5) * MM_PER_PX, (HEIGHT - row - 0.5) * MM_PER_PX] as const;
      const of = colour(...at) ?? stock;
      const i = 4 * (row * WIDTH + column);
      for (let c = 0; c < 3; c += 1) rgba[i + c] = of[c]! + Math.round((2 * random() - 1) * noise);
      rgba[i + 3] = 255;
    }
  return { width: WIDTH, height: HEIGHT, rgba };
}
const within = (x: number, y: number, cx: number, cy: number, r: number): boolean =>
  Math.hypot(x - cx, y - cy) < r;
const disc = (cx: number, cy: number, r: number, hole = false): ClosedPath => {
  const points = Array.from({ length: 180 }, (_, i) => {
    const a = ((hole ? -1 : 1) * Math.PI * i) / 90;
    return { x: cx + r * Math.cos(a), y: cy + r * Math.sin(a) };
  });
  return { points, areaMm2: Math.PI * r * r, hole };
};
const BODY = (x: number, y: number): Rgb | null => (within(x, y, 22, 20, 12) ? INK : null);
const tint = ([r, g, b]: Rgb, by: number): Rgb => [r - by / 3, g - by / 2, b - by];
/** A body with a pale fin that the trace took for stock. */
const finned =
  (stock: Rgb, by: number) =>
  (x: number, y: number): Rgb | null =>
    BODY(x, y) ?? (within(x, y, 40, 20, 8) ? tint(stock, by) : null);
const codes = (art: Picture, lines: readonly ClosedPath[], neededMm: number | null = 0.3) =>
  lookAtPiece({ art, mmPerPx: MM_PER_PX, lines, neededMm }).map((f) => f.code);

test.each([
  ['a border all round', BODY, [disc(22, 20, 14)], []],
  ['cut at its edge, nothing grown past it', BODY, [disc(22, 20, 12)], ['bleed-too-small']],
  ['a border that is narrower than what the rig needs', BODY, [disc(22, 20, 12.22)], ['border-too-small']],
  ['a line that nothing is printed in', BODY, [disc(22, 20, 14), disc(50, 20, 5)], ['line-on-blank']],
] as const)('%s', (_, art, lines, found) => expect(codes(picture(art), lines)).toEqual(found));

test('its colour grown past the cut, as it is printed, hides what is needed', () => {
  const art = picture(BODY);
  const printed = { ...picture((x, y) => (within(x, y, 22, 20, 13) ? INK : null)), at: { x: 0, y: 0 } };
  const look = (neededMm: number) =>
    lookAtPiece({ art, printed, mmPerPx: MM_PER_PX, lines: [disc(22, 20, 12)], neededMm }).map((f) => f.code);
  expect(look(0.5)).toEqual([]);
  expect(look(1.5)).toEqual(['bleed-too-small']);
});

const STOCKS: readonly (readonly [string, Rgb])[] = [
  ['white', WHITE],
  ['kraft', [196, 160, 120]],
  ['silver', [190, 192, 196]],
];
test.each(
  STOCKS.flatMap(([name, stock]) => [12, 16, 20, 26, 34, 44, 60, 90].map((by) => [name, by, stock] as const)),
)('on %s a fin %i of 255 off the stock lies outside the line: told, with its share', (_, by, stock) => {
  const [found, ...more] = lookAtPiece({
    ...{ art: picture(finned(stock, by), stock), mmPerPx: MM_PER_PX },
    ...{ lines: [disc(22, 20, 14)], neededMm: 0.3 },
  });
  expect(more).toEqual([]);
  expect(found).toMatchObject({ code: 'outside-line', severity: 'stop' });
  // Of body and fin together, less what lies within the line and what the edge of the fin may hide.
  expect(found!.shareOfPicture).toBeGreaterThan(0.2);
  expect(found!.shareOfPicture).toBeLessThan(0.32);
  expect(found!.where!.x1).toBeCloseTo(48, 0);
});

test.each([
  ['noise of a scan', 0, 4, []],
  ['noise, and a pale fin in it', 24, 4, ['outside-line']],
] as const)('%s', (_, by, noise, found) => {
  const art = picture(by > 0 ? finned(WHITE, by) : BODY, WHITE, noise);
  expect(codes(art, [disc(22, 20, 14)])).toEqual(found);
});

test('a pale heart that the trace took for a hole is outside too; a soft shadow is told; dust is not', () => {
  const ring = (x: number, y: number): Rgb | null => (within(x, y, 22, 20, 6) ? tint(WHITE, 20) : BODY(x, y));
  expect(codes(picture(ring), [disc(22, 20, 14), disc(22, 20, 5, true)], null)).toEqual(['outside-line']);
  const shadow = (x: number, y: number): Rgb | null => {
    const far = Math.hypot(x - 24, y - 18) - 12;
    return BODY(x, y) ?? (far < 8 ? tint(WHITE, 60 * (1 - Math.max(0, far) / 8)) : null);
  };
  expect(codes(picture(shadow), [disc(22, 20, 13)], null)).toEqual(['outside-line']);
  const dust = (x: number, y: number): Rgb | null => BODY(x, y) ?? (within(x, y, 45, 30, 0.8) ? INK : null);
  expect(codes(picture(dust), [disc(22, 20, 14)])).toEqual([]);
});

test('property: with a border all round there is nothing to find, wherever and however large it is', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 3, max: 14, noNaN: true }),
      fc.double({ min: 16, max: 44, noNaN: true }),
      fc.double({ min: 0.6, max: 2, noNaN: true }),
      fc.constantFrom(...STOCKS.map(([, s]) => s)),
      (r, cx, border, stock) => {
        const art = picture((x, y) => (within(x, y, cx, 20, r) ? INK : null), stock, 2);
        expect(codes(art, [disc(cx, 20, r + border)])).toEqual([]);
      },
    ),
    { numRuns: 12 },
  );
});
