import { addRig } from '@/server/rigs/writeRig';
import { addSetup } from '@/server/setups/writeSetup';
import { freshDeps } from '@test/database';

import { noteTried, remediesFor, takeBackTried } from './remedies';

const SIZE = {
  ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
  ...{ areaWidthMm: 190, areaHeightMm: 270, toleranceMm: 0.4 },
};
let deps: Awaited<ReturnType<typeof freshDeps>>;
let rigId: string;
let gloss: string;
let matt: string;
beforeAll(async () => {
  deps = await freshDeps('remedies');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Rig', printer: 'printer', cutter: 'cutter', media: 'gloss film', settings: [], ...SIZE },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ rigId, setupId: gloss } = added.value);
  const second = await addSetup(deps, 'KT', { rigId, media: 'matt card', ...SIZE });
  if (!second.ok) throw new Error(JSON.stringify(second.refusal));
  matt = second.value.setupId;
});
afterAll(() => deps.close());

const place = async (setupId: string | null, remedy = 'matte'): Promise<number> =>
  (await remediesFor(deps, setupId)).order.findIndex((r) => r.id === remedy);

test('what helped on a medium comes earlier there, a little on the rig’s others, and less again elsewhere', async () => {
  const before = await place(gloss);
  for (let i = 0; i < 4; i += 1)
    expect(await noteTried(deps, 'KT', { setupId: gloss, remedy: 'matte', worked: true })).toMatchObject({
      ok: true,
    });
  const [here, rig, shop] = [await place(gloss), await place(matt), await place(null)];
  expect(here).toBeLessThan(before);
  expect(here).toBeLessThan(rig);
  expect(rig).toBeLessThanOrEqual(shop);
  const found = await remediesFor(deps, gloss);
  expect(found.setups.map((s) => s.words)).toEqual(['Rig / gloss film', 'Rig / matt card']);
  expect(found.order.find((r) => r.id === 'matte')).toMatchObject({ worked: 4, tried: 4 });
});

test('sent twice it is written once; what was pressed by mistake is taken back and does not count', async () => {
  const before = await place(matt, 'dust');
  const request = crypto.randomUUID();
  const given = { setupId: matt, remedy: 'dust', worked: true };
  const [one, two] = await Promise.all([
    noteTried(deps, 'KT', given, { request }),
    noteTried(deps, 'KT', given, { request }),
  ]);
  expect(one).toEqual(two);
  if (!one.ok) throw new Error('kept');
  expect((await remediesFor(deps, matt)).order.find((r) => r.id === 'dust')).toMatchObject({ tried: 1 });
  expect((await takeBackTried(deps, 'KT', one.value.triedId)).ok).toBe(true);
  expect(await takeBackTried(deps, 'KT', one.value.triedId)).toMatchObject({
    refusal: { code: 'not-found' },
  });
  expect(await place(matt, 'dust')).toBe(before);
});

test.each([
  [{ setupId: 'x', remedy: 'dust', worked: true }, 'invalid-input'],
  [{ setupId: '00000000-0000-4000-8000-000000000000', remedy: 'dust', worked: true }, 'not-found'],
  [{ setupId: '00000000-0000-4000-8000-000000000000', remedy: 'calibrate', worked: true }, 'invalid-input'],
  [null, 'invalid-input'],
])('%j is refused: %s', async (input, code) => {
  expect(await noteTried(deps, 'KT', input)).toMatchObject({ refusal: { code } });
});
