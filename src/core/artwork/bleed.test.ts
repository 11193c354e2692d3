import fc from 'fast-check';

import { withBleed } from '.';

/** A picture of one colour on a clear ground: ink where `is` says. */
function picture(width: number, height: number, is: (x: number, y: number) => readonly number[] | null) {
  const rgba = new Uint8ClampedArray(4 * width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const colour = is(x, y);
      if (colour) rgba.set([...colour, 255], 4 * (y * width + x));
    }
  return { width, height, rgba };
}

const square = (x0: number, y0: number, x1: number, y1: number) => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];
const spec = { background: 'alpha' as const, threshold: 0.5, mmPerPx: 0.1 };

test('colour grows to the bleed and no further, and every new pixel has the colour of the nearest ink', () => {
  const ink = (x: number, y: number): readonly number[] | null =>
    x >= 10 && x < 30 && y >= 10 && y < 20 ? [x * 8, y * 12, 40] : null;
  const art = picture(40, 30, ink);
  const area = [square(0.5, 0.5, 3.5, 2.5)];
  const bled = withBleed(art, { ...spec, area });
  expect([bled.width, bled.height, bled.at]).toEqual([40, 30, { x: 0, y: 0 }]);
  for (let y = 0; y < 30; y += 1)
    for (let x = 0; x < 40; x += 1) {
      const at = 4 * (y * 40 + x);
      const inArea = x >= 5 && x < 35 && y >= 5 && y < 25;
      expect(bled.rgba[at + 3]).toBe(inArea ? 255 : 0);
      if (!inArea) continue;
      // Brute force: the nearest pixel whose neighbours are all ink.
      let best = { d: Infinity, colours: new Set<string>() };
      for (let v = 11; v < 19; v += 1)
        for (let u = 11; u < 29; u += 1) {
          const d = (u - x) ** 2 + (v - y) ** 2;
          if (d < best.d) best = { d, colours: new Set() };
          if (d === best.d) best.colours.add(String(ink(u, v)));
        }
      expect(best.colours).toContain(String([...bled.rgba.slice(at, at + 3)]));
    }
});

test('an area beyond the picture makes it larger, and says where it lies now', () => {
  const art = picture(20, 10, () => [200, 30, 60]);
  const bled = withBleed(art, { ...spec, area: [square(-0.5, -0.3, 2.5, 1.2)] });
  expect([bled.width, bled.height]).toEqual([20 + 5 + 5, 10 + 3 + 2]);
  expect(bled.at.x).toBeCloseTo(-0.5, 9);
  expect(bled.at.y).toBeCloseTo(-0.3, 9);
  expect([...bled.rgba].filter((_, i) => i % 4 === 3).every((a) => a === 255)).toBe(true);
  expect([...bled.rgba.slice(0, 3)]).toEqual([200, 30, 60]);
});

test('property: ink stays what it was, and holes are covered as far as the area says', () => {
  const cell = fc.integer({ min: 0, max: 1 });
  fc.assert(
    fc.property(fc.array(cell, { minLength: 144, maxLength: 144 }), (cells) => {
      const at = (x: number, y: number) =>
        cells[12 * Math.floor(y / 3) + Math.floor(x / 3)] ? [9, 99, 199] : null;
      const art = picture(36, 36, at);
      const bled = withBleed(art, { ...spec, area: [square(0, 0, 3.6, 3.6)] });
      for (let i = 0; i < 36 * 36; i += 1) {
        const [x, y] = [i % 36, Math.floor(i / 36)];
        const any = cells.some((c) => c === 1);
        if (any) expect([...bled.rgba.slice(4 * i, 4 * i + 4)]).toEqual([9, 99, 199, 255]);
        else if (!at(x, y)) expect(bled.rgba[4 * i + 3]).toBe(0);
      }
    }),
    { numRuns: 30 },
  );
});
