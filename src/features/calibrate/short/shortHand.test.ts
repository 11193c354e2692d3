import { proofSheet } from '@test/sheets';

import {
  axisOf,
  between,
  bothStand,
  handOf,
  letStand,
  nudge,
  OPEN_HAND,
  picksOf,
  takeTyped,
  turnCoarse,
  typeKey,
  type ShortHand,
} from './shortHand';

const station = proofSheet({ readBy: 'short', columns: 1, rows: 1 }).stations.find((s) => s.set === 2)!;
const typed = (hand: ShortHand, text: string): ShortHand => [...text].reduce(typeKey, hand);

test('nothing stands until both were moved, typed or said to look so', () => {
  expect(bothStand(OPEN_HAND)).toBe(false);
  const one = nudge(OPEN_HAND, station, 'across', 1);
  expect(bothStand(one)).toBe(false);
  expect(bothStand(nudge(one, station, 'along', -1))).toBe(true);
  expect(bothStand(letStand(OPEN_HAND))).toBe(true);
  expect(bothStand(turnCoarse(letStand(OPEN_HAND)))).toBe(false);
});

test.each([
  ['ArrowLeft', 'across'],
  ['ArrowRight', 'across'],
  ['ArrowUp', 'along'],
  ['ArrowDown', 'along'],
])('%s moves the comb %s', (key, axis) => expect(axisOf(key)).toBe(axis));

test('a press is a line, half a one from between two; beyond an end it comes back at the other', () => {
  const half = between(OPEN_HAND, station, 'across');
  expect(picksOf(half, station).across.pick).toEqual({ line: 0, between: true, lengths: 0 });
  expect(nudge(half, station, 'across', 1).across.steps).toBe(1);
  expect(nudge(half, station, 'across', -1).across.steps).toBe(0);
  let hand = OPEN_HAND;
  for (let i = 0; i < 6; i += 1) hand = nudge(hand, station, 'along', 1);
  expect(hand.along.steps).toBe(-5);
});

test('labels are typed, first across, then along; one that is not there is told and moves nothing', () => {
  const across = takeTyped(typed(OPEN_HAND, '0.2'), station, 'mm');
  expect(across.across).toMatchObject({ steps: 2, stands: true });
  const along = takeTyped(typed(across, '-0.3'), station, 'mm');
  expect(along.along.steps).toBe(-3);
  const wrong = takeTyped(typed(along, '9'), station, 'mm');
  expect(wrong.notThere).toMatch(/No line here is labelled 9/);
  expect(wrong.along.steps).toBe(-3);
  expect(typeKey(typed(OPEN_HAND, '12'), 'Backspace').typed).toBe('1');
  expect(typeKey(typed(OPEN_HAND, '12'), 'Escape').typed).toBe('');
});

test('a broken ring: the coarse scale tells the whole lengths of 1.1 mm, and is kept with the pick', () => {
  let hand = turnCoarse(OPEN_HAND);
  for (let i = 0; i < 5; i += 1) hand = nudge(hand, station, 'across', 1);
  expect(hand.across.coarseMm).toBe(2.5);
  hand = nudge(turnCoarse(hand), station, 'across', 1);
  const { across, along } = picksOf(hand, station);
  expect(across).toEqual({ pick: { line: 1, between: false, lengths: 2 }, coarseMm: 2.5 });
  expect(along.pick.lengths).toBe(0);
  // No arrow leaves the scale.
  let far = turnCoarse(OPEN_HAND);
  for (let i = 0; i < 50; i += 1) far = nudge(far, station, 'along', -1);
  expect(far.along.coarseMm).toBeGreaterThan(-8);
});

test('what was picked before opens as it was', () => {
  const picks = picksOf(between(nudge(OPEN_HAND, station, 'along', 1), station, 'across'), station);
  expect(picksOf(handOf(picks), station)).toEqual(picks);
});
