import fc from 'fast-check';

import { flatten } from '../drawing';
import { writeDrawing } from '../drawing/file';
import { applyAffine, type Affine, type Point } from '../geometry';
import { readByEzdxf } from '@test/readers/outside';

import { copyAtMm, impose, outlineDrawing, placedItem, sectionDrawing, sectionsOf, type RollItems } from '.';

const ROLL: RollItems = {
  itemWidthMm: 90,
  itemHeightMm: 60,
  copies: 46,
  gapMm: 3.5,
  printableWidthMm: 400,
  mayTurn: false,
  lanes: 1,
  laneGapMm: 0,
  centreLastRow: false,
};
const ROOM = { markRoomMm: 20, betweenMm: 10 };

const laid = (items: Partial<RollItems> = {}) => {
  const imposed = impose({ ...ROLL, ...items });
  if (!imposed.ok) throw new Error(imposed.refusal.code);
  return imposed.value;
};

/** Corners of each outline, in the order they were drawn. */
const outlines = (...[imposition, section, map]: [ReturnType<typeof laid>, number, Affine | null]) =>
  sectionDrawing(
    imposition,
    sectionsOf(imposition, 5, ROOM)[section - 1]!,
    ROOM,
    outlineDrawing(imposition.itemWidthMm, imposition.itemHeightMm, 'rectangle'),
    400,
    map,
  ).paths.map((path) => pairs(flatten(path, 0.01)));

const pairs = (xy: readonly number[]): Point[] =>
  Array.from({ length: xy.length / 2 }, (_, i) => ({ x: xy[2 * i]!, y: xy[2 * i + 1]! }));
const lower = (corners: readonly Point[]): Point => ({
  x: Math.min(...corners.map((p) => p.x)),
  y: Math.min(...corners.map((p) => p.y)),
});

test('the sections of a run hold every copy once, a gap apart, within the printable width', () => {
  const imposition = laid();
  const all = sectionsOf(imposition, 5, ROOM).flatMap((s) => outlines(imposition, s.index, null));
  expect(all).toHaveLength(46);
  for (const [i, corners] of outlines(imposition, 2, null).entries()) {
    const { x, y } = lower(corners);
    expect(x).toBeCloseTo((i % 4) * (90 + 3.5), 9);
    expect(y).toBeCloseTo(20 + Math.floor(i / 4) * (60 + 3.5), 9);
    expect(Math.max(...corners.map((p) => p.x))).toBeLessThanOrEqual(400);
  }
});

test('a corrected section, cut on a rig that carries it off, lands as it was drawn', () => {
  const small = fc.double({ min: -2e-3, max: 2e-3, noNaN: true });
  const shift = fc.double({ min: -3, max: 3, noNaN: true });
  const imposition = laid();
  const drawn = outlines(imposition, 3, null);
  fc.assert(
    fc.property(small, small, small, small, shift, shift, (a, b, c, d, tx, ty) => {
      const rig: Affine = { a11: 1 + a, a12: b, a21: c, a22: 1 + d, tx, ty };
      outlines(imposition, 3, rig).forEach((corners, copy) =>
        corners.forEach((corner, i) => {
          const landed = applyAffine(rig, corner);
          expect(landed.x).toBeCloseTo(drawn[copy]![i]!.x, 9);
          expect(landed.y).toBeCloseTo(drawn[copy]![i]!.y, 9);
        }),
      );
    }),
    { numRuns: 25 },
  );
});

test('a last row that is not full stands in the middle, in the file as in the plan', () => {
  const imposition = laid({ centreLastRow: true });
  // 46 = 11 rows of 4 and 2 over: one pitch of two to each side.
  const last = outlines(imposition, 3, null).slice(-2).map(lower);
  expect(last.map((p) => p.x)).toEqual([11, 11].map((row, i) => copyAtMm(imposition, row, i)));
  expect(last[0]!.x).toBeCloseTo(93.5, 9);
});

test('an item’s own lines lie within its place when it is turned by 90°, wherever its file had them', () => {
  const item = outlineDrawing(90, 60, 'round');
  const there = { x0: 0, y0: 0, x1: 90, y1: 60 };
  for (const turned of [false, true]) {
    const points = placedItem(item, there, turned).paths.flatMap((p) => pairs(flatten(p, 0.001)));
    expect(lower(points).x).toBeCloseTo(0, 2);
    expect(lower(points).y).toBeCloseTo(0, 2);
    expect(Math.max(...points.map((p) => p.x))).toBeCloseTo(turned ? 60 : 90, 2);
    expect(Math.max(...points.map((p) => p.y))).toBeCloseTo(turned ? 90 : 60, 2);
  }
});

test('read by another program the section’s DXF has the same corners', () => {
  const imposition = laid();
  const section = sectionsOf(imposition, 5, ROOM)[2]!;
  const item = outlineDrawing(90, 60, 'rectangle');
  const drawing = sectionDrawing(imposition, section, ROOM, item, 400, null);
  // It reads a rectangle as its four edges.
  const read = readByEzdxf(writeDrawing({ ...drawing, title: 'Run R001, section 3' }, 'dxf'));
  expect(read).toHaveLength(4 * section.copies);
  drawing.paths.forEach((path, copy) => {
    const own = lower(read.slice(4 * copy, 4 * copy + 4).flat());
    const wanted = lower(pairs(flatten(path, 0.01)));
    expect(own.x).toBeCloseTo(wanted.x, 6);
    expect(own.y).toBeCloseTo(wanted.y, 6);
  });
});
