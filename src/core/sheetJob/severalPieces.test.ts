import fc from 'fast-check';

import { clearZone, markPlaces } from '../marks';
import { TWO_MARKS } from '@test/setups';
import { unionOf } from '../artwork';
import { applyAffine, type Rect } from '../geometry';
import { nestings } from '../layout/nest';
import { seededRandom } from '../random/random';

import {
  freeRooms,
  largestWidthMm,
  layOutJob,
  nestJobOf,
  shapesOverlap,
  shownOf,
  type JobLayout,
  type JobPiece,
} from '.';

const SHEET = {
  ...{ sheetWidthMm: 210, sheetHeightMm: 297, area: { x0: 8, y0: 8, x1: 202, y1: 289 } },
  marks: TWO_MARKS,
};
const LAYOUT: JobLayout = { gapMm: 3, centre: false, mayTurn: true };
const square = (w: number, h: number) => [
  { x: 0, y: 0 },
  { x: w, y: 0 },
  { x: w, y: h },
  { x: 0, y: h },
];
const piece = (id: string, w: number, h: number, copies: number | null): JobPiece => ({
  ...{ id, picture: { widthMm: w, heightMm: h, at: { x: 0, y: 0 } }, ink: [square(w, h)], bleedMm: 0 },
  ...{ lines: [{ points: square(w, h), areaMm2: w * h, hole: false }], kind: 'kiss-cut', copies },
});
const meets = (a: Rect, b: Rect, by: number): boolean =>
  a.x0 < b.x1 + by - 1e-6 && b.x0 < a.x1 + by - 1e-6 && a.y0 < b.y1 + by - 1e-6 && b.y0 < a.y1 + by - 1e-6;

test('property: of several pieces so many of each as were asked for, none over another; left out, there is none', () => {
  const side = fc.integer({ min: 12, max: 60 });
  const copies = fc.option(fc.integer({ min: 0, max: 12 }), { nil: null, freq: 4 });
  fc.assert(
    fc.property(fc.array(fc.tuple(side, side, copies), { minLength: 1, maxLength: 4 }), (asked) => {
      const pieces = asked.map(([w, h, many], i) => piece('ABCD'[i]!, w, h, many));
      const job = layOutJob(pieces, LAYOUT, SHEET);
      if (pieces.every((p) => p.copies === 0)) {
        expect(job).toMatchObject({ ok: false, refusal: { code: 'no-copies' } });
        return;
      }
      if (!job.ok) throw new Error(job.refusal.code);
      for (const p of pieces)
        if (p.copies !== null)
          expect(job.value.sheets.flat().filter((q) => q.piece === p.id)).toHaveLength(p.copies);
      for (const placed of job.value.sheets)
        placed.forEach((p, i) => {
          for (const q of placed.slice(i + 1)) expect(meets(p.box, q.box, 3)).toBe(false);
        });
    }),
    { numRuns: 15 },
  );
});

test('property: moved by hand a piece lies just so far away, the others where they lay, or it is refused for a reason', () => {
  const far = fc.integer({ min: -60, max: 60 });
  const plain = layOutJob([piece('A', 40, 30, 6)], LAYOUT, SHEET);
  if (!plain.ok) throw new Error('laid out');
  const [rule] = plain.value.sheets;
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 5 }), far, far, (index, dxMm, dyMm) => {
      const nudged = [{ sheet: 0, index, dxMm, dyMm }];
      const job = layOutJob([piece('A', 40, 30, 6)], { ...LAYOUT, nudged }, SHEET);
      const was = rule![index]!.box;
      const box = { x0: was.x0 + dxMm, x1: was.x1 + dxMm, y0: was.y0 + dyMm, y1: was.y1 + dyMm };
      const { area } = SHEET;
      const off =
        box.x0 < area.x0 - 1e-6 ||
        box.x1 > area.x1 + 1e-6 ||
        box.y0 < area.y0 - 1e-6 ||
        box.y1 > area.y1 + 1e-6;
      const zones = markPlaces(TWO_MARKS, SHEET).map((m) => clearZone(TWO_MARKS, m));
      const over = [...zones, plain.value.label].some((z) => meets(box, z, 0));
      expect(job.ok).toBe(!off && !over);
      if (!job.ok) return expect(job.refusal).toEqual({ code: 'nudged-off', sheet: 0, index });
      job.value.sheets[0]!.forEach((p, i) => {
        const by = i === index ? [dxMm, dyMm] : [0, 0];
        expect(p.box.x0).toBeCloseTo(rule![i]!.box.x0 + by[0]!, 9);
        expect(p.map.ty).toBeCloseTo(rule![i]!.map.ty + by[1]!, 9);
      });
    }),
  );
});

test('property: the largest that fits is laid out, and a little larger is not', () => {
  const share = fc.integer({ min: 20, max: 100 }).map((v) => v / 100);
  fc.assert(
    fc.property(
      share,
      share,
      fc.integer({ min: 0, max: 5 }),
      fc.boolean(),
      (width, height, border, marked) => {
        const sheet = marked ? SHEET : { ...SHEET, marks: null };
        const most = largestWidthMm(freeRooms(sheet), { width, height }, border)!;
        const fits = (picture: number): boolean =>
          layOutJob(
            [piece('A', picture * width + 2 * border, picture * height + 2 * border, 1)],
            LAYOUT,
            sheet,
          ).ok;
        expect(fits(most - 0.01)).toBe(true);
        expect(fits(most + 0.5)).toBe(false);
      },
    ),
    { numRuns: 15 },
  );
  expect(largestWidthMm(freeRooms(SHEET), { width: 1, height: 1 }, 200)).toBeNull();
});

test('nested, triangles interlock, none shows over another, and a nesting of another job is refused', () => {
  const corner = [
    { x: 0, y: 0 },
    { x: 60, y: 0 },
    { x: 0, y: 50 },
  ];
  const triangle: JobPiece = {
    ...piece('A', 60, 50, null),
    ...{ ink: [corner], lines: [{ points: corner, areaMm2: 1500, hole: false }] },
  };
  const plain = layOutJob([triangle], LAYOUT, SHEET);
  if (!plain.ok) throw new Error(plain.refusal.code);
  const job = nestJobOf([triangle], LAYOUT, SHEET, plain.value.label);
  const nested = nestings(job, seededRandom(1)).next().value;
  const laid = layOutJob([triangle], { ...LAYOUT, nested }, SHEET);
  if (!laid.ok) throw new Error(laid.refusal.code);
  expect(laid.value.sheets[0]!.length).toBeGreaterThan(plain.value.sheets[0]!.length);
  expect([shapesOverlap(plain.value), shapesOverlap(laid.value)]).toEqual([false, true]);
  // Their rectangles lie over each other; what is shown of them does not.
  const [placed] = laid.value.sheets;
  expect(placed!.some((p, i) => placed!.slice(i + 1).some((q) => meets(p.box, q.box, 0)))).toBe(true);
  const shown = placed!.flatMap((p) =>
    shownOf(triangle).map((line) => line.map((q) => applyAffine(p.map, q))),
  );
  const area = unionOf(shown, 'non-zero').reduce((sum, l) => sum + l.areaMm2, 0);
  const single = unionOf(shownOf(triangle), 'non-zero')[0]!.areaMm2;
  expect(area / (single * placed!.length)).toBeCloseTo(1, 6);
  for (const other of [
    { ...LAYOUT, gapMm: 8, nested },
    { ...LAYOUT, mayTurn: false, nested },
  ])
    expect(layOutJob([triangle], other, SHEET)).toMatchObject({ refusal: { code: 'nested-off' } });
  expect(layOutJob([{ ...triangle, copies: 3 }], { ...LAYOUT, nested }, SHEET)).toMatchObject({ ok: false });
});
