import { pickNearest } from '@/core/comb';
import { getSetup } from '@/server/setups/repository';
import { addRig } from '@/server/rigs/writeRig';
import { readByEzdxf } from '@test/readers/outside';
import { freshDeps } from '@test/database';
import { ROLL_DRAFT } from '@test/setups';

import { markSectionCut } from './cutSections';
import { releaseItems, releaseRun } from './releaseRun';
import { getRun } from './repository';
import { checkYMm } from './run';
import { makeSectionFile } from './runFiles';
import { witnessesIn } from './sectionFile';
import { startRun } from './startRun';
import { saveStripWitness, setStrip, stripPdf, stripSvg } from './witnessStrip';

/* A run with a witness strip: put in by two at once, printed and cut with its sections, read as checks of their rows. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let runId: string;
beforeAll(async () => {
  deps = await freshDeps('witness_strip');
  const added = await addRig(deps, 'KT', { ...ROLL_DRAFT, name: 'Roll rig' });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const started = await startRun(deps, 'KT', {
    ...{ setupId: added.value.setupId, name: 'luggage tags', strategy: 'sections', itemFile: null },
    spoilsAccepted: true,
    request: {
      ...{ item: { widthMm: 185, heightMm: 110 }, copies: 72, gapMm: 4, printableWidthMm: 1310 },
      ...{ rowsPerSection: 3, markRoomMm: 20, betweenMm: 10, correctCreep: true },
    },
  });
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  ({ runId } = started.value);
  const keys = releaseItems((await getSetup(deps, added.value.setupId))!).map((i) => i.key);
  await releaseRun(deps, 'KT', { runId, ticked: keys });
});
afterAll(() => deps.close());

const run = async () => (await getRun(deps, runId))!;
const read = (section: number, place: string, dxMm: number, dyMm: number | null, more: object = {}) =>
  run().then((r) => {
    const station = witnessesIn(r, section).find((s) => s.place === place) ?? witnessesIn(r, section)[0]!;
    const of = (axis: 'across' | 'along', mm: number) => ({
      ...pickNearest(station[axis], mm, true),
      coarseMm: null,
    });
    const along = dyMm === null ? null : of('along', dyMm);
    return saveStripWitness(deps, 'KT', {
      runId,
      section,
      place,
      across: of('across', dxMm),
      along,
      ...more,
    });
  });

test('it is put in once by whoever presses, and stands beside the rows', async () => {
  expect((await run()).witnessXMm).toBeNull();
  expect(witnessesIn(await run(), 1)).toEqual([]);
  const pressed = await Promise.all([
    setStrip(deps, 'KT', { runId, on: true }),
    setStrip(deps, 'MO', { runId, on: true }),
  ]);
  expect(pressed.every((p) => p.ok)).toBe(true);
  const own = await run();
  expect(own.witnessXMm).toBeGreaterThan(6 * 185);
  expect(witnessesIn(own, 1).map((s) => s.place)).toEqual(['first row', 'last row']);
  expect(stripSvg(own, 1)).toContain('<svg');
  expect((await stripPdf(own)).subarray(0, 5).toString()).toBe('%PDF-');
});

test('a section’s file holds its lines, for a reader that is not ours; without a cut there is nothing to read', async () => {
  expect(await read(1, 'first row', 0, 0)).toMatchObject({ ok: false, refusal: { code: 'refused' } });
  const made = await makeSectionFile(deps, 'KT', { runId, section: 1, format: 'dxf' });
  if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  const own = await run();
  const rowsEnd = Math.max(...own.plan.imposition.columnsAtMm) + own.plan.imposition.itemWidthMm;
  const beside = readByEzdxf(made.value.content).filter((line) => line.every((p) => p.x > rowsEnd));
  expect(beside.length).toBeGreaterThan(80);
  // The middle line of an across comb stands at its phase: what was found of the rig so far is undone in the file.
  const [station] = witnessesIn(own, 1);
  const stands = station!.centre.x - station!.across.phaseMm;
  expect(Math.min(...beside.map((line) => Math.abs(line[0]!.x - stands)))).toBeLessThan(0.5);
  await markSectionCut(deps, 'KT', { runId, section: 1, fileId: made.value.fileId });
  expect(await setStrip(deps, 'KT', { runId, on: false })).toMatchObject({ ok: false });
});

test('read by its combs it is the check of its row, at its own place; read again it replaces what was seen', async () => {
  expect((await read(1, 'first row', 0.2, -0.1)).ok).toBe(true);
  const [check] = (await run()).checks;
  const [station] = witnessesIn(await run(), 1);
  expect(check).toMatchObject({ section: 1, place: 'first row', way: 'comb' });
  expect(check!.dxMm).toBeCloseTo(0.2, 1);
  expect(check!.dyMm).toBeCloseTo(-0.1, 1);
  expect(check!.yMm).toBe((await run()).plan.sections[0]!.startMm + station!.centre.y);
  expect(Math.abs(check!.yMm - checkYMm((await run()).plan, 1, 'first row'))).toBeLessThan(30);
  expect((await read(1, 'first row', 0.1, null, { replaces: [check!.id] })).ok).toBe(true);
  expect((await run()).checks).toMatchObject([{ dyMm: null }]);
  expect((await read(1, 'last row', 0.1, 0)).ok).toBe(true);
  expect((await run()).checks).toHaveLength(2);
});

test.each([
  ['no such section', { section: 99 }, 'not-found'],
  ['no such line', { across: { line: 30, between: false, coarseMm: null } }, 'invalid-input'],
  ['nothing read', { across: null, along: null }, 'invalid-input'],
  ['a cross beyond its arms', { across: { line: 0, between: false, coarseMm: 20 } }, 'invalid-input'],
])('%s is refused', async (_, more, code) => {
  const sent = {
    runId,
    section: 1,
    place: 'first row',
    across: null,
    along: { line: 0, between: false, coarseMm: null },
  };
  expect(await saveStripWitness(deps, 'KT', { ...sent, ...more })).toMatchObject({
    ok: false,
    refusal: { code },
  });
});
