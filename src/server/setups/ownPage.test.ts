import { ownPages } from '@/db/schema';
import { addRig } from '@/server/rigs/writeRig';
import { freshDeps } from '@test/database';

import { keepOwnPage, ownPagesOf, takeBackOwnPage } from './ownPage';

/* Runs of a machine's own calibration: kept once, bounded, taken back. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
beforeAll(async () => {
  deps = await freshDeps('own_page');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Rig', printer: 'p', cutter: 'c', media: 'film', settings: [], changeable: 'machine-page' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, toleranceMm: 0.4 },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
});
afterAll(() => deps.close());

const run = (given: object = {}) => ({
  ...{ setupId, medium: 'film', across: -2, along: 5, lowest: -5, highest: 5, ...given },
});

test('a run is kept once however often it is sent, and says which pick was the last on the page', async () => {
  const request = crypto.randomUUID();
  const kept = await Promise.all([
    keepOwnPage(deps, 'KT', run(), { request }),
    keepOwnPage(deps, 'KT', run(), { request }),
  ]);
  expect(kept).toEqual(Array(2).fill({ ok: true, value: { atEnd: ['along'] } }));
  expect(await ownPagesOf(deps, setupId)).toMatchObject([{ across: -2, along: 5, by: 'KT', medium: 'film' }]);
});

test.each([
  ['a pick beyond the page', { across: 6 }, 'across'],
  ['a page from high to low', { lowest: 5, highest: -5 }, 'highest'],
  ['no pick', { along: Number.NaN }, 'along'],
  ['no medium', { medium: ' ' }, 'medium'],
])('%s is refused at its field', async (_, wrong, field) => {
  const answer = await keepOwnPage(deps, 'KT', run(wrong));
  expect(answer).toMatchObject({ ok: false, refusal: { code: 'invalid-input' } });
  expect(Object.keys((answer as { refusal: { fields: object } }).refusal.fields)).toEqual([field]);
});

test('of no setup there is none; taken back by two at once it is gone once and stays in the log', async () => {
  expect(await keepOwnPage(deps, 'KT', run({ setupId: crypto.randomUUID() }))).toMatchObject({
    refusal: { code: 'not-found' },
  });
  const [kept] = await ownPagesOf(deps, setupId);
  const both = await Promise.all([
    takeBackOwnPage(deps, 'KT', kept!.id),
    takeBackOwnPage(deps, 'MO', kept!.id),
  ]);
  expect(both.map((b) => b.ok).sort()).toEqual([false, true]);
  expect(await ownPagesOf(deps, setupId)).toEqual([]);
  expect(await deps.db.select().from(ownPages)).toHaveLength(1);
});
