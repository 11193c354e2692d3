import { correctedFiles } from '@/db/schema';
import type { Affine } from '@/core/geometry';
import { correctFile } from '@/core/drawing/file';
import { affineMap } from '@/core/geometry';
import { SHEET_FRAME } from '@/core/daily';
import { setupsForScript } from '@/server/api/scriptSetups';
import { getRig } from '@/server/rigs/repository';
import { addRig, changeRig } from '@/server/rigs/writeRig';
import { typeValue } from '@/server/rigs/machineValues';
import { archiveSetup } from '@/server/setups/archiveSetup';
import { findSetup } from '@/server/setups/find';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';
import type { RigDraft } from '@/server/setups/shapes';
import { replaceStanding, standingOf } from '@/server/setups/standing';
import { asDxf } from '@test/foreignFiles';
import { freshDeps } from '@test/database';

import { correctForSetup, type DailyRequest } from './dailyFile';
import { contentOf } from './keepFiles';
import { lastUsedSetups, listFiles } from './listFiles';

/* A cut file on any day: corrected by what stands for its setup, kept, and found again. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => {
  deps = await freshDeps('daily');
});
afterAll(() => deps.close());

const T: Affine = { a11: 1.001, a12: 0, a21: 0, a22: 0.9995, tx: 0.3, ty: -0.2 };
const FILE = asDxf([
  [20, 30, 120, 30],
  [120, 30, 120, 90],
]);

let count = 0;
async function setupThatCarries(
  fileTransform: Affine | null = T,
  more: Partial<RigDraft> = {},
): Promise<Setup> {
  count += 1;
  const added = await addRig(deps, 'KT', {
    ...{ name: `Rig ${count}`, printer: `printer ${count}`, cutter: `cutter ${count}`, media: 'silver foil' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 10, marginNearMm: 15 },
    ...{ areaWidthMm: 190, areaHeightMm: 270, toleranceMm: 0.4, fileFrame: SHEET_FRAME },
    settings: [
      {
        name: 'X',
        unit: 'mm',
        step: 0.05,
        value: 0.85,
        min: -9,
        max: 9,
        display: 'signed',
        direction: 'right',
      },
    ],
    ...more,
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const { setupId } = added.value;
  const setup = (await getSetup(deps, setupId))!;
  if (fileTransform)
    await replaceStanding(
      deps,
      'KT',
      setupId,
      { ...standingOf(setup), fileTransform },
      { source: 'accepted' },
    );
  return (await getSetup(deps, setupId))!;
}

const give = (setup: { readonly id: string }, more: Partial<DailyRequest> = {}) =>
  correctForSetup(deps, 'KT', {
    ...{ setupId: setup.id, fileName: 'tags.dxf', text: FILE, to: null, own: false, again: false },
    ...{ cameBy: 'address' as const },
    ...more,
  });

const given = async (setup: { readonly id: string }, more: Partial<DailyRequest> = {}) => {
  const done = await give(setup, more);
  if (!done.ok) throw new Error(done.refusal.message);
  return done.value;
};

test('what stands goes into the file; the log keeps both, and finds it by name', async () => {
  const setup = await setupThatCarries();
  const made = await given(setup);
  const plain = correctFile(FILE, affineMap(T));
  expect(made.content).toBe(plain.ok && plain.value.content);
  expect(made).toMatchObject({ fileName: 'tags-for-silver-foil.dxf', changed: true });
  expect(made.mustShow).toMatchObject([{ name: 'X', value: 0.85, shows: 0.85, differs: false }]);
  const { rows } = await listFiles(deps, { find: 'TAGS-for', setupId: setup.id, page: 1 });
  expect(rows).toMatchObject([
    { fileName: 'tags-for-silver-foil.dxf', by: 'KT', changed: true, cameBy: 'address' },
  ]);
  const [row] = await deps.db.select().from(correctedFiles);
  expect(row).toMatchObject({ standingId: setup.standing.id, correctionId: null, transform: T });
  expect(await contentOf(deps, row!.sha256)).toBe(made.content);
  expect((await lastUsedSetups(deps))[0]).toBe(setup.id);
  // A name with the database's own wildcards finds nothing else.
  expect((await listFiles(deps, { find: '%', setupId: null, page: 1 })).total).toBe(0);
});

test('where the settings do it all the file comes back as it came, and is kept all the same', async () => {
  const setup = await setupThatCarries(null);
  expect(await given(setup)).toMatchObject({ content: FILE, changed: false });
  expect(await listFiles(deps, { find: '', setupId: setup.id, page: 1 })).toMatchObject({ total: 1 });
});

test('a file that came out of here is not corrected once more, unless somebody says so', async () => {
  const setup = await setupThatCarries();
  const { content } = await given(setup);
  expect(await give(setup, { text: content })).toMatchObject({
    refusal: { code: 'corrected-already', message: expect.stringMatching(/tags-for-silver-foil\.dxf/) },
  });
  expect((await give(setup, { text: content, again: true })).ok).toBe(true);
});

test('sent twice under one number it is kept once, and the whole answer of then is given again', async () => {
  const setup = await setupThatCarries();
  const request = crypto.randomUUID();
  const first = await given(setup, { request });
  const shifted = {
    ...standingOf(setup),
    fileTransform: { ...T, tx: 1 },
    settings: { [setup.settings[0]!.id]: 2.5 },
  };
  await replaceStanding(deps, 'KT', setup.id, shifted, { source: 'accepted' });
  await archiveSetup(deps, 'KT', { setupId: setup.id, archived: true });
  // File, name, report, where it lies, figures to show: as if nothing had happened since.
  expect(await given(setup, { request })).toEqual(first);
  await archiveSetup(deps, 'KT', { setupId: setup.id, archived: false });
  const anew = await given(setup);
  expect(anew.content).not.toBe(first.content);
  expect([first.mustShow[0]!.value, anew.mustShow[0]!.value]).toEqual([0.85, 2.5]);
  expect((await listFiles(deps, { find: '', setupId: setup.id, page: 1 })).total).toBe(2);
});

test.each([
  ['another file', { text: FILE.replaceAll('120', '121') }],
  ['another name', { fileName: 'labels.dxf' }],
  ['another format', { to: 'svg' }],
  ['other axes', { own: true }],
  ['other layers', { cutAll: ['guides'] }],
] as const)(
  '%s under a number that was used is refused in words, and nothing of it is kept',
  async (_, more) => {
    const setup = await setupThatCarries();
    const request = crypto.randomUUID();
    await given(setup, { request });
    const other = await give(setup, { request, ...more });
    expect(other).toMatchObject({
      refusal: { code: 'not-kept', message: expect.stringMatching(/for another file/) },
    });
    expect((await listFiles(deps, { find: '', setupId: setup.id, page: 1 })).total).toBe(1);
  },
);

test('twenty at once under one number: one file, one answer', async () => {
  const setup = await setupThatCarries();
  const request = crypto.randomUUID();
  const all = await Promise.all(Array.from({ length: 20 }, () => given(setup, { request })));
  for (const one of all) expect(one).toEqual(all[0]);
  expect((await listFiles(deps, { find: '', setupId: setup.id, page: 1 })).total).toBe(1);
});

test('where nothing says how files lie it is asked; the rig’s page settles it, and a mark cannot where none is read', async () => {
  const setup = await setupThatCarries(T, { fileFrame: null });
  expect(await give(setup)).toMatchObject({ refusal: { code: 'where-it-lies' } });
  expect((await give(setup, { own: true })).ok).toBe(true);
  const rig = (await getRig(deps, setup.rigId))!;
  const { name, printer, cutter, changeable } = rig;
  const draft = { name, printer, cutter, changeable, settings: [] as unknown[] };
  draft.settings = setup.settings.map((s) => ({ ...s, anchorXMm: 0, anchorYMm: 0 }));
  const told = (fileFrame: unknown) =>
    changeRig(deps, 'KT', { rigId: rig.id, version: rig.version, ...draft, fileFrame });
  expect(await told({ ...SHEET_FRAME, yRuns: 'left' })).toMatchObject({
    refusal: { code: 'invalid-input', fields: { 'fileFrame.yRuns': expect.stringMatching(/square to it/) } },
  });
  expect((await told({ xRuns: 'further', yRuns: 'left', zero: { at: 'middle' } })).ok).toBe(true);
  const done = await given(setup);
  expect(done.lies).toMatchObject({ by: 'description', map: { a12: -1, a21: 1, tx: 105, ty: 148.5 } });
  // Whoever saved the form before it was told saves over nothing.
  expect(await told(null)).toMatchObject({ refusal: { code: 'stale' } });
});

test('a machine left at other figures is found out with the file', async () => {
  const setup = await setupThatCarries();
  const [x] = setup.settings;
  await typeValue(deps, 'KT', { setting: x!, from: 0.85, to: 0.4 }, { reason: 'found so' });
  expect((await given(setup)).mustShow).toMatchObject([{ value: 0.85, shows: 0.4, differs: true }]);
});

test('off the bench, unknown or unreadable: told as what it is', async () => {
  const setup = await setupThatCarries();
  expect(await give(setup, { text: 'hello' })).toMatchObject({ refusal: { code: 'unreadable-file' } });
  expect(await give({ id: crypto.randomUUID() })).toMatchObject({ refusal: { code: 'no-such-setup' } });
  await archiveSetup(deps, 'KT', { setupId: setup.id, archived: true });
  expect(await give(setup)).toMatchObject({ refusal: { code: 'off-the-bench' } });
});

test('scripts see what stands, and name a setup by rig and medium', async () => {
  const setup = await setupThatCarries();
  const bare = await setupThatCarries(null, { media: 'kraft label' });
  const list = await setupsForScript(deps);
  expect(list.find((s) => s.id === setup.id)).toMatchObject({
    ...{ rig: setup.name, medium: 'silver foil', size: '210 × 297 mm', state: 'unknown', r95Mm: null },
    standing: { settings: [{ name: 'X', unit: 'mm', value: 0.85 }], map: T, by: 'KT' },
  });
  expect(list.find((s) => s.id === bare.id)).toMatchObject({ standing: null });
  const found = async (words: string) => {
    const one = await findSetup(deps, words);
    return one.ok ? one.value.id : one.refusal;
  };
  expect(await found(`${setup.name.toUpperCase()}/Silver  Foil`)).toBe(setup.id);
  expect(await found(`${setup.name} / silver foil / 210 x 297 mm`)).toBe(setup.id);
  expect(await found(setup.id)).toBe(setup.id);
  expect(await found(`${setup.name} / gold`)).toMatch(/No setup is called .* On the bench are/);
});
