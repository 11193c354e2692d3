import fc from 'fast-check';

import { fromMm, parseLength, type LengthUnit } from '@/core/units';
import type { Run } from '@/server/runs/run';
import { plainSetup } from '@test/setups';

import { fieldsOf, initialFields, inOtherUnit, plannedFrom, writeDraft, type PlanFields } from './planFields';
import { readDraft, readFields } from './readPlan';

const RIG = plainSetup({ roll: { ...plainSetup().roll, leadMm: 420, tailMm: 180 } });

test.each(['mm', 'in'] as const)('the form as it opens can be planned, in %s', (unit) => {
  const read = readFields(initialFields(RIG, unit), unit, null);
  expect(read.ok).toBe(true);
  if (!read.ok) return;
  expect(read.request).toMatchObject({ copies: 400, promise: 0.01, outline: 'rectangle' });
  expect(read.request.printableWidthMm).toBeCloseTo(1310, 0);
  expect(read.request.leadMm).toBeCloseTo(420, 1);
  expect(read.request.tailMm).toBeCloseTo(180, 1);
});

test.each<[keyof PlanFields, string, RegExp]>([
  ['copies', 'ninety', /Type a number, for example 96/],
  ['copies', '0', /at least one copy/],
  ['copies', '2.5', /whole number/],
  ['itemWidth', '', /length/],
  ['itemHeight', '-3', /more than 0 mm/],
  ['gap', 'x', /“x” is not a length/],
  ['tolerance', '0.001', /nobody sees less/],
  ['promise', '80', /every other item/],
  ['lanes', '40', /twenty lanes/],
  ['lead', '-1', /cannot be negative/],
  ['rollLeft', 'plenty', /“plenty” is not a length/],
  ['printSpeed', '', /for example 8/],
])('%s “%s” is refused by its own field', (name, typed, message) => {
  const read = readFields({ ...initialFields(RIG, 'mm'), [name]: typed }, 'mm', null);
  expect(read.ok).toBe(false);
  if (!read.ok) expect(read.errors).toEqual({ [name]: expect.stringMatching(message) as string });
});

test('a form opens with the speeds of the rig’s last plan, in either unit', () => {
  const speeds = { printMmPerHour: 12_345, cutMmPerS: 87.5, registerS: 45, waitS: 90 };
  for (const unit of ['mm', 'in'] as const) {
    const fields = initialFields(RIG, unit, { speeds, oneMachine: true, betweenMm: 22 });
    const read = readFields(fields, unit, null);
    expect(read).toMatchObject({ ok: true, request: { oneMachine: true } });
    if (!read.ok) continue;
    const { printMmPerHour, cutMmPerS, ...times } = read.request.speeds;
    expect(times).toEqual({ registerS: 45, waitS: 90 });
    // Shown to a thousandth of a foot and a ten-thousandth of an inch.
    expect(Math.abs(printMmPerHour - 12_345)).toBeLessThan(unit === 'mm' ? 1e-9 : 0.16);
    expect(Math.abs(cutMmPerS - 87.5)).toBeLessThan(unit === 'mm' ? 1e-9 : 0.0013);
    expect(read.ok && read.request.betweenMm).toBeCloseTo(22, 2);
  }
});

test('a run that is planned again fills the form so that it asks for the same, in either unit', () => {
  const lengths = fc.integer({ min: 10, max: 30_000 }).map((tenths) => tenths / 10);
  fc.assert(
    fc.property(
      lengths,
      lengths,
      fc.integer({ min: 1, max: 9999 }),
      fc.boolean(),
      fc.constantFrom('mm', 'in'),
      (w, h, copies, flag, unit) => {
        const opened = {
          ...initialFields(RIG, 'mm'),
          itemWidth: String(w),
          itemHeight: String(h),
          mayTurn: flag,
          promise: '0.7',
        };
        const read = readFields(opened, 'mm', null);
        if (!read.ok) throw new Error('the form as it opens can be planned');
        const again = readFields(
          fieldsOf({ name: 'labels', request: read.request, copies }, RIG, unit as LengthUnit),
          unit as LengthUnit,
          null,
        );
        if (!again.ok) throw new Error(JSON.stringify(again.errors));
        const { item, copies: wanted, ...rest } = again.request;
        expect(wanted).toBe(copies);
        expect(item.widthMm).toBeCloseTo(w, 1);
        expect(item.heightMm).toBeCloseTo(h, 1);
        expect(rest).toMatchObject({
          mayTurn: flag,
          promise: expect.closeTo(0.007, 9) as number,
          lanes: read.request.lanes,
        });
        for (const [name, of] of Object.entries(read.request.speeds))
          expect(rest.speeds[name as keyof typeof rest.speeds] / Math.max(1, of)).toBeCloseTo(
            Math.min(1, of),
            4,
          );
        expect(rest.toleranceMm).toBeCloseTo(read.request.toleranceMm, 2);
      },
    ),
    { numRuns: 60 },
  );
});

test('a run that was cut along a file of its own keeps it when it is planned again, whole or the rest', () => {
  const read = readFields({ ...initialFields(RIG, 'mm'), name: 'labels' }, 'mm', 412);
  if (!read.ok) throw new Error('the form as it opens can be planned');
  const plan = { request: read.request, imposition: { copies: 400 } } as unknown as Run['plan'];
  const run = { id: 'r', label: 'R009', name: 'labels', plan, itemFile: '<svg/>' };
  const again = plannedFrom(run, null, RIG, 'mm');
  expect(again).toMatchObject({ key: 'again r', fields: { name: 'labels', copies: '400' } });
  expect(again.item).toEqual({ name: 'the item of R009', content: '<svg/>', cutLengthMm: 412 });
  const rest = plannedFrom({ ...run, itemFile: null }, 24, RIG, 'mm');
  expect(rest).toMatchObject({ key: 'rest r 24', fields: { copies: '24' }, item: null });
});

test('every field that is wrong is named at once', () => {
  const read = readFields({ ...initialFields(RIG, 'mm'), copies: 'x', gap: 'y', wait: 'z' }, 'mm', null);
  expect(read.ok ? [] : Object.keys(read.errors).sort()).toEqual(['copies', 'gap', 'wait']);
});

test('another unit shows the same lengths; what cannot be read stays as typed; figures without length stay', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 200_000 }), (hundredths) => {
      const fields = { ...initialFields(RIG, 'mm'), itemWidth: String(hundredths / 100), gap: 'about 3' };
      const inches = inOtherUnit(fields, 'mm', 'in');
      const shown = parseLength(inches.itemWidth, 'in');
      // Shown to a ten-thousandth of an inch.
      expect(shown.ok && Math.abs(fromMm(shown.value, 'mm') - hundredths / 100)).toBeLessThan(0.0013);
      expect(inches).toMatchObject({ gap: 'about 3', copies: '400', printSpeed: '26.247', rollLeft: '' });
    }),
  );
});

test('a draft comes back in the unit in use, and anything else is no draft', () => {
  const fields: PlanFields = {
    ...initialFields(RIG, 'in'),
    itemWidth: '8',
    copies: 'ninety',
    rowsPerSection: 7,
  };
  expect(readDraft(writeDraft(fields, 'in'), 'in')).toEqual(fields);
  expect(readDraft(writeDraft(fields, 'in'), 'mm')).toMatchObject({ itemWidth: '203.2', copies: 'ninety' });
  for (const kept of [
    null,
    '',
    '{',
    '[]',
    '{"unit":"mm"}',
    writeDraft({ ...fields, strategy: 'x' as never }, 'in'),
  ])
    expect(readDraft(kept, 'mm')).toBeNull();
});
