import { SHEET_FRAME } from '@/core/daily';
import { plainSetting, plainSetup } from '@test/setups';

import { carriesWords, deskSetup, mustShowWords, overWords } from './correct.view';

const NONE = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 0, ty: 0 };
const AT = { x: 100, y: 150 };

// What is told is K, the other way round than T.
test.each([
  ['nothing to carry', null, null],
  [
    'less than shows',
    { ...NONE, tx: 0.002 },
    'They come back moved by less than a hundredth of a millimetre.',
  ],
  [
    'a shift',
    { ...NONE, tx: 0.31, ty: -0.12 },
    'They come back moved 0.31 mm left and 0.12 mm further along.',
  ],
  [
    'a length about the middle',
    { ...NONE, a22: 1.0011, ty: -0.0011 * AT.y },
    'They come back 0.11 % shorter.',
  ],
  [
    'a turn about the middle',
    { ...NONE, a12: -0.0007, a21: 0.0007, tx: 0.0007 * AT.y, ty: -0.0007 * AT.x },
    'They come back turned 0.04° clockwise.',
  ],
])('%s in words', (_, transform, words) => {
  expect(carriesWords(transform, AT, 'mm')).toBe(words);
});

test('a desk’s setup: what has to be shown, what is shown instead, and how its files lie', () => {
  const setup = plainSetup({
    fileFrame: SHEET_FRAME,
    settings: [
      plainSetting({ id: 'x', name: 'Offset X', value: 0.4, wanted: 0.85 }),
      plainSetting({ id: 'y', name: 'Offset Y', value: 4.6, wanted: 4.6 }),
    ],
  });
  const desk = deskSetup(setup, 'mm');
  expect(desk.show.map((s) => s.instead)).toEqual(['0.40', null]);
  expect(mustShowWords(desk.show)).toBe(
    'While they are cut the machine must show Offset X 0.85 mm and Offset Y 4.60 mm.',
  );
  expect(desk.lies).toBe('x runs right, y further, zero at the near left corner');
  expect(desk.picture.map).toMatchObject(NONE);
  expect(deskSetup(plainSetup({ fileFrame: null }), 'mm')).toMatchObject({
    lies: null,
    picture: { map: null },
  });
});

test('how far a drawing reaches over the sheet is told when it matters', () => {
  expect(overWords(0.01, 'mm')).toBeNull();
  expect(overWords(20, 'mm')).toMatch(/^It reaches 20\.00 mm over the edge/);
});
