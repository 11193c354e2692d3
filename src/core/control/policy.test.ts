import { EVENT_KINDS } from '../setup';

import { idleDays, USUAL_POLICY } from '.';

const NOW = new Date(Date.UTC(2026, 5, 30, 12));
const ago = (days: number): Date => new Date(+NOW - days * 86_400_000);

test.each([
  ['never asked for', null, ago(400), null],
  ['never cut', 30, null, null],
  ['cut today', 30, NOW, null],
  ['just as long as it may rest', 30, ago(30.9), null],
  ['a day longer', 30, ago(31), 31],
  ['far longer', 7, ago(99.5), 99],
  // A clock that was set back leaves a cut in the future: it is no rest.
  ['cut tomorrow', 1, ago(-1), null],
])('a rig that was %s', (_, most, lastCut, days) => {
  expect(idleDays({ ...USUAL_POLICY, idleDays: most }, lastCut, NOW)).toBe(days);
});

test('until somebody says otherwise it asks after every event and every signal, never for a rest', () => {
  expect(USUAL_POLICY).toEqual({ events: EVENT_KINDS, idleDays: null, signals: true });
});
