import fc from 'fast-check';

import { TooBusy } from '../base/failure';

import { Room } from './room';

const soon = (ms = 1): Promise<void> => new Promise((done) => setTimeout(done, ms));

test('property: never more inside than there is room for, in the order in which they came, and all of them in the end', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.integer({ min: 1, max: 14 }), { minLength: 1, maxLength: 24 }),
      async (weights) => {
        const room = new Room(10, { waiting: 100, waitMs: 5000 });
        let inside = 0;
        const entered: number[] = [];
        await Promise.all(
          weights.map((weight, i) =>
            room.within(weight, async () => {
              entered.push(i);
              inside += Math.min(10, weight);
              expect(inside).toBeLessThanOrEqual(10);
              await soon();
              inside -= Math.min(10, weight);
            }),
          ),
        );
        expect(entered).toEqual(weights.map((_, i) => i));
      },
    ),
    { numRuns: 30 },
  );
});

test('what fails leaves the room as what works does', async () => {
  const room = new Room(1, { waiting: 5, waitMs: 1000 });
  for (let i = 0; i < 3; i += 1)
    await expect(room.within(1, () => Promise.reject(new Error('no')))).rejects.toThrow('no');
  expect(await room.within(1, () => Promise.resolve('yes'))).toBe('yes');
});

test('too many waiting, or waiting too long: told to come again; who goes away holds no place', async () => {
  const room = new Room(1, { waiting: 2, waitMs: 40 });
  let free = (): void => undefined;
  const long = room.within(1, () => new Promise<void>((done) => (free = done)));
  const went = new AbortController();
  const gone = room.within(1, () => Promise.resolve('gone'), went.signal);
  const late = room.within(1, () => Promise.resolve('late'));
  await expect(room.within(1, () => Promise.resolve('much'))).rejects.toBeInstanceOf(TooBusy);
  went.abort(new Error('away'));
  await expect(gone).rejects.toThrow('away');
  await expect(late).rejects.toBeInstanceOf(TooBusy);
  const patient = room.within(1, () => Promise.resolve('served'));
  free();
  await long;
  expect(await patient).toBe('served');
});
