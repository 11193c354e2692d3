import fc from 'fast-check';

import { applyAffine } from '../geometry';

import { byRule, type JobGeometry, type JobPiece } from './job';
import { overlapsOn } from './overlaps';
import { layOutJob } from './pair';

/* Pieces moved onto each other are found by their true shapes; what a rule lays out never lies on another. */

const square = (id: string, mm: number, bleedMm = 0): JobPiece => {
  const points = [
    { x: 0, y: 0 },
    { x: mm, y: 0 },
    { x: mm, y: mm },
    { x: 0, y: mm },
  ];
  return {
    ...{ id, bleedMm, kind: 'cut-through', copies: 4, ink: [points] },
    picture: { widthMm: mm, heightMm: mm, at: { x: 0, y: 0 } },
    lines: [{ points, areaMm2: mm * mm, hole: false }],
  };
};
const disc = (id: string, r: number): JobPiece => {
  const points = Array.from({ length: 120 }, (_, i) => ({
    x: r + r * Math.cos((Math.PI * i) / 60),
    y: r + r * Math.sin((Math.PI * i) / 60),
  }));
  return { ...square(id, 2 * r), ink: [points], lines: [{ points, areaMm2: Math.PI * r * r, hole: false }] };
};
const SHEET = {
  sheetWidthMm: 210,
  sheetHeightMm: 297,
  area: { x0: 5, y0: 5, x1: 205, y1: 292 },
  marks: null,
};
const LAYOUT = byRule({ gapMm: 3, centre: false, mayTurn: false });
const laidOut = (pieces: readonly JobPiece[], nudged: JobGeometry['layout']['nudged'] = []): JobGeometry => {
  const laid = layOutJob(pieces, { ...LAYOUT, nudged }, SHEET);
  if (!laid.ok) throw new Error(JSON.stringify(laid.refusal));
  return laid.value;
};
/** By how much the second piece has to go to lie exactly `dx` beside the first, and on its height. */
const beside = (pieces: readonly JobPiece[], dx: number, dy = 0) => {
  const [a, b] = laidOut(pieces).sheets[0]!.map((p) => applyAffine(p.map, { x: 0, y: 0 }));
  return [{ sheet: 0, index: 1, dxMm: a!.x + dx - b!.x, dyMm: a!.y + dy - b!.y }];
};

test.each([
  ['apart', 31, 0],
  ['edge to edge', 30, 0],
  ['over a hair', 29.999, 0],
  ['over a millimetre', 29, 1],
  ['on it', 2, 1],
])('squares of 30 mm %s', (_, dx, found) => {
  const pieces = [square('A', 30)];
  expect(overlapsOn(laidOut(pieces, beside(pieces, dx)), 0)).toHaveLength(found);
});

test('corners of round pieces’ rectangles may meet: their shapes do not', () => {
  const pieces = [disc('A', 20)];
  const near = laidOut(pieces, beside(pieces, 33, 33));
  expect(near.sheets[0]![0]!.box.x1).toBeGreaterThan(near.sheets[0]![1]!.box.x0);
  expect(overlapsOn(near, 0)).toEqual([]);
  expect(overlapsOn(laidOut(pieces, beside(pieces, 25, 25)), 0)).toHaveLength(1);
});

test('bleed on the neighbour’s bleed spoils nothing, on the neighbour it does', () => {
  const pieces = [square('A', 30, 2)];
  expect(overlapsOn(laidOut(pieces, beside(pieces, 32.5)), 0)).toEqual([]);
  expect(overlapsOn(laidOut(pieces, beside(pieces, 31)), 0)).toMatchObject([
    { code: 'pieces-overlap', severity: 'stop' },
  ]);
});

test('property: what is laid out by rule never lies on another', () => {
  const piece = fc.record({
    mm: fc.double({ min: 8, max: 60, noNaN: true }),
    round: fc.boolean(),
    bleed: fc.double({ min: 0, max: 3, noNaN: true }),
  });
  fc.assert(
    fc.property(fc.array(piece, { minLength: 1, maxLength: 4 }), (wanted) => {
      const pieces = wanted.map(({ mm, round, bleed }, i) => ({
        ...(round ? disc(`P${i}`, mm / 2) : square(`P${i}`, mm)),
        bleedMm: bleed,
      }));
      const laid = laidOut(pieces);
      expect(laid.sheets.flatMap((_, i) => overlapsOn(laid, i))).toEqual([]);
    }),
    { numRuns: 40 },
  );
});
