import fc from 'fast-check';

import type { Rect } from '../../geometry';

import { bestBlocks } from './blocks';
import { planSheet, type Placement, type SheetItem, type SheetJob } from './planSheet';

const A4: Rect = { x0: 0, y0: 0, x1: 210, y1: 297 };
const item = (
  id: string,
  widthMm: number,
  heightMm: number,
  copies: number | null,
  mayTurn = true,
): SheetItem => ({
  id,
  widthMm,
  heightMm,
  copies,
  mayTurn,
});
const job = (items: SheetItem[], change: Partial<SheetJob> = {}): SheetJob => ({
  ...{ usable: A4, zones: [], items, gapMm: 3, centre: false },
  ...change,
});

const plainGrid = (w: number, h: number, pw: number, ph: number, gap: number): number =>
  Math.max(0, Math.floor((w + gap) / (pw + gap) + 1e-6)) *
  Math.max(0, Math.floor((h + gap) / (ph + gap) + 1e-6));

/** All two-block guillotine patterns, counted without anything of ours. */
function twoBlocks(w: number, h: number, pw: number, ph: number, gap: number): number {
  let most = Math.max(plainGrid(w, h, pw, ph, gap), plainGrid(w, h, ph, pw, gap));
  for (const [a, b] of [
    [pw, ph],
    [ph, pw],
  ] as const) {
    for (let i = 1; i * (a + gap) - gap <= w; i += 1) {
      const rest = w - i * (a + gap);
      most = Math.max(
        most,
        i * plainGrid(a, h, a, b, gap) +
          Math.max(plainGrid(rest, h, a, b, gap), plainGrid(rest, h, b, a, gap)),
      );
    }
    for (let i = 1; i * (b + gap) - gap <= h; i += 1) {
      const rest = h - i * (b + gap);
      most = Math.max(
        most,
        i * plainGrid(w, b, a, b, gap) +
          Math.max(plainGrid(w, rest, a, b, gap), plainGrid(w, rest, b, a, gap)),
      );
    }
  }
  return most;
}

const mm = (min: number, max: number) => fc.integer({ min: 10 * min, max: 10 * max }).map((v) => v / 10);

test('equal rectangles: at least what both grids and every pattern of two blocks hold', () => {
  fc.assert(
    fc.property(mm(60, 700), mm(60, 700), mm(12, 160), mm(12, 160), mm(0, 6), (w, h, pw, ph, gap) => {
      const [sheet = []] = planSheet(
        job([item('a', pw, ph, null)], { usable: { x0: 5, y0: 7, x1: 5 + w, y1: 7 + h }, gapMm: gap }),
      ).sheets;
      expect(sheet.length).toBeGreaterThanOrEqual(twoBlocks(w, h, pw, ph, gap));
    }),
    { numRuns: 70 },
  );
});

// Worked by hand: 5 × 3 pieces on 13 × 11 hold 7 and 8 as grids, 9 as blocks: five columns of turned pieces, then two rows.
test('a pattern of blocks holds more than both grids', () => {
  expect(plainGrid(13, 11, 5, 3, 0)).toBe(6);
  expect(plainGrid(13, 11, 3, 5, 0)).toBe(8);
  expect(bestBlocks(13, 11, { widthMm: 5, heightMm: 3 }, 0, true).count).toBe(9);
  expect(bestBlocks(13, 11, { widthMm: 5, heightMm: 3 }, 0, false).count).toBe(6);
  // An exact fit counts: ten of 20 with gaps of 1 in 209.
  expect(bestBlocks(209, 20, { widthMm: 20, heightMm: 20 }, 1, true).count).toBe(10);
});

const apart = (a: Placement, b: Placement, gap: number): boolean =>
  a.x + a.widthMm + gap <= b.x + 1e-6 ||
  b.x + b.widthMm + gap <= a.x + 1e-6 ||
  a.y + a.heightMm + gap <= b.y + 1e-6 ||
  b.y + b.heightMm + gap <= a.y + 1e-6;

test('never overlaps, keeps gap, zones and area, places every copy it says, whatever is asked', () => {
  const items = fc.array(
    fc.record({
      widthMm: mm(8, 120),
      heightMm: mm(8, 120),
      copies: fc.option(fc.integer({ min: 1, max: 25 }), { nil: null }),
      mayTurn: fc.boolean(),
    }),
    { minLength: 1, maxLength: 4 },
  );
  fc.assert(
    fc.property(items, mm(0, 5), mm(0, 35), fc.boolean(), (list, gapMm, zone, centre) => {
      const zones =
        zone === 0
          ? []
          : [
              { x0: 0, y0: 0, x1: zone, y1: zone },
              { x0: 210 - zone, y0: 0, x1: 210, y1: zone },
              { x0: 0, y0: 297 - zone, x1: zone, y1: 297 },
              { x0: 210 - zone, y0: 297 - zone, x1: 210, y1: 297 },
            ];
      const asked = job(
        list.map((i, k) => ({ ...i, id: `i${k}` })),
        { gapMm, zones, centre },
      );
      const { sheets, tooLarge } = planSheet(asked);
      for (const sheet of sheets)
        sheet.forEach((p, i) => {
          expect(
            p.x > -1e-6 && p.y > -1e-6 && p.x + p.widthMm < 210 + 1e-6 && p.y + p.heightMm < 297 + 1e-6,
          ).toBe(true);
          for (const z of zones)
            expect(
              p.x >= z.x1 - 1e-6 ||
                p.x + p.widthMm <= z.x0 + 1e-6 ||
                p.y >= z.y1 - 1e-6 ||
                p.y + p.heightMm <= z.y0 + 1e-6,
            ).toBe(true);
          for (const q of sheet.slice(i + 1)) expect(apart(p, q, gapMm)).toBe(true);
          const of = asked.items.find((x) => x.id === p.item)!;
          expect([p.widthMm, p.heightMm]).toEqual(
            p.turnDeg === 0 ? [of.widthMm, of.heightMm] : [of.heightMm, of.widthMm],
          );
          if (!of.mayTurn) expect(p.turnDeg).toBe(0);
        });
      for (const i of asked.items)
        if (i.copies !== null && !tooLarge.includes(i.id))
          expect(sheets.flat().filter((p) => p.item === i.id)).toHaveLength(i.copies);
    }),
    { numRuns: 50 },
  );
});

test('what goes on no sheet is named; the rest is laid out; many copies take several sheets', () => {
  const { sheets, tooLarge } = planSheet(job([item('poster', 400, 300, 2), item('card', 85, 55, 30)]));
  expect(tooLarge).toEqual(['poster']);
  // 85 × 55 with gaps of 3: two columns of five, and one turned column of three beside them, at the least.
  expect(sheets.map((s) => s.length).reduce((a, b) => a + b)).toBe(30);
  expect(sheets.length).toBeLessThanOrEqual(3);
});

test('centred as a whole, and left where a zone is in the way', () => {
  const [sheet] = planSheet(job([item('a', 50, 50, 4)], { centre: true })).sheets;
  const middle = (axis: 'x' | 'y', size: 'widthMm' | 'heightMm'): number =>
    (Math.min(...sheet!.map((p) => p[axis])) + Math.max(...sheet!.map((p) => p[axis] + p[size]))) / 2;
  expect(middle('x', 'widthMm')).toBeCloseTo(105, 9);
  expect(middle('y', 'heightMm')).toBeCloseTo(148.5, 9);
});
