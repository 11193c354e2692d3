import fc from 'fast-check';

import { seenOn, type Seen } from '@test/drawn';
import { buildProofSheet, cutLayer, layoutAreaOf, printLayer, type ProofSpec } from '../proof';
import type { Rect } from '../geometry';
import { A4_SPEC } from '@test/sheets';

import {
  clearZone,
  CORNERS,
  LEAD_SIGNS,
  MARK_SHAPES,
  markOutline,
  markPicture,
  markPlaces,
  drawMarks,
  markWarnings,
  registrationOf,
  type MarkKit,
} from '.';

const KIT: MarkKit = {
  count: 4,
  shape: 'disc',
  sizeMm: 6,
  lineMm: 0.5,
  colour: '#102030',
  insetLeftMm: 12,
  insetRightMm: 14,
  insetNearMm: 16,
  insetFarMm: 18,
  clearMm: 3,
  leading: 'far right',
  leadSign: 'larger',
  everyMm: null,
  printerEdgeMm: 4,
  sensorEdgeMm: 6,
};
const A4 = { sheetWidthMm: 210, sheetHeightMm: 297 };
const near = (kit: Partial<MarkKit>, sheet = A4) =>
  markPlaces({ ...KIT, ...kit }, sheet).map((p) => `${p.name} ${p.centre.x},${p.centre.y}`);

test('places: one leads, two lie along the feed, three share the leading corner, four with more between', () => {
  expect(near({ count: 1 })).toEqual(['far right 196,279']);
  expect(near({ count: 2 })).toEqual(['far right 196,279', 'near right 196,16']);
  expect(near({ count: 3 })).toEqual(['far right 196,279', 'near right 196,16', 'far left 12,279']);
  expect(near({})).toHaveLength(4);
  // 263 mm between near and far at most 100 mm apart: three parts, so two more on each side.
  const many = markPlaces({ ...KIT, everyMm: 100 }, A4);
  expect(many).toHaveLength(8);
  const left = many.filter((p) => p.centre.x === 12).map((p) => p.centre.y);
  const gaps = [...left].sort((a, b) => a - b).map((y, i, all) => (i === 0 ? 0 : y - all[i - 1]!));
  expect(Math.max(...gaps)).toBeLessThanOrEqual(100);
});

test('what the marks take out of a load follows from their number; one mark leaves the turn to each load', () => {
  const counts = [null, 1, 2, 3, 4] as const;
  const found = counts.map((count) => registrationOf(count && { ...KIT, count }, A4));
  expect(found.map((r) => r.parameters)).toEqual([0, 2, 4, 6, 6]);
  expect(found.map((r) => r.loadTurnRad > 0)).toEqual([false, true, false, false, false]);
  expect(found[1]!.pivot).toEqual({ x: 196, y: 279 });
});

test.each([
  ['nothing', {}, []],
  ['a mark the printer would clip', { insetLeftMm: 6.5 }, [/clip/, /clip/, /sensor/, /sensor/]],
  ['a mark the sensor may take for the edge', { insetNearMm: 8 }, [/sensor/, /sensor/]],
  ['marks that meet', { insetLeftMm: 100, insetRightMm: 105 }, [/meet/]],
])('warns of %s', (_, kit, wanted) => {
  const said = markWarnings({ ...KIT, ...kit }, A4);
  expect(said).toHaveLength(wanted.length);
  wanted.forEach((pattern) => expect(said.join(' ')).toMatch(pattern));
});

/** Where it puts ink. */
function inkOf(mark: Seen): Rect {
  switch (mark.kind) {
    case 'line': {
      const [x, y] = [
        [mark.from.x, mark.to.x],
        [mark.from.y, mark.to.y],
      ];
      return { x0: Math.min(...x), x1: Math.max(...x), y0: Math.min(...y), y1: Math.max(...y) };
    }
    case 'disc':
    case 'ring': {
      const { centre: c, radiusMm: r } = mark;
      return { x0: c.x - r, x1: c.x + r, y0: c.y - r, y1: c.y + r };
    }
    case 'polygon':
      return {
        x0: Math.min(...mark.points.map((p) => p.x)),
        x1: Math.max(...mark.points.map((p) => p.x)),
        y0: Math.min(...mark.points.map((p) => p.y)),
        y1: Math.max(...mark.points.map((p) => p.y)),
      };
    case 'text':
      return { x0: mark.at.x, x1: mark.at.x, y0: mark.at.y, y1: mark.at.y };
  }
}

const kits = fc.record({
  count: fc.constantFrom(1 as const, 2 as const, 3 as const, 4 as const),
  shape: fc.constantFrom(...MARK_SHAPES),
  leading: fc.constantFrom(...CORNERS),
  leadSign: fc.constantFrom(...LEAD_SIGNS),
  sizeMm: fc.double({ min: 3, max: 9, noNaN: true }),
  insetLeftMm: fc.double({ min: 8, max: 22, noNaN: true }),
  insetNearMm: fc.double({ min: 8, max: 22, noNaN: true }),
  clearMm: fc.double({ min: 1, max: 5, noNaN: true }),
});

test('a proof sheet carries the marks, and nothing else of it comes into their clear zones', () => {
  fc.assert(
    fc.property(kits, (some) => {
      const marks: MarkKit = { ...KIT, ...some };
      const spec: ProofSpec = { ...A4_SPEC, marks, columns: 2, rows: 2 };
      const built = buildProofSheet(spec);
      if (!built.ok) throw new Error(JSON.stringify(built.refusal));
      expect(built.value.layoutArea).toEqual(layoutAreaOf(spec));
      const title = { number: '0001', rig: 'r', media: 'm', date: 'd', address: 'a', qr: [[true]] };
      const print = seenOn(printLayer(built.value, title));
      expect(print.filter((m) => m.ink === 'mark')).toEqual(seenOn(drawMarks(marks, spec)));
      const ours = [...print.filter((m) => m.ink !== 'mark'), ...seenOn(cutLayer(built.value, '0001', 1))];
      for (const place of markPlaces(marks, spec)) {
        const zone = clearZone(marks, place);
        const within = ours.filter((m) => {
          const ink = inkOf(m);
          return ink.x0 < zone.x1 && ink.x1 > zone.x0 && ink.y0 < zone.y1 && ink.y1 > zone.y0;
        });
        expect(within).toEqual([]);
      }
    }),
    { numRuns: 60 },
  );
});

test('every mark is drawn within its outline, its sign included', () => {
  fc.assert(
    fc.property(kits, (some) => {
      const kit: MarkKit = { ...KIT, ...some, count: 1 };
      const o = markOutline(kit, markPlaces(kit, A4)[0]!);
      for (const mark of seenOn(drawMarks(kit, A4))) {
        const ink = inkOf(mark);
        const inside =
          ink.x0 >= o.x0 - 0.3 && ink.x1 <= o.x1 + 0.3 && ink.y0 >= o.y0 - 0.3 && ink.y1 <= o.y1 + 0.3;
        expect([mark.kind, inside]).toEqual([mark.kind, true]);
      }
    }),
  );
});

test('a corner of a shape of its own is drawn so, the others as before', () => {
  const kit: MarkKit = { ...KIT, leadSign: 'none', shapes: { 'near left': 'square', 'far left': 'cross' } };
  const kinds = seenOn(drawMarks(kit, A4)).map((m) => m.kind);
  expect(kinds.filter((k) => k === 'polygon')).toHaveLength(1);
  expect(kinds.filter((k) => k === 'line')).toHaveLength(2);
  expect(kinds.filter((k) => k === 'disc')).toHaveLength(2);
  // A square has no stroke that stands out over its size, a cross has half a line’s width.
  const [square, cross] = ['near left', 'far left'].map((name) =>
    markOutline(
      kit,
      markPlaces(kit, A4).find((p) => p.name === name)!,
    ),
  );
  expect(square!.x1 - square!.x0).toBeCloseTo(6, 9);
  expect(cross!.x1 - cross!.x0).toBeCloseTo(6.5, 9);
});

test('sides that need more or less clear room than the rest', () => {
  const kit: MarkKit = { ...KIT, leadSign: 'none', clearSidesMm: { far: 9, left: 0 } };
  const place = markPlaces(kit, A4).find((p) => p.name === 'near left')!;
  const [o, zone] = [markOutline(kit, place), clearZone(kit, place)];
  expect([o.x0 - zone.x0, o.y0 - zone.y0, zone.x1 - o.x1, zone.y1 - o.y1]).toEqual([0, 3, 3, 9]);
});

test('a closed frame: one line through the corners, and the work inside it', () => {
  const kit: MarkKit = { ...KIT, frame: true };
  const [line, ...more] = seenOn(drawMarks(kit, A4));
  expect(more).toEqual([]);
  expect(line).toMatchObject({
    kind: 'polygon',
    filled: false,
    points: [
      { x: 12, y: 16 },
      { x: 196, y: 16 },
      { x: 196, y: 279 },
      { x: 12, y: 279 },
    ],
  });
  const spec: ProofSpec = { ...A4_SPEC, marks: kit };
  const inside = layoutAreaOf(spec);
  // Half a line and 3 mm of clear room inside the line, or the work area’s own edge where that is further in.
  expect(inside).toEqual({
    x0: Math.max(spec.workArea.x0, 15.25),
    y0: Math.max(spec.workArea.y0, 19.25),
    x1: Math.min(spec.workArea.x1, 192.75),
    y1: Math.min(spec.workArea.y1, 275.75),
  });
  expect(registrationOf(kit, A4).parameters).toBe(6);
});

test.each(['machine', 'program'] as const)(
  'laid by the %s: ours prints none and keeps their places free',
  (laidBy) => {
    const ours = { ...A4_SPEC, marks: KIT };
    const theirs = { ...A4_SPEC, marks: { ...KIT, laidBy } };
    expect(drawMarks(theirs.marks, A4)).toEqual([]);
    expect(markPicture(theirs.marks, A4)).toEqual(drawMarks(KIT, A4));
    expect(layoutAreaOf(theirs)).toEqual(layoutAreaOf(ours));
    expect(buildProofSheet(theirs)).toMatchObject({ ok: true });
  },
);
