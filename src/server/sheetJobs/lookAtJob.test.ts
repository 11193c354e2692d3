import sharp from 'sharp';

import { addRig } from '@/server/rigs/writeRig';
import { heavy } from '@/server/heavy/pool';
import { getSetup } from '@/server/setups/repository';
import { freshDeps } from '@test/database';

import { createJob } from './createJob';
import { freezeJob } from './freezeJob';
import { lookAtJob, stopsOf } from './lookAtJob';
import { getJob } from './repository';
import { newJobSchema } from './shapes';
import { changeJob } from './steps';

jest.mock('@/server/heavy/pool', () => {
  const real = jest.requireActual<typeof import('@/server/heavy/pool')>('@/server/heavy/pool');
  return { ...real, heavy: jest.fn(real.heavy) };
});

/* A job looks at its own sheet, and a stop stops: what is frozen all the same says why. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
beforeAll(async () => {
  deps = await freshDeps('look_at_job');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Desk rig', printer: 'desk printer', cutter: 'small cutter', media: 'label sheet' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 8, marginNearMm: 8 },
    ...{ areaWidthMm: 194, areaHeightMm: 281, toleranceMm: 0.3, settings: [] },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
});
afterAll(() => deps.close());

/** A dark body with a fin beside it, 1200 × 800 pixels. */
const fish = (fin: string, body = '#274690', stock = '#fff') =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="800" viewBox="0 0 300 200"><rect width="300" height="200" fill="${stock}"/><circle cx="220" cy="100" r="55" fill="${fin}"/><circle cx="110" cy="100" r="70" fill="${body}"/></svg>`,
    ),
  )
    .png()
    .toBuffer();

async function draft(art: Buffer, more: object = {}): Promise<string> {
  const job = newJobSchema.parse({
    ...{ setupId, name: 'fish', copies: 4, layout: { witness: false, gapMm: 3 } },
    recipe: { size: { widthMm: 60 }, borderMm: 1.5, background: 'brightness', threshold: 0.5 },
    ...more,
  });
  const made = await createJob(deps, 'KT', { art: { bytes: art, name: 'fish.png' }, job });
  if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  return made.value.jobId;
}
const look = async (id: string) =>
  lookAtJob(deps, (await getJob(deps, id))!, (await getSetup(deps, setupId))!);
const codes = async (id: string): Promise<string[]> =>
  [...new Set((await look(id)).findings.map((f) => f.code))].sort();

test('a dark fish with a border has nothing to find, and is frozen without a word', async () => {
  const id = await draft(await fish('#274690'));
  expect(await look(id)).toEqual({ findings: [], notLooked: [] });
  expect(await freezeJob(deps, 'KT', { jobId: id })).toMatchObject({ ok: true });
  expect((await getJob(deps, id))!.frozenAs!.found).toBeUndefined();
});

test('a cream fin that the trace left out stops the job: frozen only with a reason, which stays with it', async () => {
  const id = await draft(await fish('#fbf3dc'));
  expect(await codes(id)).toEqual(['outside-line']);
  const [stop] = stopsOf(await look(id));
  expect(stop!.times).toBe(4);
  expect(stop!.message).toMatch(/^(1\d|2\d|3\d) % of the picture lies outside its line/);
  const { version } = (await getJob(deps, id))!;
  expect(await freezeJob(deps, 'KT', { jobId: id }, { version })).toMatchObject({
    refusal: {
      code: 'invalid-input',
      fields: { reason: expect.stringMatching(/^It would be spoiled: .*outside its line/) },
    },
  });
  expect(await freezeJob(deps, 'KT', { jobId: id, reason: ' ?' }, { version })).toMatchObject({ ok: false });
  // Two press it with a reason: it is frozen once.
  const reason = 'the fin is cut off on purpose';
  const both = await Promise.all([
    freezeJob(deps, 'KT', { jobId: id, reason }, { version }),
    freezeJob(deps, 'MO', { jobId: id, reason: 'another' }, { version }),
  ]);
  expect(both.map((b) => b.ok).sort()).toEqual([false, true]);
  const { found } = (await getJob(deps, id))!.frozenAs!;
  expect([reason, 'another']).toContain(found!.reason);
  expect(found!.findings).toMatchObject([{ code: 'outside-line', severity: 'stop', times: 4 }]);
});

test.each([
  ['colour that ends at the cut', { borderMm: 0 }, 0, ['bleed-too-small']],
  ['the same with bleed', { borderMm: 0 }, 1, []],
  ['a border narrower than what the rig may be off', { borderMm: 0.2 }, 0, ['border-too-small']],
] as const)('%s', async (_, line, bleedMm, found) => {
  const recipe = { size: { widthMm: 60 }, background: 'brightness', threshold: 0.5, ...line };
  expect(await codes(await draft(await fish('#274690'), { recipe, bleedMm }))).toEqual(found);
});

test('what was looked at is not looked at again for another layout, and is when its bleed changes', async () => {
  const recipe = { size: { widthMm: 60 }, background: 'brightness', threshold: 0.5, borderMm: 0 };
  const id = await draft(await fish('#274690'), { recipe });
  expect(await codes(id)).toEqual(['bleed-too-small']);
  expect((await changeJob(deps, 'KT', { jobId: id, pieces: [{ id: 'A', bleedMm: 1 }] })).ok).toBe(true);
  expect(await codes(id)).toEqual([]);
});

test('a look that fails is said, costs nobody the page, and is tried again', async () => {
  const recipe = { size: { widthMm: 61 }, background: 'brightness', threshold: 0.5, borderMm: 0 };
  const id = await draft(await fish('#274690'), { recipe });
  jest.mocked(heavy).mockRejectedValueOnce(new Error('the worker was ended'));
  expect(await look(id)).toEqual({ findings: [], notLooked: ['A'] });
  expect(await codes(id)).toEqual(['bleed-too-small']);
});
