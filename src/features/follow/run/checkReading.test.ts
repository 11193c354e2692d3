import { type CheckWay } from '@/core/setup';
import fc from 'fast-check';

import type { LengthUnit } from '@/core/units';

import {
  missScale,
  NOTHING_TYPED,
  nudged,
  offsetsText,
  readCheck,
  withOffset,
  withTyped,
  withWay,
  type TypedCheck,
} from './checkReading';

const typed = (more: Partial<TypedCheck>): TypedCheck => ({ ...NOTHING_TYPED, ...more });
const back = { further: false } as const;
const gaps = { left: '1.0', rightGap: '1.4', near: '1.5', far: '1.1' } as const;

test.each<[string, CheckWay, LengthUnit, Partial<TypedCheck>, string | null]>([
  ['nothing', 'comb', 'mm', {}, null],
  ['one direction only', 'comb', 'mm', { along: '0.3', further: true }, '0.30 mm further along'],
  ['a size of which nobody said the side', 'comb', 'mm', { along: '0.3' }, null],
  ['nought needs no side', 'comb', 'mm', { along: '0' }, '0.00 mm'],
  [
    'back and left by the buttons',
    'comb',
    'mm',
    { ...back, along: '0.3', across: '.1', right: false },
    '0.30 mm back and 0.10 mm left',
  ],
  [
    'a minus that is typed does not turn the button round',
    'comb',
    'mm',
    { ...back, along: '-0.3' },
    '0.30 mm back',
  ],
  ['inches where inches are chosen', 'ruler', 'in', { across: '0.01', right: true }, '0.010 in right'],
  ['a unit that is typed wins', 'ruler', 'in', { across: '1 mm', right: true }, '0.039 in right'],
  ['gaps: wider right, narrower far', 'gaps', 'mm', gaps, '0.20 mm back and 0.20 mm right'],
  ['gaps of one pair', 'gaps', 'mm', { left: '1', rightGap: '1' }, '0.00 mm'],
  ['what was typed for a comb says nothing about gaps', 'gaps', 'mm', { along: '0.3' }, null],
])('%s', (_, way, unit, fields, words) => {
  const read = readCheck(typed(fields), way, unit);
  expect(read.errors).toEqual({});
  expect(offsetsText(read.offsets, unit)).toBe(words);
});

test.each<[string, CheckWay, Partial<TypedCheck>, string, RegExp]>([
  ['a word', 'comb', { along: 'a bit' }, 'along', /“a bit” is not a length/],
  ['a thousand or a decimal', 'ruler', { across: '1,250' }, 'across', /decimal or a thousand/],
  ['a gap without its partner', 'gaps', { left: '1' }, 'rightGap', /Both gaps of the pair/],
  [
    'its partner wrong: that is said, not that it is missing',
    'gaps',
    { near: '1', far: 'x' },
    'far',
    /not a length/,
  ],
])('%s is told by its field', (_, way, fields, name, words) => {
  const { errors, offsets } = readCheck(typed(fields), way, 'mm');
  expect(errors).toEqual({ [name]: expect.stringMatching(words) });
  expect(offsets).toEqual({ dxMm: null, dyMm: null });
});

test('a typed sign presses the button; a pressed button takes the sign away', () => {
  const minus = withTyped(NOTHING_TYPED, 'along', '−0.4');
  expect(readCheck(minus, 'comb', 'mm').offsets.dyMm).toBe(-0.4);
  const further = withWay(minus, 'along', true);
  expect(further).toMatchObject({ along: '0.4', further: true });
  // A sign in a gap turns nothing: gaps inside the print are negative.
  expect(withTyped(NOTHING_TYPED, 'left', '-0.2')).toMatchObject({
    left: '-0.2',
    right: null,
    further: null,
  });
});

test('what the picture puts in is what the fields say, in either unit', () => {
  const axis = fc.constantFrom('across' as const, 'along' as const);
  const unit = fc.constantFrom<LengthUnit>('mm', 'in');
  fc.assert(
    fc.property(axis, fc.double({ min: -6, max: 6, noNaN: true }), unit, (which, mm, u) => {
      const { dxMm, dyMm } = readCheck(withOffset(NOTHING_TYPED, which, mm, u), 'comb', u).offsets;
      expect(which === 'across' ? dyMm : dxMm).toBeNull();
      // Fields hold a micrometre, or a ten-thousandth of an inch.
      expect(Math.abs((which === 'across' ? dxMm! : dyMm!) - mm)).toBeLessThanOrEqual(
        u === 'mm' ? 5.1e-4 : 1.3e-3,
      );
    }),
  );
});

test('arrow keys there and back again end where they began, in coarse and fine steps', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom('ArrowRight', 'ArrowUp'), fc.boolean()), { maxLength: 30 }),
      (presses) => {
        let at = { dxMm: null as number | null, dyMm: null as number | null };
        const press = (key: string, fine: boolean): void => {
          const { axis, mm } = nudged(at, key, fine, 'mm')!;
          at = axis === 'across' ? { ...at, dxMm: mm } : { ...at, dyMm: mm };
        };
        for (const [key, fine] of presses) press(key, fine);
        for (const [key, fine] of presses) press(key === 'ArrowUp' ? 'ArrowDown' : 'ArrowLeft', fine);
        expect(at.dxMm ?? 0).toBeCloseTo(0, 9);
        expect(at.dyMm ?? 0).toBeCloseTo(0, 9);
      },
    ),
  );
  expect(nudged({ dxMm: 0, dyMm: 0 }, 'Tab', false, 'mm')).toBeNull();
});

test('what is allowed and what was read stay in the picture, at a scale that seldom changes', () => {
  const mm = fc.double({ min: -8, max: 8, noNaN: true });
  fc.assert(
    fc.property(mm, mm, fc.double({ min: 0.05, max: 3, noNaN: true }), (dxMm, dyMm, tolerance) => {
      const scale = missScale({ dxMm, dyMm }, tolerance, 52);
      for (const shown of [tolerance, Math.abs(dxMm), Math.abs(dyMm)])
        expect(scale * shown).toBeLessThanOrEqual(52 + 1e-9);
      const steps = Math.log2(missScale({ dxMm: 0, dyMm: 0 }, tolerance, 52) / scale);
      expect(steps).toBeCloseTo(Math.round(steps), 9);
    }),
  );
});
