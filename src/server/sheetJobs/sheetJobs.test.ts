import { eq } from 'drizzle-orm';
import sharp from 'sharp';

import { readCutFile } from '@/core/drawing/file';
import { flatten } from '@/core/drawing';
import { applyAffine, type Affine } from '@/core/geometry';
import { setups } from '@/db/schema';
import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { replaceStanding, standingOf } from '@/server/setups/standing';
import { jobFile } from '@/server/api/scriptSheetJobs';
import { freshDeps } from '@test/database';
import { TWO_MARKS } from '@test/setups';
import { AS_LAID_OUT, markDistance } from '@/core/sheetJob';
import { archiveSetup } from '@/server/setups/archiveSetup';

import { createJob, sheetOf } from './createJob';
import { getJob, jobOfNumber, listJobs } from './repository';
import { cuttingSchema, newJobSchema } from './shapes';
import { copyJob } from './copyJob';
import { freezeJob } from './freezeJob';
import { changeJob, closeJob, cutAgain } from './steps';

/* A sheet job from artwork to a frozen pair, by two who press at once; what is frozen stays. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
let art: Buffer;
beforeAll(async () => {
  deps = await freshDeps('sheet_jobs');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Desk rig', printer: 'desk printer', cutter: 'small cutter', media: 'label sheet' },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 8, marginNearMm: 8 },
    ...{ areaWidthMm: 194, areaHeightMm: 281, toleranceMm: 0.5, settings: [] },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
  // A disc of 200 pixels on white, 240 across.
  art = await sharp(
    Buffer.from(
      '<svg xmlns="http://www.w3.org/2000/svg" width="240" height="240"><rect width="240" height="240" fill="#fff"/><circle cx="120" cy="120" r="100" fill="#c0392b"/></svg>',
    ),
  )
    .png()
    .toBuffer();
});
afterAll(() => deps.close());

const input = (more: object = {}) =>
  newJobSchema.parse({
    setupId,
    name: 'jar label',
    recipe: { size: { widthMm: 48 } },
    layout: { witness: false },
    ...more,
  });
async function draft(more: object = {}): Promise<string> {
  const made = await createJob(deps, 'KT', { art: { bytes: art, name: 'disc.png' }, job: input(more) });
  if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  return made.value.jobId;
}
const file = async (id: string, name: string, query = {}) =>
  jobFile(deps, id, name, new URLSearchParams(query as Record<string, string>));
/** The outermost places of a cut file's lines, mm. */
async function linesOf(id: string, format: string, query = {}) {
  const read = readCutFile(await (await file(id, `cut.${format}`, query)).text());
  if (!read.ok) throw new Error(JSON.stringify(read.refusal));
  return read.value.drawing.paths.map((p) => {
    const xy = flatten(p, 0.01);
    const xs = xy.filter((_, i) => i % 2 === 0);
    const ys = xy.filter((_, i) => i % 2 === 1);
    return {
      x: (Math.min(...xs) + Math.max(...xs)) / 2,
      y: (Math.min(...ys) + Math.max(...ys)) / 2,
      w: Math.max(...xs) - Math.min(...xs),
    };
  });
}

test('a picture becomes a draft that fills the sheet; changed, frozen and cut it stays what it was', async () => {
  const id = await draft();
  const job = (await getJob(deps, id))!;
  expect(job).toMatchObject({ stage: 'draft', name: 'jar label' });
  // The disc is 40 mm, its line 2 mm outside: 44 mm with a gap of 3. The label stands where it costs none of them.
  expect(job.geometry.sheets[0]).toHaveLength(4 * 6);
  expect((await file(id, 'cut.svg')).status).toBe(409);
  expect(await changeJob(deps, 'MO', { jobId: id, pieces: [{ id: 'A', copies: 6 }] })).toMatchObject({
    ok: true,
  });
  // Whoever still sees the version before is told.
  const stale = await changeJob(deps, 'KT', { jobId: id, name: 'x' }, { version: job.version });
  expect(stale).toMatchObject({ refusal: { code: 'stale' } });
  const now = (await getJob(deps, id))!;
  const presses = await Promise.all([
    freezeJob(deps, 'KT', { jobId: id }, { version: now.version }),
    freezeJob(deps, 'MO', { jobId: id }, { version: now.version }),
  ]);
  expect(presses.filter((p) => p.ok)).toHaveLength(1);
  const frozen = (await getJob(deps, id))!;
  expect(frozen.cuts).toHaveLength(1);
  expect(frozen.frozenAs!.address).toMatch(new RegExp(`/j/${frozen.number}$`));
  expect(await jobOfNumber(deps, frozen.number)).toBe(id);
  expect(await changeJob(deps, 'KT', { jobId: id, name: 'x' })).toMatchObject({
    refusal: { code: 'refused' },
  });
  const lines = await linesOf(id, 'svg');
  expect(lines).toHaveLength(6);
  for (const { w } of lines) expect(w).toBeCloseTo(44, 1);
  // A disc's middle lies where its room's middle lies, in every format.
  const middles = frozen.geometry.sheets[0]!.map(({ box }) => [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2]);
  for (const format of ['svg', 'dxf', 'hpgl'])
    for (const { x, y } of await linesOf(id, format))
      expect(middles.some(([mx, my]) => Math.hypot(mx! - x, my! - y) < 0.05)).toBe(true);
  // The setup gets another sheet; what is printed and cut does not change, and a draft of before is not frozen unseen.
  const before = await linesOf(id, 'dxf');
  const late = await copyJob(deps, 'KT', { jobId: id, copies: 2 });
  if (!late.ok) throw new Error('copy');
  const width = (sheetWidthMm: number) =>
    deps.db.update(setups).set({ sheetWidthMm }).where(eq(setups.id, setupId));
  await width(300);
  expect(sheetOf((await getSetup(deps, setupId))!)).not.toEqual(frozen.geometry.sheet);
  expect(await linesOf(id, 'dxf')).toEqual(before);
  expect((await getJob(deps, id))!.geometry).toEqual(frozen.geometry);
  expect(await freezeJob(deps, 'KT', { jobId: late.value.jobId })).toMatchObject({
    refusal: { code: 'stale' },
  });
  await width(210);
});

test('the print file is one page a sheet at true size, and holds the picture once', async () => {
  const id = await draft({ copies: 30, bleedMm: 1.5 });
  await freezeJob(deps, 'KT', { jobId: id });
  const pdf = Buffer.from(await (await file(id, 'print.pdf')).arrayBuffer()).toString('latin1');
  const boxes = [...pdf.matchAll(/\/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/g)].map((m) => [
    Number(m[1]),
    Number(m[2]),
  ]);
  expect(boxes).toHaveLength((await getJob(deps, id))!.geometry.sheets.length);
  for (const [w, h] of boxes) {
    expect((w! / 72) * 25.4).toBeCloseTo(210, 2);
    expect((h! / 72) * 25.4).toBeCloseTo(297, 2);
  }
  expect(pdf.match(/\/Subtype \/Image/g)).toHaveLength(1);
  // Its colour reaches 1.5 mm past the line: 47 mm at 5 pixels a mm.
  const size = /\/Width (\d+)\s*\/Height (\d+)/.exec(pdf)!;
  expect(Number(size[1])).toBe(240);
  const seen = await sharp(Buffer.from(await (await file(id, 'picture.png')).arrayBuffer())).metadata();
  expect([seen.width, seen.height]).toEqual([235, 235]);
});

test('the cut file is made again for the correction of the day, beside the one of before', async () => {
  const id = await draft({ copies: 1 });
  await freezeJob(deps, 'KT', { jobId: id });
  const [before] = await linesOf(id, 'dxf');
  expect(await cutAgain(deps, 'KT', { jobId: id, correction: 'standing' })).toMatchObject({
    refusal: { code: 'refused' },
  });
  const setup = (await getSetup(deps, setupId))!;
  const T: Affine = { a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.4, ty: -0.25 };
  await replaceStanding(
    deps,
    'KT',
    setupId,
    { ...standingOf(setup), fileTransform: T },
    { source: 'accepted' },
  );
  expect((await cutAgain(deps, 'MO', { jobId: id, correction: 'standing' })).ok).toBe(true);
  const [now] = await linesOf(id, 'dxf');
  expect(now!.x).toBeCloseTo(before!.x - 0.4, 3);
  expect(now!.y).toBeCloseTo(before!.y + 0.25, 3);
  expect(applyAffine(T, now!).x).toBeCloseTo(before!.x, 3);
  expect((await linesOf(id, 'dxf', { revision: '1' }))[0]!.x).toBeCloseTo(before!.x, 6);
  expect((await getJob(deps, id))!.cuts.map((c) => [c.revision, c.by])).toEqual([
    [1, 'KT'],
    [2, 'MO'],
  ]);
  expect((await closeJob(deps, 'KT', id)).ok).toBe(true);
  expect(await cutAgain(deps, 'KT', { jobId: id, correction: 'none' })).toMatchObject({
    refusal: { code: 'refused' },
  });
  // Closed, its files are still there; the same again is a draft of its own.
  expect((await file(id, 'cut.hpgl')).status).toBe(200);
  const again = await copyJob(deps, 'KT', { jobId: id, copies: 40 });
  if (!again.ok) throw new Error('copy');
  const copy = (await getJob(deps, again.value.jobId))!;
  expect([copy.stage, copy.geometry.sheets.flat().length]).toEqual(['draft', 40]);
  const listed = await listJobs(deps, { show: 'open', sort: 'newest', page: 1 });
  expect(listed.rows.map((r) => r.id)).toContain(copy.id);
  expect(listed.rows.map((r) => r.id)).not.toContain(id);
});

test.each<[string, () => Promise<{ bytes: Uint8Array; more?: object }>, RegExp]>([
  ['no picture', async () => ({ bytes: Buffer.from('hello') }), /no picture that can be read/],
  [
    'a picture of one colour',
    async () => ({
      bytes: await sharp({ create: { width: 50, height: 50, channels: 3, background: '#fff' } })
        .png()
        .toBuffer(),
    }),
    /[Nn]othing stands out/,
  ],
  ['a picture cut off', async () => ({ bytes: art.subarray(0, art.length / 2) }), /cut off or broken/],
  [
    'one too large for the sheet',
    async () => ({ bytes: art, more: { recipe: { size: { widthMm: 400 } } } }),
    /One piece needs/,
  ],
])('%s is refused with a reason, and nothing is kept', async (_, given, words) => {
  const { total } = await listJobs(deps, { show: 'all', sort: 'newest', page: 1 });
  const { bytes, more = {} } = await given();
  const made = await createJob(deps, 'KT', { art: { bytes, name: 'x' }, job: input(more) });
  expect(made.ok).toBe(false);
  expect(JSON.stringify(made)).toMatch(words);
  expect((await listJobs(deps, { show: 'all', sort: 'newest', page: 1 })).total).toBe(total);
});

test('sent twice under one number it is one job', async () => {
  const request = crypto.randomUUID();
  const send = () =>
    createJob(
      deps,
      'KT',
      { art: { bytes: art, name: 'disc.png' }, job: input({ name: 'once' }) },
      { request },
    );
  const [a, b] = await Promise.all([send(), send()]);
  expect(a).toEqual(b);
  expect(
    (await listJobs(deps, { show: 'all', sort: 'newest', page: 1 })).rows.filter((r) => r.name === 'once'),
  ).toHaveLength(1);
});

test('jobs are found by name, number, rig, medium or who, sorted, and wildcards mean themselves', async () => {
  await draft({ name: 'zebra 100%_labels' });
  await draft({ name: 'apiary badge' });
  const found = async (find: string, sort: 'newest' | 'name' = 'newest') =>
    (await listJobs(deps, { show: 'all', sort, page: 1, find })).rows.map((r) => r.name);
  expect(await found('100%_')).toEqual(['zebra 100%_labels']);
  expect(await found('%')).toEqual(['zebra 100%_labels']);
  expect(await found('APIARY')).toEqual(['apiary badge']);
  expect(await found('desk rig')).toContain('apiary badge');
  expect(await found('label sheet')).toContain('apiary badge');
  expect(await found('nothing like it')).toEqual([]);
  const [newest] = (await listJobs(deps, { show: 'all', sort: 'newest', page: 1 })).rows;
  expect(await found(newest!.label)).toEqual([newest!.name]);
  const names = await found('', 'name');
  expect(names).toEqual([...names].sort());
  expect(names.at(-1)).toBe('zebra 100%_labels');
});

test('a print that came out scaled is cut with a file of its own, about the mark that is found first', async () => {
  const added = await addRig(deps, 'KT', {
    ...{
      name: 'Marked rig',
      printer: 'desk printer',
      cutter: 'small cutter',
      media: 'matt sheet',
      settings: [],
    },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 8, marginNearMm: 8, toleranceMm: 0.5 },
    ...{ areaWidthMm: 194, areaHeightMm: 281, marks: TWO_MARKS },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  const id = await draft({ setupId: added.value.setupId, copies: 2, layout: { witness: false } });
  expect((await freezeJob(deps, 'KT', { jobId: id })).ok).toBe(true);
  const { geometry } = (await getJob(deps, id))!;
  const between = markDistance(geometry.sheet.marks, geometry.sheet)!;
  const cut = (measuredMm: number) => cutAgain(deps, 'KT', { jobId: id, correction: 'standing', measuredMm });
  expect(await cut(between.mm + 0.2)).toMatchObject({ ok: false, refusal: { code: 'refused' } });
  expect(await cut(between.mm / 25.4)).toMatchObject({ ok: false, refusal: { code: 'invalid-input' } });
  expect((await cut(between.mm * 1.005)).ok).toBe(true);
  const { cuts } = (await getJob(deps, id))!;
  expect(cuts.at(-1)!.printScale).toBeCloseTo(1.005, 6);
  const [plain, scaled] = [
    await linesOf(id, 'svg', { revision: '1' }),
    await linesOf(id, 'svg', { revision: '2' }),
  ];
  scaled.forEach((line, i) => {
    expect(line.w).toBeCloseTo(1.005 * plain[i]!.w, 2);
    expect(line.x).toBeCloseTo(between.leading.x + 1.005 * (plain[i]!.x - between.leading.x), 1);
    expect(line.y).toBeCloseTo(between.leading.y + 1.005 * (plain[i]!.y - between.leading.y), 1);
  });
});

test('cut again for another correction, a job is cut as it was cut last, until another way is said', async () => {
  const id = await draft();
  expect((await freezeJob(deps, 'KT', { jobId: id })).ok).toBe(true);
  const job = (await getJob(deps, id))!;
  const left = [{ sheet: 0, index: 1 }];
  const plain = cuttingSchema.parse(AS_LAID_OUT);
  const cutting = { ...plain, left };
  expect((await cutAgain(deps, 'KT', { jobId: id, correction: 'standing', cutting })).ok).toBe(true);
  const setup = (await getSetup(deps, setupId))!;
  const fileTransform: Affine = { a11: 1, a12: 0, a21: 0, a22: 1.0007, tx: 0.2, ty: 0.1 };
  await replaceStanding(deps, 'KT', setupId, { ...standingOf(setup), fileTransform }, { source: 'accepted' });
  expect((await cutAgain(deps, 'KT', { jobId: id, correction: 'standing' })).ok).toBe(true);
  const cuts = (await getJob(deps, id))!.cuts;
  expect(cuts).toHaveLength(job.cuts.length + 2);
  expect(cuts.at(-1)).toMatchObject({ correction: fileTransform, cutting: { left } });
  expect((await cutAgain(deps, 'KT', { jobId: id, correction: 'standing', cutting: plain })).ok).toBe(true);
  expect((await getJob(deps, id))!.cuts.at(-1)!.cutting?.left ?? []).toEqual([]);
  await replaceStanding(deps, 'KT', setupId, standingOf(setup), { source: 'accepted' });
});

test('a setup is held by what begins on it: taken off the bench meanwhile, nothing begins', async () => {
  const id = await draft();
  expect((await archiveSetup(deps, 'KT', { setupId, archived: true })).ok).toBe(true);
  expect(await freezeJob(deps, 'KT', { jobId: id })).toMatchObject({
    refusal: { message: expect.stringMatching(/put away/) },
  });
  expect(await copyJob(deps, 'KT', { jobId: id, copies: null })).toMatchObject({
    refusal: { message: expect.stringMatching(/put away/) },
  });
  expect((await archiveSetup(deps, 'KT', { setupId, archived: false })).ok).toBe(true);
  // Both at once: one waits for the other, and what is frozen is on a setup that is on the bench when it is.
  const [froze, away] = await Promise.all([
    freezeJob(deps, 'KT', { jobId: id }),
    archiveSetup(deps, 'MO', { setupId, archived: true }),
  ]);
  expect(away.ok).toBe(true);
  expect(froze.ok || /put away/.test(JSON.stringify(froze.refusal))).toBe(true);
  expect((await archiveSetup(deps, 'KT', { setupId, archived: false })).ok).toBe(true);
});
