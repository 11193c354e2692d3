import fc from 'fast-check';

import { IDENTITY } from '../geometry';
import {
  deedOf,
  sameFigure,
  sameStanding,
  standingAfter,
  toType,
  type Ended,
  type Standing,
} from './standing';

const shown = { id: 'x', step: 0.05, kept: 'one' as const, value: 0.85, wanted: 0.85 };

test.each([
  ['one for all, already so', shown, 'leave'],
  ['one for all, another medium’s', { ...shown, value: 1.1 }, 'type'],
  ['one for each, so', { ...shown, kept: 'per-medium' as const }, 'look'],
  ['one for each, and not so', { ...shown, kept: 'per-medium' as const, value: 1.1 }, 'type'],
  ['off by what a sum of steps is off', { ...shown, value: 0.1 + 0.2 + 0.55 }, 'leave'],
])('%s', (_, setting, deed) => {
  expect(deedOf(setting)).toBe(deed);
  expect(toType([setting])).toEqual(deed === 'type' ? [setting] : []);
});

test('a figure is the same by its step: never one step off, always for what floating point makes of it', () => {
  const figure = { steps: fc.integer({ min: -2000, max: 2000 }), step: fc.constantFrom(0.001, 0.05, 0.1, 1) };
  fc.assert(
    fc.property(fc.record(figure), ({ steps, step }) => {
      const value = steps * step;
      expect(sameFigure(value, (value * 3) / 3 + 1e-12, step)).toBe(true);
      expect(sameFigure(value, value + step, step)).toBe(false);
    }),
  );
});

const before: Standing = { settings: { x: 0.85, y: 0.2 }, fileTransform: null };
const steps = { x: 0.05, y: 0.05 };
const typed: Ended = {
  settings: { x: 0.95, y: 0.2 },
  fileTransform: null,
  corrected: true,
  outcome: 'plumb',
};

test.each<[string, Ended, boolean, string | null]>([
  ['proved', typed, false, 'proved'],
  ['proved, though leaning', { ...typed, outcome: 'leaning' }, false, 'proved'],
  ['read and out of plumb: what stood before stands', { ...typed, outcome: 'out-of-plumb' }, false, null],
  ['read and out of plumb, accepted', { ...typed, outcome: 'out-of-plumb' }, true, 'accepted'],
  ['not read', { ...typed, outcome: null }, false, null],
  ['not read, accepted', { ...typed, outcome: null }, true, 'accepted'],
  ['the same figures: nothing new', { ...typed, settings: before.settings }, false, null],
  ['measured at other figures and left so: they are proved', { ...typed, corrected: false }, false, 'proved'],
  [
    'nothing was corrected: nothing can be accepted',
    { ...typed, corrected: false, outcome: null },
    true,
    null,
  ],
  [
    'only the file differs',
    { ...typed, settings: before.settings, fileTransform: { ...IDENTITY, tx: 0.1 } },
    false,
    'proved',
  ],
])('after a calibration: %s', (_, ended, accepted, source) => {
  expect(standingAfter(before, ended, steps, accepted)?.source ?? null).toBe(source);
});

test('a setting that only one of them knows does not tell two standings apart', () => {
  expect(sameStanding(before, { ...before, settings: { x: 0.85 } }, steps)).toBe(true);
  expect(sameStanding(before, { ...before, settings: { x: 0.9 } }, steps)).toBe(false);
});
