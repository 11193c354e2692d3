import { z } from 'zod';

import { before, codec, StoredMismatch } from './codec';
import { sheetGeometry } from './sessions';
import { setupMarks, setupRoll } from './setups';
import { frozenPlanOf } from './runs';

const now = z.object({ leadMm: z.number(), sides: z.array(z.string()) });
const column = codec('rolls.kit', now, [
  before(z.object({ leadMm: z.number(), side: z.string() }), (o) => ({ leadMm: o.leadMm, sides: [o.side] })),
  before(z.object({ leadCm: z.number() }), (o) => ({ leadMm: 10 * o.leadCm, sides: [] })),
]);

test.each([
  ['today’s shape', { leadMm: 5, sides: ['left'] }, { leadMm: 5, sides: ['left'] }],
  ['the one before', { leadMm: 5, side: 'left' }, { leadMm: 5, sides: ['left'] }],
  ['the oldest', { leadCm: 0.5 }, { leadMm: 5, sides: [] }],
])('%s is read as today’s', (_, value, meant) => {
  expect(column.read(value)).toEqual(meant);
});

test.each([[null], ['5'], [{ leadMm: '5', sides: [] }], [[]]])('%p is called ours to mend', (value) => {
  expect(() => column.read(value)).toThrow(StoredMismatch);
  expect(() => column.read(value)).toThrow(/rolls\.kit/);
});

test('an empty column is null, a wrong one is not', () => {
  expect(column.orNull(null)).toBeNull();
  expect(() => column.orNull({})).toThrow(StoredMismatch);
});

test('what forms have come to refuse is still read when it is stored', () => {
  const kit = {
    ...{ count: 4, shape: 'disc', sizeMm: 0.5, lineMm: 20, colour: 'black', clearMm: 2000 },
    ...{ insetLeftMm: -1, insetRightMm: 9, insetNearMm: 9, insetFarMm: 9, everyMm: 5 },
    ...{ leading: 'near left', leadSign: 'none', printerEdgeMm: 3, sensorEdgeMm: 3 },
  };
  expect(setupMarks.read(kit)).toMatchObject({ sizeMm: 0.5, everyMm: 5 });
  expect(setupRoll.read({ leadMm: 99_999 }).leadMm).toBe(99_999);
});

test('a plan that is not whole is not taken for one', () => {
  expect(() => frozenPlanOf.read({ version: 'roll-1' })).toThrow(StoredMismatch);
});

test('a sheet of before marks had a zone of their own is laid out over its work area', () => {
  const workArea = { x0: 10, y0: 10, x1: 90, y1: 90 };
  const comb = { axis: 'across', centre: { x: 50, y: 50 }, stepMm: 0.1, halfLines: 10, phaseMm: 0 };
  const old = {
    version: 'proof-1',
    spec: {
      ...{ sheetWidthMm: 100, sheetHeightMm: 100, workArea, columns: 1, rows: 1, secondSet: false },
      ...{ unit: 'mm', stepMm: 0.1, seed: 1 },
    },
    stations: [
      {
        ...{ id: 'A1', set: 1, centre: { x: 50, y: 50 }, scaleCentre: { x: 50, y: 60 } },
        ...{ across: comb, along: { ...comb, axis: 'along' } },
      },
    ],
  };
  expect(sheetGeometry.read(old)).toMatchObject({ layoutArea: workArea, spec: { marks: null } });
  const zone = { x0: 20, y0: 20, x1: 80, y1: 80 };
  expect(sheetGeometry.read({ ...old, layoutArea: zone }).layoutArea).toEqual(zone);
});
