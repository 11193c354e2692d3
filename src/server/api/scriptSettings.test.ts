import fc from 'fast-check';

import { applyAffine } from '@/core/geometry';

import { settingsForScript, settingsRequestSchema } from './scriptSettings';

const workArea = { x0: 10, y0: 15, x1: 200, y1: 285 };
const middle = { x: 105, y: 150 };
const still = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 0, ty: 0 };
const offset = (id: string, direction: string, more: object = {}) => ({
  id,
  value: 0,
  step: 0.001,
  effect: { kind: 'offset', unit: 'mm', direction },
  ...more,
});
const both = [offset('X', 'right'), offset('Y', 'further')];
const ask = (body: object) =>
  settingsForScript(settingsRequestSchema.parse({ settings: both, workArea, map: still, ...body }));

test('offsets undo a shift to their step, whichever way they count and whatever they stood at', () => {
  const shift = fc.double({ min: -5, max: 5, noNaN: true });
  fc.assert(
    fc.property(
      shift,
      shift,
      fc.constantFrom('left', 'right'),
      fc.constantFrom('further', 'back'),
      shift,
      (tx, ty, x, y, at) => {
        const said = ask({
          map: { ...still, tx, ty },
          settings: [offset('X', x, { value: at }), offset('Y', y)],
        });
        const [cx, cy] = ['X', 'Y'].map((id) => said.changes.find((c) => c.id === id)!);
        expect(cx!.to - at).toBeCloseTo(x === 'right' ? -tx : tx, 2);
        expect(cy!.to).toBeCloseTo(y === 'further' ? -ty : ty, 2);
        expect(said.leftOver.largestMm).toBeLessThanOrEqual(0.0015);
        expect(said.before.rmsMm).toBeCloseTo(Math.hypot(tx, ty), 9);
        // What is left over is a map of its own: T after typing.
        const left = applyAffine(said.leftOver.map, middle);
        expect(Math.hypot(left.x - middle.x, left.y - middle.y)).toBeLessThanOrEqual(0.0015);
      },
    ),
  );
});

test('a scale of 1 ‰ is typed as percent, as a length, or as it was measured; a turn that nothing undoes stays', () => {
  const long = { ...still, a22: 1.001 };
  const scale = { id: 'feed', value: 100, step: 0.001 };
  const percent = { ...scale, effect: { kind: 'scale', unit: 'percent', direction: 'longer' } };
  const length = {
    ...scale,
    value: 1000,
    effect: { kind: 'length', unit: 'mm', direction: 'longer', nominalMm: 1000 },
  };
  const measured = { ...scale, effect: { b22: 0.01 } };
  const typed = (setting: object): number => {
    const said = ask({ map: long, settings: [...both, setting] });
    expect(said.leftOver.rmsMm).toBeLessThan(0.002);
    return said.changes.find((c) => c.id === 'feed')!.to;
  };
  expect(typed(percent)).toBeCloseTo(99.9, 2);
  expect(typed(length)).toBeCloseTo(999, 1);
  expect(typed(measured)).toBeCloseTo(99.9, 2);
  const turned = ask({ map: { ...still, a12: -0.001, a21: 0.001, tx: 0.15, ty: -0.105 } });
  // Turned by 1 mrad about the middle: half a diagonal of 330 mm away the cut is 0.165 mm off.
  expect(turned.leftOver.largestMm).toBeCloseTo(0.165, 3);
});

test('a range is kept: what it cuts off is left over', () => {
  const said = ask({ map: { ...still, tx: 3 }, settings: [offset('X', 'left', { min: -1, max: 1 })] });
  expect(said.changes.find((c) => c.id === 'X')!.to).toBe(1);
  expect(said.leftOver.largestMm).toBeCloseTo(2, 9);
});

test.each<[string, object, RegExp]>([
  ['no settings', { settings: [] }, /at least one setting/],
  [
    'nine settings',
    { settings: Array.from({ length: 9 }, (_, i) => offset(`s${i}`, 'left')) },
    /At most eight/,
  ],
  ['two of one id', { settings: [both[0], both[0]] }, /same id/],
  ['a step of nothing', { settings: [offset('X', 'right', { step: 0 })] }, /more than 0/],
  ['a range inside out', { settings: [offset('X', 'right', { min: 2, max: 1 })] }, /above the lowest/],
  [
    'an offset in percent',
    { settings: [offset('X', 'right', { effect: { kind: 'offset', unit: 'percent', direction: 'right' } })] },
    /unit does not belong/,
  ],
  ['an offset that widens', { settings: [offset('X', 'wider')] }, /direction does not belong/],
  [
    'a length without its length',
    { settings: [offset('L', 'longer', { effect: { kind: 'length', unit: 'mm', direction: 'longer' } })] },
    /needs “nominalMm”/,
  ],
  [
    'an effect of unknown fields',
    { settings: [offset('X', 'right', { effect: { b33: 1 } })] },
    /Unrecognized key: "b33"/,
  ],
  [
    'an effect of another kind',
    { settings: [offset('X', 'right', { effect: { kind: 'twist' } })] },
    /“effect” is/,
  ],
  ['a map that folds', { map: { ...still, a11: -1 } }, /folds the sheet over/],
  ['an area inside out', { workArea: { ...workArea, x1: 0 } }, /x1 above x0/],
  ['text for a value', { settings: [offset('X', 'right', { value: '0' })] }, /must be a number/],
])('%s is refused with a sentence', (_, body, words) => {
  const parsed = settingsRequestSchema.safeParse({ settings: both, workArea, map: still, ...body });
  expect(parsed.success ? '' : parsed.error.issues.map((i) => i.message).join(' ')).toMatch(words);
});

test('a setting that moves nothing, or next to nothing, is refused in words; among a thousand odd ones none counts without end', () => {
  const refused = (effect: object, more: object = {}): string => {
    const settings = [...both, { id: 'Z', value: 0, step: 0.01, effect, ...more }];
    const parsed = settingsRequestSchema.safeParse({ settings, workArea, map: still });
    return parsed.success ? 'taken' : parsed.error.issues[0]!.message;
  };
  expect(refused({})).toMatch(/“Z” moves the cut nowhere/);
  expect(refused({ dxMm: 1e-12 })).toMatch(/moves the cut nowhere/);
  expect(refused({ dxMm: 1 }, { step: 1e-12 })).toMatch(/moves the cut nowhere/);
  expect(refused({ dxMm: 1 })).toBe('taken');
  const tiny = fc.constantFrom(0, 1e-9, -1e-7, 1e-4, 1, -3);
  fc.assert(
    fc.property(tiny, tiny, tiny, fc.constantFrom(1e-6, 1e-3, 1, 1e6), (dxMm, dyMm, b11, step) => {
      const settings = ['A', 'B'].map((id) => ({ id, value: 0, step, effect: { dxMm, dyMm, b11 } }));
      const body = { settings, workArea, map: { ...still, tx: 0.4, a11: 1.001 } };
      const parsed = settingsRequestSchema.safeParse(body);
      if (parsed.success)
        expect(settingsForScript(parsed.data).leftOver.rmsMm).toBeLessThanOrEqual(
          settingsForScript(parsed.data).before.rmsMm + 1e-9,
        );
    }),
    { numRuns: 200 },
  );
});
