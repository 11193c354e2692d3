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

const axis = (pick: string, from = '-5', to = '5', middle = '') => ({ pick, from, to, middle });
const run = (given: object = {}) => ({
  ...{ setupId, medium: 'film', across: axis('-2'), along: axis('K', 'A', 'K'), ...given },
});

test('a run is kept once however often it is sent, and says which pick was the last on the page', async () => {
  const request = crypto.randomUUID();
  const kept = await Promise.all([
    keepOwnPage(deps, 'KT', run(), { request }),
    keepOwnPage(deps, 'KT', run(), { request }),
  ]);
  expect(kept).toEqual(Array(2).fill({ ok: true, value: { atEnd: ['along'] } }));
  expect(await ownPagesOf(deps, setupId)).toMatchObject([
    { across: axis('-2'), along: axis('K', 'A', 'K'), by: 'KT', medium: 'film' },
  ]);
});

test.each([
  ['a pick beyond the page', { across: axis('6') }, 'across.pick'],
  ['a letter on a page of numbers', { across: axis('C') }, 'across.pick'],
  ['a page from last to first', { across: axis('1', '5', '-5') }, 'across.to'],
  ['ends of two kinds', { along: axis('C', 'A', '9') }, 'along.to'],
  ['a middle that the page has not', { along: axis('C', 'A', 'K', 'R') }, 'along.middle'],
  ['no pick', { along: axis('', 'A', 'K') }, 'along.pick'],
  ['no range', { along: axis('C', '', '') }, 'along.from'],
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
