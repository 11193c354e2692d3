import { TWO_MARKS } from '@test/setups';

import { insetCost, layOutJob, type JobPiece } from '.';

const SHEET = {
  ...{ sheetWidthMm: 210, sheetHeightMm: 297, area: { x0: 5, y0: 5, x1: 205, y1: 292 } },
};
const FOUR = {
  ...{ ...TWO_MARKS, count: 4 as const, sizeMm: 8, clearMm: 4, printerEdgeMm: 5, sensorEdgeMm: 3 },
  ...{ insetLeftMm: 20, insetRightMm: 20, insetNearMm: 20, insetFarMm: 20 },
};
const LAYOUT = { gapMm: 2, centre: false, mayTurn: false };
const piece = (w: number, h: number): JobPiece => {
  const points = [
    { x: 0, y: 0 },
    { x: w, y: 0 },
    { x: w, y: h },
    { x: 0, y: h },
  ];
  return {
    ...{ id: 'A', picture: { widthMm: w, heightMm: h, at: { x: 0, y: 0 } }, ink: [points], bleedMm: 0 },
    ...{ lines: [{ points, areaMm2: w * h, hole: false }], kind: 'kiss-cut', copies: null },
  };
};

test.each([
  [50, 60],
  [31, 44],
  [72, 25],
])('pieces of %d × %d mm: what is said to be gained is gained, and a millimetre less gives less', (w, h) => {
  const cost = insetCost([piece(w, h)], LAYOUT, { ...SHEET, marks: FOUR });
  const count = (by: number): number => {
    const insets = { insetLeftMm: 20 - by, insetRightMm: 20 - by, insetNearMm: 20 - by, insetFarMm: 20 - by };
    const laid = layOutJob([piece(w, h)], LAYOUT, { ...SHEET, marks: { ...FOUR, ...insets } });
    return laid.ok ? laid.value.sheets[0]!.length : 0;
  };
  if (!cost) {
    // Nothing is gained even as close as the printer lets them.
    expect(count(11)).toBeLessThanOrEqual(count(0));
    return;
  }
  expect(count(0)).toBe(cost.pieces);
  expect(count(cost.byMm)).toBe(cost.then);
  expect(cost.then).toBeGreaterThan(cost.pieces);
  expect(count(cost.byMm - 1)).toBeLessThan(cost.then);
  // A mark of 8 mm and its line of 0.8 end at the printer's 5 mm when the middle is at 9.4.
  expect(cost).toMatchObject({ fromMm: 20, leastMm: expect.closeTo(9.4, 6), because: 'printer' });
  expect(cost.toMm).toBeGreaterThanOrEqual(9.4);
});

test('at least one of these sizes gains something', () => {
  const costs = [
    [50, 60],
    [31, 44],
    [72, 25],
    [40, 40],
    [90, 50],
  ].map(([w, h]) => insetCost([piece(w!, h!)], LAYOUT, { ...SHEET, marks: FOUR }));
  expect(costs.filter(Boolean).length).toBeGreaterThan(0);
});

test.each([
  ['no marks', null],
  ['marks as close as the sensor lets them', { ...FOUR, sensorEdgeMm: 16 }],
])('%s: nothing can be gained', (_, marks) => {
  expect(insetCost([piece(50, 60)], LAYOUT, { ...SHEET, marks })).toBeNull();
});
