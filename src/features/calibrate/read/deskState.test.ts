import fc from 'fast-check';

import { COARSE_REACH_MM } from '@/core/tolerance';
import { proofSheet } from '@test/sheets';

import { coarseDoubt } from './coarseDoubt';
import { enterKeeps, meaningOf, openDesk, pressed, type Desk, type Press } from './deskState';
import type { Hand } from './readingHand';

const station = proofSheet({ secondSet: false }).stations[0]!;
const UNDER = { comb: station.across, unit: 'mm' } as const;
const FINE: Hand = { task: 0, mode: 'fine', coarseMm: 0, coarseRead: 0.5, steps: 0 };
const COARSE: Hand = { ...FINE, mode: 'coarse', coarseRead: null };
const after = (hand: Hand, ...presses: readonly Press[]): Desk =>
  presses.reduce((desk, press) => pressed(desk, press, UNDER), openDesk(hand));
const typing = (text: string): Press[] => [...text].map((key) => ({ kind: 'type', key }));
const RIGHT: Press = { kind: 'nudge', by: 1 };
const LEFT: Press = { kind: 'nudge', by: -1 };
const ENTER: Press = { kind: 'enter' };

test.each<[string, Hand, readonly Press[], Partial<Hand>]>([
  ['right moves one line', FINE, [RIGHT], { steps: 1 }],
  ['left and right cancel', FINE, [LEFT, RIGHT], { steps: 0 }],
  ['between is half a step on', FINE, [{ kind: 'between' }], { steps: 0.5 }],
  ['from between the next line is half a step away', FINE, [{ kind: 'between' }, RIGHT], { steps: 1 }],
  ['between twice is back', FINE, [{ kind: 'between' }, { kind: 'between' }], { steps: 0 }],
  ['the cross moves by half a millimetre', COARSE, [RIGHT, RIGHT, RIGHT], { coarseMm: 1.5 }],
  ['a cross has no between', COARSE, [{ kind: 'between' }], { coarseMm: 0, mode: 'coarse' }],
  [
    'Enter takes the cross and goes on to the comb',
    COARSE,
    [LEFT, ENTER],
    { mode: 'fine', coarseRead: -0.5, steps: 0 },
  ],
  [
    'coarse goes back to the cross as it was read',
    FINE,
    [{ kind: 'coarse' }],
    { mode: 'coarse', coarseMm: 0.5 },
  ],
  ['a typed cross is rounded to its graduation', COARSE, [...typing('1,3'), ENTER], { coarseMm: 1.5 }],
])('%s', (_, hand, presses, wanted) => {
  expect(after(hand, ...presses).hand).toMatchObject(wanted);
});

test('a cross far from all that is on record is asked about once; whatever is pressed answers', () => {
  const asking = {
    ...UNDER,
    doubt: (mm: number) => coarseDoubt(mm, null, { allowedMm: 0.4, everMm: 0.3 }, 'mm'),
  };
  const far = Array<Press>(6).fill(RIGHT);
  const by = (...presses: readonly Press[]): Desk =>
    presses.reduce((desk, press) => pressed(desk, press, asking), openDesk(COARSE));
  const asked = by(...far, ENTER);
  expect(asked).toMatchObject({
    hand: { mode: 'coarse', coarseMm: 3 },
    doubt: { coarseMm: 3, meant: [0.5] },
  });
  expect(by(...far, ENTER, ENTER)).toMatchObject({ doubt: null, hand: { mode: 'fine', coarseRead: 3 } });
  expect(by(...far, ENTER, LEFT)).toMatchObject({ doubt: null, hand: { mode: 'coarse', coarseMm: 2.5 } });
  expect(by(...far, ENTER, LEFT, ENTER)).toMatchObject({ doubt: { coarseMm: 2.5 } });
  expect(by(...far, ENTER, { kind: 'meant', coarseMm: 0.5 }, ENTER)).toMatchObject({
    hand: { coarseRead: 0.5 },
  });
  expect(by(RIGHT, ENTER)).toMatchObject({ doubt: null, hand: { coarseRead: 0.5 } });
});

test.each([
  ['other combs of the sheet say so too', 3, 2.6, null],
  ['other combs say something else', 3, 0.2, 3],
  ['none is read yet', 3, null, 3],
  ['no farther than usual', 1, null, null],
])('a cross at %s', (_, mm, expected, asked) => {
  expect(coarseDoubt(mm, expected, { allowedMm: 0.4, everMm: 0.3 }, 'mm')?.coarseMm ?? null).toBe(asked);
});

test('a typed label leads to its line: Enter puts the hand there first and keeps only then', () => {
  const label = (station.across.phaseMm + 2 * station.across.stepMm).toFixed(2);
  const typed = after(FINE, ...typing(label));
  expect(typed.typed).toBe(label);
  expect(enterKeeps(typed)).toBe(false);
  const there = pressed(typed, ENTER, UNDER);
  expect(there).toMatchObject({ typed: '', notThere: '', hand: { steps: 2 } });
  expect(enterKeeps(there)).toBe(true);
});

test.each<[string, Hand, string, RegExp]>([
  ['no line of this comb', FINE, '99', /No line here is labelled 99/],
  ['no figure', FINE, '--', /No line here is labelled --/],
  ['beyond the cross', COARSE, String(COARSE_REACH_MM + 2), /The cross goes from/],
  ['no figure for the cross', COARSE, '1-2', /The cross goes from/],
])('%s: said, the hand stays, and typing again clears it', (_, hand, text, words) => {
  const desk = after(hand, ...typing(text), ENTER);
  expect(desk.notThere).toMatch(words);
  expect(desk.typed).toBe('');
  expect(desk.hand).toEqual(hand);
  expect(pressed(desk, { kind: 'type', key: '1' }, UNDER)).toMatchObject({ notThere: '', typed: '1' });
});

test('what is typed is mended with Backspace, dropped with Escape, and never grows without end', () => {
  const back: Press = { kind: 'type', key: 'Backspace' };
  expect(after(FINE, ...typing('0.35'), back).typed).toBe('0.3');
  expect(after(FINE, ...typing('0.35'), { kind: 'type', key: 'Escape' }).typed).toBe('');
  expect(after(FINE, ...typing('123456789012')).typed).toHaveLength(8);
});

test('a kept reading names the comb to go to, which is laid out once; a taken back one can be undone', () => {
  const kept = after(FINE, { kind: 'kept', next: 3 });
  expect(kept.awaiting).toBe(3);
  expect(pressed(kept, { kind: 'lay-out', open: true, hand: { ...COARSE, task: 3 } }, UNDER)).toMatchObject({
    awaiting: null,
    hand: { task: 3, mode: 'coarse' },
  });
  const reading = {
    ...{ stationId: 'A1', axis: 'across' as const, coarseMm: null },
    pick: { line: 0, between: false, lengths: 0 },
  };
  const taken = after(FINE, { kind: 'taken-back', reading });
  expect(taken.taken).toBe(reading);
  expect(pressed(taken, { kind: 'undone' }, UNDER).taken).toBeNull();
  expect(pressed(taken, { kind: 'kept', next: null }, UNDER)).toMatchObject({ taken: null, awaiting: null });
});

test('whatever is pressed, the hand stays on the comb and on the cross, in halves', () => {
  const press = fc.constantFrom<Press>(
    ...[RIGHT, LEFT, ENTER, { kind: 'between' } as const, { kind: 'coarse' } as const],
    ...typing('0123-.,'),
    { kind: 'type', key: 'Backspace' },
  );
  fc.assert(
    fc.property(fc.array(press, { maxLength: 60 }), fc.constantFrom(FINE, COARSE), (presses, hand) => {
      const { hand: now } = after(hand, ...presses);
      expect(Number.isInteger(2 * now.steps)).toBe(true);
      expect(now.steps).toBeGreaterThanOrEqual(-station.across.halfLines);
      expect(now.steps).toBeLessThanOrEqual(station.across.halfLines + 0.5);
      expect(Number.isInteger(2 * now.coarseMm)).toBe(true);
      expect(Math.abs(now.coarseMm)).toBeLessThanOrEqual(COARSE_REACH_MM + 0.5);
    }),
  );
});

test.each([
  ['ArrowUp', false, { kind: 'nudge', by: 1 }],
  ['ArrowLeft', false, { kind: 'nudge', by: -1 }],
  ['7', false, { kind: 'type' }],
  ['-', false, { kind: 'type' }],
  ['Backspace', true, { kind: 'type' }],
  ['Backspace', false, { kind: 'clear' }],
  ['Escape', true, { kind: 'type' }],
  ['Escape', false, null],
  ['PageDown', false, { kind: 'on' }],
  ['x', false, null],
])('the key %s, typing %s', (key, isTyping, meaning) => {
  expect(meaningOf(key, isTyping)).toEqual(meaning);
});

test('the last comb that is kept finishes; a press on another begins anew; what somebody else read is named', () => {
  const last = after(FINE, { kind: 'kept', next: null });
  expect(last).toMatchObject({ finished: true, open: false, awaiting: null });
  expect(after(FINE, { kind: 'kept', next: 3 })).toMatchObject({ finished: false, awaiting: 3 });
  expect(pressed(last, RIGHT, UNDER).finished).toBe(false);
  const overtaken = 'KT has read A1 across.';
  const moved = after(FINE, { kind: 'lay-out', hand: { ...FINE, task: 2 }, open: true, overtaken });
  expect(moved).toMatchObject({ overtaken, open: true, finished: false, hand: { task: 2 } });
  // It is said once.
  expect(pressed(moved, { kind: 'kept', next: 4 }, UNDER).overtaken).toBe('');
  expect(after(FINE, { kind: 'all-read', overtaken })).toMatchObject({ overtaken, finished: true });
});
