import { recommend, type Strategy } from './planRoll';
import { sectionsOf } from './sections';
import type { Imposition } from './impose';

const IMPOSITION = { columns: 4, itemHeightMm: 96, gapMm: 4, rows: 12, copies: 46 } as Imposition;
const way = (name: string, mediaMm: number, spoiled: number, more: object = {}): Strategy =>
  ({
    ...{ name, mediaMm, spoiled, missing: null, fitsRoll: true, keepsPromise: true, sections: [1] },
    ...more,
  }) as unknown as Strategy;

// An item takes 25 mm of media here; one that is spoiled counts as ten of them.
test.each([
  [
    'two spoiled more are worth less than 500 mm',
    [way('whole', 3000, 4), way('sections', 3499, 2)],
    'sections',
  ],
  ['and no more than that', [way('whole', 3000, 4), way('sections', 3501, 2)], 'whole'],
  [
    'a promise is kept first',
    [way('whole', 1000, 9, { keepsPromise: false }), way('sections', 9000, 1)],
    'sections',
  ],
  [
    'where none keeps it, the fewest spoiled',
    [way('whole', 1000, 9, { keepsPromise: false }), way('sections', 9000, 8, { keepsPromise: false })],
    'sections',
  ],
  [
    'what the rig cannot do is left out',
    [way('whole', 1000, 0, { missing: 'no marks' }), way('sections', 9000, 1)],
    'sections',
  ],
  [
    'and what does not fit on the roll',
    [way('whole', 1000, 0, { fitsRoll: false }), way('sections', 9000, 1)],
    'sections',
  ],
])('%s', (_, ways, wanted) => {
  expect(recommend(ways, IMPOSITION)).toBe(wanted);
});

test('a section has room for its marks before the first row and behind the last; the next begins after the gap', () => {
  const rows = sectionsOf(IMPOSITION, 5, { markRoomMm: 20, betweenMm: 10 });
  expect(rows.map((s) => [s.startMm, s.endMm, s.heightMm, s.rows, s.copies])).toEqual([
    [0, 536, 496, 5, 20],
    [546, 1082, 496, 5, 20],
    [1092, 1328, 196, 2, 6],
  ]);
});
