import fc from 'fast-check';

import { seenOn } from '@test/drawn';
import { flatten } from '../drawing';
import { loneStationReach } from '../proof';
import { ROLL_MARKS } from '@test/setups';

import {
  impose,
  outlineDrawing,
  sectionDrawing,
  sectionsOf,
  stripPaths,
  stripRefusalText,
  stripPrint,
  stripStations,
  stripXMm,
  WITNESS_LAYER,
} from '.';

const PRINTABLE = 1310;
const REACH = loneStationReach(0.1);
const ROOM = { markRoomMm: 20, betweenMm: 10 };
function laid(widthMm: number, heightMm: number, rows = 3) {
  const imposed = impose({
    ...{ itemWidthMm: widthMm, itemHeightMm: heightMm, copies: 60, gapMm: 4, printableWidthMm: PRINTABLE },
    ...{ mayTurn: false, lanes: 1, laneGapMm: 0, centreLastRow: false },
  });
  if (!imposed.ok) throw new Error(imposed.refusal.code);
  return { imposition: imposed.value, sections: sectionsOf(imposed.value, rows, ROOM) };
}

test('property: witnesses lie in the waste, clear of rows, edges and the room for marks', () => {
  let there = 0;
  fc.assert(
    fc.property(
      fc.integer({ min: 60, max: 700 }),
      fc.integer({ min: 10, max: 400 }),
      fc.integer({ min: 1, max: 5 }),
      (w, h, rows) => {
        const { imposition, sections } = laid(w, h, rows);
        const x = stripXMm(imposition, PRINTABLE, ROLL_MARKS);
        if (!x.ok) return;
        for (const section of sections.slice(0, 2)) {
          const stations = stripStations(imposition, section, ROOM, x.value);
          there += stations.length;
          const length = section.endMm - section.startMm;
          const boxes = stations.map(({ centre }) => ({
            x0: centre.x - REACH.left,
            x1: centre.x + REACH.right,
            y0: centre.y - REACH.near,
            y1: centre.y + REACH.far,
          }));
          for (const b of boxes) {
            expect(b.x0).toBeGreaterThanOrEqual(Math.max(...imposition.columnsAtMm) + imposition.itemWidthMm);
            expect(b.x1).toBeLessThanOrEqual(PRINTABLE);
            expect(b.y0).toBeGreaterThanOrEqual(ROOM.markRoomMm - 1e-9);
            expect(b.y1).toBeLessThanOrEqual(length - ROOM.markRoomMm + 1e-9);
          }
          if (boxes.length === 2) expect(boxes[0]!.y1).toBeLessThan(boxes[1]!.y0);
          expect(stations.map((s) => s.place)).toEqual(['first row', 'last row'].slice(0, stations.length));
        }
      },
    ),
    { numRuns: 80 },
  );
  expect(there).toBeGreaterThan(20);
});

test.each([
  [
    'rows as wide as the media',
    laid(1300, 110).imposition,
    ROLL_MARKS,
    /needs 49 mm beside the rows; 10 mm are left/,
  ],
  [
    'marks along the sides',
    laid(185, 110).imposition,
    { ...ROLL_MARKS, everyMm: 300 },
    /stand along the sides/,
  ],
])('%s leave no room, and it is said what would be right', (_, imposition, marks, words) => {
  const x = stripXMm(imposition, PRINTABLE, marks);
  expect(x.ok).toBe(false);
  if (!x.ok) expect(stripRefusalText(x.refusal)).toMatch(words);
});

test('a section of one short row has one witness, a shorter one none', () => {
  const of = (h: number) => {
    const { imposition, sections } = laid(185, h, 1);
    return stripStations(imposition, sections[0]!, ROOM, 1200).map((s) => s.place);
  };
  expect(of(40)).toEqual(['first row']);
  expect(of(20)).toEqual([]);
});

test('its lines are cut where they are printed, corrected like the items, on a layer of their own', () => {
  const { imposition, sections } = laid(185, 110);
  const section = sections[1]!;
  const x = stripXMm(imposition, PRINTABLE, ROLL_MARKS);
  const stations = stripStations(imposition, section, ROOM, x.ok ? x.value : 0);
  const map = { a11: 1, a12: 0, a21: 0, a22: 1.001, tx: 0.3, ty: -0.2 };
  const item = outlineDrawing(185, 110, 'rectangle');
  const drawn = sectionDrawing(imposition, section, ROOM, item, PRINTABLE, map, stripPaths(stations));
  expect(drawn.layers.map((l) => l.name)).toEqual([WITNESS_LAYER, 'cut']);
  const windows = drawn.paths.filter((p) => p.layer === WITNESS_LAYER && p.closed);
  expect(windows).toHaveLength(2);
  windows.forEach((path, i) => {
    const xy = flatten(path, 0.001);
    const middle = (odd: 0 | 1): number => {
      const of = xy.filter((_, k) => k % 2 === odd);
      return (Math.min(...of) + Math.max(...of)) / 2;
    };
    const { centre } = stations[i]!;
    // T takes what is commanded to where it lands: on the print.
    expect(middle(0) + map.tx).toBeCloseTo(centre.x, 3);
    expect(middle(1) * map.a22 + map.ty).toBeCloseTo(centre.y, 3);
  });
  const printed = seenOn(stripPrint(stations, { widthMm: PRINTABLE, heightMm: 500, title: 'w' }));
  expect(printed.flatMap((m) => (m.kind === 'ring' ? [m.centre] : []))).toContainEqual(stations[0]!.centre);
  const plain = sectionDrawing(imposition, section, ROOM, item, PRINTABLE, null);
  expect(plain.layers.map((l) => l.name)).toEqual(['cut']);
});
