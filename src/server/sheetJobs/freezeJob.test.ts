import sharp from 'sharp';

import { addRig } from '@/server/rigs/writeRig';
import { TooLarge } from '@/server/base/failure';
import type { TaskInput } from '@/server/heavy/tasks';
import { freshDeps } from '@test/database';

import { createJob } from './createJob';
import { freezeJob } from './freezeJob';
import { getJob } from './repository';
import { newJobSchema } from './shapes';
import { changeJob } from './steps';

/* A job is frozen only when its print can be made; how it is made holds nobody up. */

let printing: (pages: TaskInput<'printPages'>) => void | Promise<void> = () => undefined;
jest.mock('@/server/heavy/pool', () => {
  const real = jest.requireActual<typeof import('@/server/heavy/pool')>('@/server/heavy/pool');
  return {
    ...real,
    heavy: async (name: 'printPages', input: TaskInput<'printPages'>) => {
      if (name === 'printPages') await printing(input);
      return real.heavy(name, input);
    },
  };
});

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
beforeAll(async () => {
  deps = await freshDeps('freeze_job');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Desk rig', printer: 'desk printer', cutter: 'small cutter', media: 'label sheet' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 8, marginNearMm: 8 },
    ...{ areaWidthMm: 194, areaHeightMm: 281, toleranceMm: 0.5, settings: [] },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
});
afterAll(() => deps.close());
afterEach(() => void (printing = () => undefined));

async function draft(copies: number): Promise<string> {
  const disc =
    '<svg xmlns="http://www.w3.org/2000/svg" width="120" height="120"><rect width="120" height="120" fill="#fff"/><circle cx="60" cy="60" r="50" fill="#c0392b"/></svg>';
  const bytes = await sharp(Buffer.from(disc)).png().toBuffer();
  const input = newJobSchema.parse({
    ...{ setupId, name: 'jar label', copies, recipe: { size: { widthMm: 60 } }, layout: { witness: false } },
  });
  const made = await createJob(deps, 'KT', { art: { bytes, name: 'disc.png' }, job: input });
  if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  return made.value.jobId;
}

const tooLargeAbove = (most: number) => (pages: TaskInput<'printPages'>) => {
  if (pages.length > most) throw new TooLarge('This would take longer than 20 seconds.');
};

test.each([
  [2, /A print of these 6 sheets cannot be made: .*20 seconds.* One of 2 sheets, \d+ pieces, can/],
  [3, /One of 3 sheets, \d+ pieces, can/],
  [0, /not even of a few of its sheets: .*smaller pictures/],
])(
  'of a print that can be made for %s of its sheets only, that is said; it stays a draft',
  async (most, words) => {
    const jobId = await draft(72);
    const sheets = (await getJob(deps, jobId))!.geometry.sheets.length;
    expect(sheets).toBe(6);
    printing = tooLargeAbove(most);
    const frozen = await freezeJob(deps, 'KT', { jobId: jobId });
    expect(frozen).toEqual({
      ok: false,
      refusal: { code: 'too-large', message: expect.stringMatching(words) as string },
    });
    expect(await getJob(deps, jobId)).toMatchObject({ stage: 'draft', version: 1, cuts: [] });
    // As many as it said.
    printing = tooLargeAbove(Math.max(most, 1));
    const part = await draft(12 * Math.max(most, 1));
    expect(await freezeJob(deps, 'KT', { jobId: part })).toMatchObject({ ok: true });
  },
);

test('while a print is made others change the job: frozen is what was printed, or it is said', async () => {
  const jobId = await draft(4);
  let changes = 0;
  printing = async () => {
    // The row is held by nobody: the other one is not kept waiting.
    if (changes < 1)
      expect(await changeJob(deps, 'MO', { jobId, name: `name ${changes}` })).toMatchObject({ ok: true });
    changes += 1;
  };
  const stale = await freezeJob(deps, 'KT', { jobId: jobId }, { version: 1 });
  expect(stale).toMatchObject({ ok: false, refusal: { code: 'stale' } });
  changes = 0;
  expect(await freezeJob(deps, 'KT', { jobId: jobId })).toMatchObject({ ok: true });
  // Once for the job as it was, once for what became of it.
  expect(changes).toBe(2);
  expect(await getJob(deps, jobId)).toMatchObject({ stage: 'frozen', name: 'name 0' });
});

test('a freeze that is sent twice makes no second print', async () => {
  const jobId = await draft(4);
  const request = crypto.randomUUID();
  expect(await freezeJob(deps, 'KT', { jobId: jobId }, { request, version: 1 })).toMatchObject({ ok: true });
  printing = () => {
    throw new Error('printed again');
  };
  expect(await freezeJob(deps, 'KT', { jobId: jobId }, { request, version: 1 })).toMatchObject({ ok: true });
});
