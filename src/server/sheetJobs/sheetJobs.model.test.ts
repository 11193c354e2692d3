import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import sharp from 'sharp';

import { accept } from '@/core/outcome';
import { AS_LAID_OUT } from '@/core/sheetJob';
import { setups } from '@/db/schema';
import { inTransaction } from '@/db/transaction';
import { addRig } from '@/server/rigs/writeRig';
import { getSetup } from '@/server/setups/repository';
import { replaceStanding, standingOf } from '@/server/setups/standing';
import { freshDeps } from '@test/database';

import { addPiece, changeLine } from './changePieces';
import { createJob } from './createJob';
import type { SheetJob } from './job';
import { getJob } from './repository';
import { cuttingSchema, lineRecipeSchema, newJobSchema, newPieceSchema } from './shapes';
import { copyJob } from './copyJob';
import { freezeJob } from './freezeJob';
import { changeJob, closeJob, bringBack, cutAgain, throwAway } from './steps';

/*
 * Sheet jobs taken through whatever two people press, in any order, at the same moment, from pages that are out of date:
 * nothing throws, a refusal changes nothing, what is frozen stays, cut files are numbered without a gap.
 */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let setupId: string;
let art: Buffer;
beforeAll(async () => {
  deps = await freshDeps('sheet_jobs_model');
  const added = await addRig(deps, 'KT', {
    ...{ name: 'Desk rig', printer: 'printer', cutter: 'cutter', media: 'labels', settings: [] },
    ...{ sheetWidthMm: 210, sheetHeightMm: 297, marginLeftMm: 8, marginNearMm: 8 },
    ...{ areaWidthMm: 194, areaHeightMm: 281, toleranceMm: 0.5 },
  });
  if (!added.ok) throw new Error(JSON.stringify(added.refusal));
  ({ setupId } = added.value);
  art = await sharp({ create: { width: 60, height: 60, channels: 3, background: '#ffffff' } })
    .composite([
      { input: { create: { width: 40, height: 40, channels: 3, background: '#24507a' } }, left: 10, top: 10 },
    ])
    .png()
    .toBuffer();
});
afterAll(() => deps.close());

const ACTS = [
  ...(['copies', 'gap', 'bleed', 'nudge', 'piece', 'like', 'line'] as const),
  ...(['freeze', 'again', 'plain', 'ways', 'close', 'copy', 'calibrate', 'away', 'back'] as const),
];
type Act = (typeof ACTS)[number];
const press = fc.record({
  act: fc.constantFrom(...ACTS),
  who: fc.constantFrom('KT', 'MO'),
  /** How many versions old the page is. */
  behind: fc.constantFrom(0, 0, 0, 1),
  figure: fc.integer({ min: 1, max: 9 }),
});
type Press = typeof press extends fc.Arbitrary<infer P> ? P : never;

async function carryOut({ act, who, behind, figure }: Press, job: SheetJob) {
  const { layout } = job.geometry;
  const stamp = { version: Math.max(1, job.version - behind) };
  const id = job.id;
  switch (act satisfies Act) {
    case 'copies':
      return changeJob(deps, who, { jobId: id, pieces: [{ id: 'A', copies: figure }] }, stamp);
    case 'gap':
      return changeJob(deps, who, { jobId: id, layout: { ...layout, gapMm: figure } }, stamp);
    case 'bleed':
      return changeJob(deps, who, { jobId: id, pieces: [{ id: 'A', bleedMm: figure / 10 }] }, stamp);
    case 'nudge': {
      const nudged = [{ sheet: 0, index: figure % 3, dxMm: figure / 10, dyMm: figure - 5 }];
      return changeJob(deps, who, { jobId: id, layout: { ...layout, nudged } }, stamp);
    }
    case 'piece':
    case 'like': {
      const given = act === 'piece' ? { recipe: { size: { widthMm: 10 + figure } } } : { lineOf: 'A' };
      const piece = newPieceSchema.parse({ ...given, copies: figure % 4 });
      return addPiece(deps, who, { jobId: id, art: { bytes: art, name: 'b.png' }, piece }, stamp);
    }
    case 'line': {
      const recipe = lineRecipeSchema.parse({ size: { widthMm: 20 + figure } });
      return changeLine(deps, who, { jobId: id, piece: figure % 2 ? 'A' : 'B', recipe }, stamp);
    }
    case 'ways': {
      const cutting = cuttingSchema.parse({ passes: [{ kind: 'kiss-cut', times: 1 + (figure % 3) }] });
      return cutAgain(deps, who, { jobId: id, correction: 'standing', cutting }, stamp);
    }
    case 'freeze':
      return freezeJob(deps, who, { jobId: id }, stamp);
    case 'again':
      return cutAgain(deps, who, { jobId: id, correction: 'standing' }, stamp);
    case 'plain':
      return cutAgain(deps, who, { jobId: id, correction: 'none' }, stamp);
    case 'close':
      return closeJob(deps, who, id, stamp);
    case 'away':
    case 'back':
      return (act === 'away' ? throwAway : bringBack)(deps, who, id, stamp);
    case 'copy':
      return copyJob(deps, who, { jobId: id, copies: figure });
    default: {
      // Meanwhile the setup is calibrated.
      const setup = (await getSetup(deps, setupId))!;
      const fileTransform = { a11: 1, a12: 0, a21: 0, a22: 1, tx: figure / 10, ty: 0 };
      return inTransaction(deps.db, async (tx) => {
        // As every step on a setup does: one after the other.
        await tx.select().from(setups).where(eq(setups.id, setupId)).for('update');
        await replaceStanding(
          { ...deps, db: tx },
          who,
          setupId,
          { ...standingOf(setup), fileTransform },
          { source: 'accepted' },
        );
        return accept(null);
      });
    }
  }
}

const ORDER = ['draft', 'frozen', 'closed'];

/** What never may happen between two looks at a job. */
function sound(before: SheetJob, after: SheetJob): void {
  expect(ORDER.indexOf(after.stage)).toBeGreaterThanOrEqual(ORDER.indexOf(before.stage));
  if (before.stage !== 'draft') {
    expect(after.geometry).toEqual(before.geometry);
    expect(after.frozenAs).toEqual(before.frozenAs);
    expect([after.name, after.frozenBy, after.frozenAt]).toEqual([
      before.name,
      before.frozenBy,
      before.frozenAt,
    ]);
  }
  expect(after.cuts.slice(0, before.cuts.length)).toEqual(before.cuts);
  expect(after.cuts.map((c) => c.revision)).toEqual(after.cuts.map((_, i) => i + 1));
  expect(after.stage === 'draft').toBe(after.cuts.length === 0);
  if (before.stage === 'closed') expect(after).toEqual(before);
  // Thrown away it is what it was, and only a draft is.
  if (before.discarded && after.discarded) expect(after).toEqual(before);
  expect(after.discarded && after.stage !== 'draft').toBe(false);
  // No cut file is just what the one before it was.
  const what = (c: SheetJob['cuts'][number]) => JSON.stringify([c.correction, c.cutting ?? AS_LAID_OUT]);
  after.cuts.slice(1).forEach((c, i) => expect(what(c)).not.toBe(what(after.cuts[i]!)));
  // Every piece of the geometry has its artwork, and what has another's line has just that.
  expect(after.pieces.map((p) => p.id)).toEqual(after.geometry.pieces.map((p) => p.id));
  for (const { id, lineOf } of after.pieces)
    if (lineOf !== null) {
      const [own, like] = [id, lineOf].map((l) => after.geometry.pieces.find((p) => p.id === l)!);
      expect([own!.lines, own!.picture]).toEqual([like!.lines, like!.picture]);
    }
}

test('two people, any order, at the same moment', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(press, fc.option(press)), { maxLength: 8 }), async (walk) => {
      const input = newJobSchema.parse({ setupId, name: 'walk', recipe: { size: { widthMm: 30 } } });
      const made = await createJob(deps, 'KT', { art: { bytes: art, name: 'a.png' }, job: input });
      if (!made.ok) throw new Error(JSON.stringify(made.refusal));
      const { jobId } = made.value;
      let job = (await getJob(deps, jobId))!;
      for (const [one, other] of walk) {
        const done = await Promise.all([one, ...(other ? [other] : [])].map((p) => carryOut(p, job)));
        const now = (await getJob(deps, jobId))!;
        sound(job, now);
        const changed = [one, ...(other ? [other] : [])].filter(
          (p, i) => done[i]!.ok && p.act !== 'copy' && p.act !== 'calibrate',
        ).length;
        // Each that was accepted counts once, and nothing that was refused does.
        expect(now.version).toBe(job.version + changed);
        // From two pages that saw the same, one goes through.
        expect(changed).toBeLessThanOrEqual(1);
        job = now;
      }
    }),
    { numRuns: 12 },
  );
});
