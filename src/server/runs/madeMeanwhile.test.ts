import type { Deps } from '@/server/base/deps';
import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { freshDeps } from '@test/database';
import { ROLL_DRAFT } from '@test/setups';

import { saveCheck } from './checks';
import { markSectionCut } from './cutSections';
import { outlookOn } from './outlook';
import { releaseItems, releaseRun } from './releaseRun';
import { getRun } from './repository';
import { makeSectionFile, runArchive } from './runFiles';
import { startRun } from './startRun';

/* Files are made while nobody is held up: what somebody checks meanwhile is in them all the same. */

let making: (task: string) => Promise<void> = () => Promise.resolve();
jest.mock('@/server/heavy/pool', () => {
  const real = jest.requireActual<typeof import('@/server/heavy/pool')>('@/server/heavy/pool');
  return {
    ...real,
    heavy: async (...given: Parameters<typeof real.heavy>) => {
      await making(given[0]);
      return real.heavy(...given);
    },
  };
});

let shop: Awaited<ReturnType<typeof freshDeps>>;
beforeAll(async () => void (shop = await freshDeps('made_meanwhile')));
afterAll(() => shop.close());
afterEach(() => void (making = () => Promise.resolve()));
const deps = (): Deps => shop;

let names = 0;
/** A run whose first section is cut. */
async function running(): Promise<string> {
  const added = await addRig(deps(), 'KT', { ...ROLL_DRAFT, name: `Roll rig ${(names += 1)}` });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const { setupId } = added.value;
  const started = await startRun(deps(), 'KT', {
    ...{ setupId, name: 'luggage tags', strategy: 'sections', itemFile: null, spoilsAccepted: true },
    request: {
      ...{ item: { widthMm: 185, heightMm: 110 }, copies: 72, gapMm: 4, printableWidthMm: 1310 },
      ...{ rowsPerSection: 3, markRoomMm: 20, betweenMm: 10, correctCreep: true },
    },
  });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  const { runId } = started.value;
  const keys = releaseItems((await getSetup(deps(), setupId))!).map((i) => i.key);
  expect((await releaseRun(deps(), 'KT', { runId, ticked: keys })).ok).toBe(true);
  const file = await makeSectionFile(deps(), 'KT', { runId, section: 1, format: 'dxf' });
  if (!file.ok) throw new Error(JSON.stringify(file.refusal));
  expect((await markSectionCut(deps(), 'KT', { runId, section: 1, fileId: file.value.fileId })).ok).toBe(
    true,
  );
  return runId;
}

/** Somebody else reads the check of the first section the first time that a task of this name begins. */
function checkedDuring(task: string, runId: string): () => number {
  let times = 0;
  making = async (name) => {
    if (name !== task) return;
    times += 1;
    if (times === 1)
      expect(
        await saveCheck(deps(), 'MO', {
          ...{ runId, section: 1, place: 'first row', way: 'comb', dxMm: 0.3, dyMm: 0.4 },
        }),
      ).toMatchObject({ ok: true });
  };
  return () => times;
}

test('a check that comes while a section’s file is made is in the file', async () => {
  const runId = await running();
  const times = checkedDuring('sectionFile', runId);
  const made = await makeSectionFile(deps(), 'KT', { runId, section: 2, format: 'dxf' });
  expect(made.ok).toBe(true);
  expect(times()).toBe(2);
  const run = (await getRun(deps(), runId))!;
  const own = run.files.filter((f) => f.section === 2);
  expect(own).toHaveLength(1);
  expect(own[0]!.applied).toEqual((await outlookOn(deps(), run, 2, false)).applied);
  expect(own[0]!.applied!.map.ty).toBeGreaterThan(0.1);
});

test('the same for an archive of all sections', async () => {
  const runId = await running();
  const times = checkedDuring('runArchive', runId);
  expect((await runArchive(deps(), 'KT', runId)).ok).toBe(true);
  expect(times()).toBe(2);
  const run = (await getRun(deps(), runId))!;
  const second = run.files.filter((f) => f.section === 2);
  expect(second.length).toBeGreaterThan(0);
  for (const f of second) expect(f.applied!.map.ty).toBeGreaterThan(0.1);
});
