import { setupState } from './setupState';

const setup = { toleranceMm: 0.5 };
const session = (r95Mm: number) => ({ r95Mm, state: 'plumb' as const });

test.each([
  [0.37, 'plumb'],
  [0.38, 'leaning'],
  [0.5, 'leaning'],
  [0.51, 'out-of-plumb'],
])('the newest session decides: %s of 0.50 is %s', (r95Mm, state) => {
  expect(setupState({ setup, history: [session(2), session(r95Mm)], unproved: null })).toEqual({
    ...{ state, r95Mm, ratio: r95Mm / 0.5, unknown: null },
  });
});

test('nobody knows before the first session, nor after a correction that was not proved', () => {
  const nothing = { state: null, r95Mm: null, ratio: null };
  expect(setupState({ setup, history: [], unproved: null })).toEqual({
    ...nothing,
    unknown: 'never measured',
  });
  expect(setupState({ setup, history: [session(0.1)], unproved: { at: new Date() } })).toEqual({
    ...{ ...nothing, unknown: 'not proved yet' },
  });
});

test('what is allowed today judges, not what was allowed then: state and share never disagree', () => {
  const tighter = { toleranceMm: 0.2 };
  expect(setupState({ setup: tighter, history: [session(0.3)], unproved: null })).toMatchObject({
    state: 'out-of-plumb',
    ratio: 0.3 / 0.2,
  });
});
