import sharp from 'sharp';

import { markPlaces } from '@/core/marks';
import { jobFile } from '@/server/api/scriptSheetJobs';
import { addRig } from '@/server/rigs/writeRig';
import { freshDeps } from '@test/database';
import { drawnByPdfium } from '@test/readers/pdf';
import { TWO_MARKS } from '@test/setups';

import { createJob } from './createJob';
import { keepPrintPlace, printPlaceOf, setPlacement } from './printPlace';
import { getJob } from './repository';
import { newJobSchema } from './shapes';
import { copyJob } from './copyJob';
import { freezeJob } from './freezeJob';

/* A printer that sets every sheet of one tray down 2 mm to the right: kept, told once it repeats, moved against, taken back. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let first: string;
beforeAll(async () => {
  deps = await freshDeps('print_place');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Marked rig', printer: 'printer', cutter: 'cutter', media: 'labels', settings: [] },
    ...{ sheetWidthMm: 105, sheetHeightMm: 148, marginLeftMm: 6, marginNearMm: 6, toleranceMm: 0.5 },
    ...{ areaWidthMm: 93, areaHeightMm: 136, marks: { ...TWO_MARKS, insetLeftMm: 14, insetNearMm: 14 } },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const art = await sharp({ create: { width: 60, height: 60, channels: 3, background: '#ffffff' } })
    .composite([
      { input: { create: { width: 40, height: 40, channels: 3, background: '#24507a' } }, left: 10, top: 10 },
    ])
    .png()
    .toBuffer();
  const input = newJobSchema.parse({
    ...{ setupId: added.value.setupId, name: 'tags', copies: 1, recipe: { size: { widthMm: 30 } } },
    layout: { witness: false },
  });
  const made = await createJob(deps, 'KT', { art: { bytes: art, name: 'tag.png' }, job: input });
  if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  first = made.value.jobId;
});
afterAll(() => deps.close());

const told = async (id: string) => printPlaceOf(deps, (await getJob(deps, id))!);
async function frozen(): Promise<string> {
  const copy = await copyJob(deps, 'KT', { jobId: first, copies: 1 });
  if (!copy.ok) throw new Error('copy');
  expect((await freezeJob(deps, 'KT', { jobId: copy.value.jobId })).ok).toBe(true);
  return copy.value.jobId;
}
async function leading(id: string) {
  const { sheet } = (await getJob(deps, id))!.geometry;
  return markPlaces(sheet.marks!, sheet)[0]!.centre;
}
/** The leftmost ink of the print file, mm. */
async function inkFrom(id: string): Promise<number> {
  const bytes = await (await jobFile(deps, id, 'print.pdf', new URLSearchParams())).arrayBuffer();
  const [page] = await drawnByPdfium(new Uint8Array(bytes), 254);
  const columns = Array.from({ length: page!.width }, (_, x) => x);
  const dark = (x: number): boolean => {
    for (let y = 0; y < page!.height; y += 1) if (page!.grey[y * page!.width + x]! < 128) return true;
    return false;
  };
  return columns.find(dark)! / 10;
}

test('a shift that repeats is offered, moves prints that are frozen afterwards, and can be taken back', async () => {
  const before = await frozen();
  const mark = await leading(before);
  const measure = (id: string, off: number) =>
    keepPrintPlace(deps, 'MO', { jobId: id, fromLeftMm: mark.x + off, fromNearMm: mark.y + 0.1 });
  expect(await keepPrintPlace(deps, 'MO', { jobId: first, fromLeftMm: 10, fromNearMm: 10 })).toMatchObject({
    refusal: { code: 'refused' },
  });
  expect(await measure(before, 90)).toMatchObject({ refusal: { code: 'invalid-input' } });
  expect((await measure(before, 2.1)).ok).toBe(true);
  expect((await measure(before, 1.9)).ok).toBe(true);
  expect(await told(before)).toMatchObject({ measured: 2, repeats: null, placement: null });
  expect(await setPlacement(deps, 'MO', { jobId: before, move: true })).toMatchObject({
    refusal: { code: 'refused' },
  });
  expect((await measure(await frozen(), 2)).ok).toBe(true);
  expect(await told(before)).toMatchObject({ measured: 3, repeats: { dxMm: 2, dyMm: 0, times: 3 } });
  expect((await setPlacement(deps, 'MO', { jobId: before, move: true })).ok).toBe(true);
  const after = await frozen();
  expect((await getJob(deps, after))!.frozenAs!.placement).toEqual({ xMm: -2, yMm: 0 });
  expect((await inkFrom(after)) - (await inkFrom(before))).toBeCloseTo(-2, 1);
  // What was printed before stays as it was; what lies right now is no new shift.
  expect((await getJob(deps, before))!.frozenAs!.placement).toBeUndefined();
  expect((await measure(after, 0)).ok).toBe(true);
  expect(await told(after)).toMatchObject({ repeats: { dxMm: 2 }, placement: { xMm: -2, yMm: 0 } });
  expect((await setPlacement(deps, 'KT', { jobId: after, move: false })).ok).toBe(true);
  expect((await told(after)).placement).toBeNull();
  expect((await getJob(deps, await frozen()))!.frozenAs!.placement).toBeUndefined();
});
