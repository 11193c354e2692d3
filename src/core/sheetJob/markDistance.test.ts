import fc from 'fast-check';

import { applyAffine, IDENTITY, invertAffine } from '../geometry';
import { TWO_MARKS } from '@test/setups';

import { forScaledPrint, markDistance, printScaleOf } from '.';

const SHEET = { sheetWidthMm: 210, sheetHeightMm: 297 };
const FOUR = { ...TWO_MARKS, count: 4 as const };

test('the rule is laid along the two marks that lie farthest apart', () => {
  // Insets of 14 mm on A4: 182 by 269 mm, and their diagonal.
  expect(markDistance(FOUR, SHEET)!.mm).toBeCloseTo(Math.hypot(182, 269), 9);
  expect(markDistance(TWO_MARKS, SHEET)!.mm).toBeGreaterThanOrEqual(182);
  expect(markDistance({ ...TWO_MARKS, count: 1 }, SHEET)).toBeNull();
  expect(markDistance(null, SHEET)).toBeNull();
});

test.each([
  [300, 300.29, null],
  [300, 299.71, null],
  [300, 300.6, 1.002],
  [300, 299.1, 0.997],
])('%d mm measured as %d mm is a scale of %p', (nominal, measured, scale) => {
  const told = printScaleOf(nominal, measured);
  if (scale === null) expect(told).toBeNull();
  else expect(told).toBeCloseTo(scale, 9);
});

test('property: cut with it, a line lands on the scaled print, whatever the rig adds', () => {
  const small = fc.double({ min: -0.004, max: 0.004, noNaN: true });
  const place = fc.double({ min: 0, max: 300, noNaN: true });
  fc.assert(
    fc.property(small, small, small, small, small, place, place, (a, b, c, d, s, x, y) => {
      const rig = { a11: 1 + a, a12: b, a21: c, a22: 1 + d, tx: 100 * a, ty: 100 * b };
      const leading = { x: 14, y: 14 };
      const scale = 1 + s;
      const undone = invertAffine(forScaledPrint(rig, scale, leading));
      const landed = applyAffine(rig, applyAffine(undone, { x, y }));
      expect(landed.x).toBeCloseTo(leading.x + scale * (x - leading.x), 6);
      expect(landed.y).toBeCloseTo(leading.y + scale * (y - leading.y), 6);
    }),
  );
  expect(forScaledPrint(IDENTITY, 1, { x: 3, y: 4 })).toEqual(IDENTITY);
});
