import { newRigSchema, rigInputSchema, setupInputSchema } from '@/server/setups/shapes';

import { plainSetup } from '@test/setups';

import { readShopForm } from './readShopForm';
import { emptyShop, emptySetting, shopFieldsOf } from './shopFields';

const filled = () => ({ ...emptyShop('mm'), name: 'Card rig', printer: 'p', cutter: 'c', media: 'card' });

test('the form as it opens is a sound rig once it has its names, in mm and in inches', () => {
  for (const unit of ['mm', 'in'] as const) {
    const { input, errors } = readShopForm(
      { ...emptyShop(unit), name: 'a', printer: 'b', cutter: 'c', media: 'd' },
      unit,
    );
    expect(errors).toEqual({});
    const parsed = newRigSchema.safeParse(input);
    expect(parsed.success && parsed.data.sheetWidthMm).toBeCloseTo(210, 2);
  }
});

test('lengths are read in the user’s unit, a machine’s figures in the machine’s own', () => {
  const settings = [
    { ...emptySetting('X', 'left'), unit: 'in' as const, value: '1/16', step: '.005', max: '1' },
  ];
  const { input } = readShopForm({ ...filled(), sheetWidthMm: '8 1/2', settings }, 'in');
  expect(input.sheetWidthMm).toBeCloseTo(215.9, 9);
  expect(input.settings).toMatchObject([
    { value: 0.0625, step: 0.005, min: null, max: 1, direction: 'left' },
  ]);
});

test('every unreadable figure is named by its own field', () => {
  const settings = [{ ...emptySetting('X', 'left'), value: 'about 1', step: '', min: 'x' }];
  const { errors } = readShopForm({ ...filled(), areaWidthMm: '', toleranceMm: 'NaN', settings }, 'mm');
  expect(Object.keys(errors).sort()).toEqual([
    'areaWidthMm',
    'settings.0.min',
    'settings.0.step',
    'settings.0.value',
    'toleranceMm',
  ]);
});

test('a rig shown in the form and read back is the same rig', () => {
  const { input } = readShopForm(filled(), 'mm');
  const r = newRigSchema.parse(input);
  const setup = {
    ...plainSetup(),
    version: 1,
    simulated: false,
    archived: false,
    feedPercent: null,
    feedSetAt: null,
    bobFirst: null,
    ...r,
    workArea: {
      x0: r.marginLeftMm,
      y0: r.marginNearMm,
      x1: r.marginLeftMm + r.areaWidthMm,
      y1: r.marginNearMm + r.areaHeightMm,
    },
    settings: [],
  };
  for (const unit of ['mm', 'in'] as const) {
    const back = readShopForm(shopFieldsOf(setup, unit), unit).input;
    expect(back.areaHeightMm).toBeCloseTo(r.areaHeightMm, 2);
    expect(back.toleranceMm).toBeCloseTo(r.toleranceMm, 2);
    const { roll } = newRigSchema.parse(back);
    expect(roll.leadMm).toBeCloseTo(300, 2);
    expect(roll).toMatchObject({ longestMm: null, testCutTurned: false });
  }
});

test('marks that differ by side or corner are read, shown, and led back to their fields', () => {
  const marks = {
    ...filled().marks,
    count: '4',
    clearSidesMm: { ...filled().marks.clearSidesMm, far: '9' },
    shapes: { ...filled().marks.shapes, 'near left': 'square' as const },
    frame: true,
    laidBy: 'program' as const,
  };
  const { input, errors } = readShopForm({ ...filled(), marks }, 'mm', 'setup');
  expect(errors).toEqual({});
  expect(input).not.toHaveProperty('name');
  const kit = setupInputSchema.parse(input).marks!;
  expect(kit).toMatchObject({
    clearSidesMm: { far: 9 },
    shapes: { 'near left': 'square' },
    frame: true,
    laidBy: 'program',
  });
  const back = shopFieldsOf(plainSetup({ marks: kit }), 'mm').marks;
  expect(back).toMatchObject({
    clearSidesMm: { far: '9', left: '' },
    shapes: { 'near left': 'square', 'far left': '' },
    frame: true,
  });
  const wrong = { ...marks, clearSidesMm: { ...marks.clearSidesMm, far: 'x' } };
  expect(readShopForm({ ...filled(), marks: wrong }, 'mm').errors).toHaveProperty(['marks.clearSidesMm.far']);
  // A frame of three corners is none.
  expect(setupInputSchema.safeParse({ ...input, marks: { ...kit, count: 3 } }).success).toBe(false);
});

test('a setting in the machine’s own words is kept as typed; a rig’s form sends nothing of its media', () => {
  const words = {
    there: 'OFST-X',
    keys: 'menu, 4, down',
    state: 'offline',
    notFirst: 'reset',
    after: 'online',
  };
  const settings = [
    { ...emptySetting('X', 'left'), words, kept: 'per-medium' as const, on: 'printer' as const },
  ];
  const { input } = readShopForm({ ...filled(), settings }, 'mm', 'rig');
  expect(input).not.toHaveProperty('media');
  expect(rigInputSchema.parse(input).settings[0]).toMatchObject({ words, kept: 'per-medium', on: 'printer' });
});
