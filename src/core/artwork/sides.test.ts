import fc from 'fast-check';

import { applyAffine, compose } from '../geometry';

import { READS_LIKE, TURNED_OVER, twoSides } from './sides';

const TALL = { widthMm: 210, heightMm: 297 };
const WIDE = { widthMm: 297, heightMm: 210 };

test.each([
  [TALL, 'long-edge', 'book', 'same-edge', 0],
  [TALL, 'long-edge', 'calendar', 'same-edge', 180],
  [TALL, 'short-edge', 'book', 'other-edge', 180],
  [TALL, 'short-edge', 'calendar', 'other-edge', 0],
  [WIDE, 'long-edge', 'book', 'other-edge', 180],
  [WIDE, 'long-edge', 'calendar', 'other-edge', 0],
  [WIDE, 'short-edge', 'book', 'same-edge', 0],
  [WIDE, 'short-edge', 'calendar', 'same-edge', 180],
] as const)('%j turned about its %s, read like a %s', (sheet, turnedOver, readsLike, leads, artTurnDeg) => {
  expect(twoSides(sheet, turnedOver, readsLike)).toMatchObject({ leads, artTurnDeg });
});

// Held in space: the front’s normal is +z. Turning over is a rotation by 180°, so the back’s frame, seen from its own side,
// is right-handed again; the drawing of it is the front’s, mirrored, which no artwork ever is.
test('turning over twice is where it was; the back’s frame is the front’s seen through the sheet', () => {
  fc.assert(
    fc.property(
      fc.record({
        widthMm: fc.double({ min: 10, max: 2000, noNaN: true }),
        heightMm: fc.double({ min: 10, max: 2000, noNaN: true }),
      }),
      fc.constantFrom(...TURNED_OVER),
      fc.constantFrom(...READS_LIKE),
      fc.record({
        x: fc.double({ min: 0, max: 1, noNaN: true }),
        y: fc.double({ min: 0, max: 1, noNaN: true }),
      }),
      (sheet, turnedOver, readsLike, at) => {
        const { map, leads, artTurnDeg } = twoSides(sheet, turnedOver, readsLike);
        const p = { x: at.x * sheet.widthMm, y: at.y * sheet.heightMm };
        const back = applyAffine(map, p);
        expect(
          back.x >= -1e-9 &&
            back.x <= sheet.widthMm + 1e-9 &&
            back.y >= -1e-9 &&
            back.y <= sheet.heightMm + 1e-9,
        ).toBe(true);
        const twice = applyAffine(compose(map, map), p);
        expect(Math.hypot(twice.x - p.x, twice.y - p.y)).toBeLessThan(1e-6);
        expect(map.a11 * map.a22 - map.a12 * map.a21).toBe(-1);
        // The edge that led is still at y = 0, or at the far end.
        expect(applyAffine(map, { x: p.x, y: 0 }).y).toBeCloseTo(
          leads === 'same-edge' ? 0 : sheet.heightMm,
          9,
        );
        // The top of the back’s art, in its frame, is the front’s far edge for a book and its near edge for a calendar.
        const top = artTurnDeg === 0 ? sheet.heightMm : 0;
        const edge = applyAffine(map, { x: p.x, y: readsLike === 'book' ? sheet.heightMm : 0 }).y;
        expect(edge).toBeCloseTo(top, 9);
      },
    ),
  );
});
