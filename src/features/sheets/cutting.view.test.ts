import { AS_LAID_OUT, type Cutting } from '@/core/sheetJob';

import { cuttingWords, earlier, leftText, readLeft } from './cutting.view';
import { moved, movedWords } from './MovePieces';

const ONE = [Array.from({ length: 12 })];
const TWO = [Array.from({ length: 12 }), Array.from({ length: 4 })];

test.each([
  ['', ONE, []],
  ['3, 7-9', ONE, [2, 6, 7, 8].map((index) => ({ sheet: 0, index }))],
  ['3 3;3', ONE, [{ sheet: 0, index: 2 }]],
  [
    '2.4, 1.12',
    TWO,
    [
      { sheet: 1, index: 3 },
      { sheet: 0, index: 11 },
    ],
  ],
] as const)('“%s” is read, and written it is read the same', (text, sheets, left) => {
  const read = readLeft(text, sheets);
  expect(read).toEqual({ ok: true, value: left });
  expect(readLeft(leftText(left, sheets), sheets)).toEqual(read);
});

test.each([
  ['13', ONE, /sheet 1 has pieces 1 to 12/],
  ['0', ONE, /pieces 1 to 12/],
  ['9-7', ONE, /pieces 1 to 12/],
  ['2.5', TWO, /sheet 2 has pieces 1 to 4/],
  ['3.1', TWO, /there are 2 sheets/],
  ['all', TWO, /“all” is no piece/],
] as const)('“%s” is refused with what would be right', (text, sheets, words) => {
  const read = readLeft(text, sheets);
  if (read.ok) throw new Error('read');
  expect(read.refusal).toMatch(words);
});

test('how it is cut in words', () => {
  const line = { points: [], areaMm2: 1, hole: false };
  const piece = {
    ...{ id: 'A', picture: { widthMm: 1, heightMm: 1, at: { x: 0, y: 0 } }, ink: [], lines: [line] },
    ...({ bleedMm: 0, kind: 'kiss-cut', copies: 2 } as const),
    second: { byMm: 2, kind: 'cut-through', lines: [line] } as const,
  };
  const how: Cutting = {
    ...AS_LAID_OUT,
    passes: [{ kind: 'cut-through', times: 2, pause: true }],
    tools: [{ kind: 'kiss-cut', words: 'force 8' }],
    left: [{ sheet: 0, index: 4 }],
  };
  const geometry = { pieces: [piece], sheets: ONE as never };
  expect(cuttingWords(undefined, geometry)).toBe('');
  expect(cuttingWords(how, geometry)).toBe(
    'kiss cut (force 8), then cut through 2 times, a pause between; without piece 5',
  );
});

test('one kind comes a place earlier; the first stays', () => {
  expect(earlier(['pen', 'score', 'kiss-cut'], 'kiss-cut')).toEqual(['pen', 'kiss-cut', 'score']);
  expect(earlier(['pen', 'score'], 'pen')).toEqual(['pen', 'score']);
});

test('a move is kept once a piece, gone when it is put back, and said as left and right', () => {
  const layout = { gapMm: 3, centre: false, mayTurn: true };
  const once = moved(layout, 0, 2, { dxMm: 1, dyMm: -0.5 });
  expect(moved(once, 0, 2, { dxMm: 2, dyMm: 0 }).nudged).toEqual([{ sheet: 0, index: 2, dxMm: 2, dyMm: 0 }]);
  expect(moved(once, 0, 2, { dxMm: 0, dyMm: 0 }).nudged).toEqual([]);
  expect(movedWords({ dxMm: -1, dyMm: 0.5 }, 'mm')).toBe('moved 1.00 mm left and 0.50 mm further along');
  expect(movedWords({ dxMm: 0, dyMm: 0 }, 'mm')).toBe('where the rule puts it');
});
