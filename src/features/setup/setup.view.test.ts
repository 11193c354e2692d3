import { plainSetting, plainSetup } from '@test/setups';
import { machineWordsSchema } from '@/server/setups/shapes';
import { laidElsewhere } from '@/ui/words/markWords';
import { ROLL_MARKS } from '@test/setups';

import { unprovedTools } from '@/core/setup';

import type { SetupState } from '@/core/verdict';
import type { SetupSetting } from '@/server/setups/setup';

import { changeRows, setupAnswer, wantedFigures } from './setup.view';

const X = plainSetting({ id: 'x', name: 'Offset X', value: 0.85, wanted: 0.85 });
const Y = plainSetting({ id: 'y', name: 'Offset Y', value: -0.05, wanted: 0.2 });

const LEANING: SetupState = { state: 'leaning', ratio: 0.98, r95Mm: 0.49, unknown: null };
const NOBODY_KNOWS: SetupState = { state: null, r95Mm: null, ratio: null, unknown: 'never measured' };

test.each<
  [string, Parameters<typeof setupAnswer>[1], SetupSetting[], Parameters<typeof setupAnswer>[2], string]
>([
  [
    'leaning, with its next step in the words of the Bench',
    LEANING,
    [X],
    { act: 'Calibrate', why: 'before the next tight job' },
    'Gloss white vinyl is leaning, 0.49 of 0.50 mm. Calibrate: before the next tight job.',
  ],
  [
    'nothing to do',
    { ...LEANING, state: 'plumb', r95Mm: 0.2 },
    [X],
    null,
    'Gloss white vinyl is plumb, 0.20 of 0.50 mm.',
  ],
  [
    'not set up now',
    { ...LEANING, state: 'plumb', r95Mm: 0.2 },
    [X, Y],
    null,
    'Gloss white vinyl is plumb, 0.20 of 0.50 mm. Change over to it before it runs.',
  ],
  [
    'never measured',
    NOBODY_KNOWS,
    [X],
    { act: 'Calibrate', why: 'never measured' },
    'Gloss white vinyl was never measured. Calibrate it.',
  ],
  ['put away', null, [X], null, 'Gloss white vinyl is put away.'],
])('what a setup says first: %s', (_, stands, settings, next, words) => {
  expect(setupAnswer(plainSetup({ settings, toleranceMm: 0.5 }), stands, next, 'mm')).toBe(words);
});

test('what it wants, and what the machine shows instead', () => {
  expect(wantedFigures(plainSetup({ settings: [X, Y] })).map((f) => [f.name, f.wants, f.shows])).toEqual([
    ['Offset X', '0.85', null],
    ['Offset Y', '0.20', '−0.05'],
  ]);
});

test('a change-over card: what to type first, then what to leave, then what the machine brings back itself', () => {
  const each = plainSetting({ id: 'z', name: 'Length', kept: 'per-medium', on: 'printer' });
  const words = machineWordsSchema.parse({
    keys: 'menu, 4',
    notFirst: 'reset',
    after: 'put it online again',
  });
  const rows = changeRows(plainSetup({ settings: [each, X, { ...Y, words }] }));
  expect(rows.map((r) => [r.name, r.deed, r.from, r.to, r.machine, r.crossesZero])).toEqual([
    ['Offset Y', 'type', '−0.05', '0.20', 'cutter', true],
    ['Offset X', 'leave', '0.85', '0.85', 'cutter', false],
    ['Length', 'look', '0.00', '0.00', 'printer', false],
  ]);
  expect(rows[0]!.how).toEqual([
    'Keys: menu, 4.',
    'Do not press first: reset.',
    'Afterwards: put it online again.',
  ]);
  expect(rows[1]!.how).toEqual([]);
});

test('marks laid by somebody else: who, and where our page has to lie there', () => {
  expect(laidElsewhere(null, 'mm')).toBeNull();
  expect(laidElsewhere(ROLL_MARKS, 'mm')).toBeNull();
  const words = laidElsewhere({ ...ROLL_MARKS, laidBy: 'program' }, 'mm')!;
  expect(words).toMatch(/^The program that prints lays the marks: our print carries none/);
  expect(words).toMatch(/near left mark comes 45 mm right of and 75 mm further than/);
});

test('the other tool of the same medium and size, not proved yet, is named; everything else is not', () => {
  const knife = plainSetup({ id: 'k', tool: { id: 'a', name: 'knife' } });
  const others = [
    { setup: knife, proved: false },
    { setup: { ...knife, id: 'r', tool: { id: 'b', name: 'rotary' } }, proved: false },
    { setup: { ...knife, id: 'c', tool: { id: 'c', name: 'creaser' } }, proved: true },
    { setup: { ...knife, id: 'm', mediaId: 'foil', tool: null }, proved: false },
    { setup: { ...knife, id: 's', sheetWidthMm: 610, tool: null }, proved: false },
  ];
  expect(unprovedTools(knife, others)).toEqual([
    'With rotary it is not proved: a job that uses both tools waits for that.',
  ]);
});
