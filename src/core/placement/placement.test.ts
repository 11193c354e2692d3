import fc from 'fast-check';

import { applyAffine, type Point } from '../geometry';

import { placementFrom } from '.';

const MARKS: Point[] = [
  { x: 20, y: 20 },
  { x: 190, y: 20 },
  { x: 20, y: 277 },
  { x: 190, y: 277 },
];
const at =
  (turn: number, x: number, y: number) =>
  (p: Point): Point => ({
    x: Math.cos(turn) * p.x - Math.sin(turn) * p.y + x,
    y: Math.sin(turn) * p.x + Math.cos(turn) * p.y + y,
  });
const placed = (marks: readonly Point[], driven: readonly Point[], more = {}) => {
  const found = placementFrom(marks, driven, more);
  if (!found.ok) throw new Error(found.refusal.code);
  return found.value;
};

test('however a print lies, two marks and more put every place of the file where it is', () => {
  const mm = fc.double({ min: -40, max: 40, noNaN: true });
  fc.assert(
    fc.property(
      fc.double({ min: -3, max: 3, noNaN: true }),
      mm,
      mm,
      fc.constantFrom(2, 3, 4),
      (turn, x, y, count) => {
        const marks = MARKS.slice(0, count);
        const found = placed(marks, marks.map(at(turn, x, y)));
        expect(found.model).toBe(count === 2 ? 'rigid' : 'affine');
        const p = { x: 111, y: 55 };
        const [got, want] = [applyAffine(found.map, p), at(turn, x, y)(p)];
        expect(Math.hypot(got.x - want.x, got.y - want.y)).toBeLessThan(1e-6);
        expect(Math.max(...found.residualsMm)).toBeLessThan(1e-6);
        expect(Math.abs(Math.sin(found.moved.turnRad - turn))).toBeLessThan(1e-7);
        expect(found.warnings).toEqual([]);
      },
    ),
  );
});

test('one mark tells the shift alone', () => {
  expect(placed([MARKS[0]!], [{ x: 23, y: 18.5 }])).toMatchObject({
    model: 'shift',
    map: { a11: 1, a12: 0, tx: 3, ty: -1.5 },
    moved: { xMm: 3, yMm: -1.5, turnRad: 0 },
    residualsMm: [0],
  });
});

test('two marks whose distance is not that of the file: half the misfit each, and a warning beyond 4 u √2', () => {
  const two = MARKS.slice(0, 2);
  const by = (mm: number) => placed(two, [two[0]!, { x: 190 + mm, y: 20 }], { uMm: 0.1 });
  expect(by(0.5).warnings).toEqual([]);
  expect(by(0.6)).toMatchObject({ warnings: [{ code: 'distance-differs' }] });
  by(0.6).residualsMm.forEach((r) => expect(r).toBeCloseTo(0.3, 9));
});

test('art that leaves what can be cut, a mark that does not fit, marks in a line', () => {
  const art = { x0: 30, y0: 30, x1: 180, y1: 260 };
  const cuttable = { x0: 0, y0: 0, x1: 200, y1: 297 };
  const driven = MARKS.map(at(0, 25, 0));
  expect(placed(MARKS, driven, { art, cuttable }).warnings).toMatchObject([{ code: 'art-outside' }]);
  expect(placed(MARKS, driven, { art, cuttable }).warnings[0]!.message).toContain('5.00 mm');
  expect(placed(MARKS, MARKS, { art, cuttable }).warnings).toEqual([]);
  const slipped = MARKS.map((m, i) => (i === 2 ? { x: m.x + 3, y: m.y } : m));
  expect(placed(MARKS, slipped).warnings).toMatchObject([{ code: 'does-not-fit' }]);
  const line = [0, 100, 200].map((y) => ({ x: 20, y }));
  expect(placed(line, line)).toMatchObject({ model: 'rigid', warnings: [{ code: 'marks-in-line' }] });
});

test('marks at one place, and a sheet turned over, are refused', () => {
  const same = placementFrom([MARKS[0]!, MARKS[0]!], MARKS.slice(0, 2));
  expect(same.ok ? 'placed' : same.refusal.code).toBe('marks-coincide');
  const over = placementFrom(
    MARKS,
    MARKS.map((m) => ({ x: 210 - m.x, y: m.y })),
  );
  expect(over.ok ? 'placed' : over.refusal.code).toBe('folded');
});
