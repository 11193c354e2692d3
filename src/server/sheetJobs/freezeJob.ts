import { eq } from 'drizzle-orm';

import { dateIn } from '@/clock/dates';
import { accept, refuse } from '@/core/outcome';
import { sheetJobs } from '@/db/schema';
import type { JobFrozenAs } from '@/db/stored/sheetJobs';
import type { Deps, Done } from '@/server/base/deps';
import { TooLarge } from '@/server/base/failure';
import { fileMapOf } from '@/server/sessions/sheets';
import { holdSetup } from '@/server/setups/holdSetup';
import { getSetup } from '@/server/setups/repository';
import { shopZone } from '@/server/shop/zone';
import { idSchema } from '@/server/base/shapes';

import { sheetOf } from './createJob';
import { piecesOn, type SheetJob } from './job';
import { printPdf } from './jobFiles';
import { placementNow } from './printPlace';
import { addCut, carriedNow } from './steps';
import { jobStepWith } from './step';

/**
 * Freezes a job as it is printed; its first cut file carries what stands for the setup now. Its print is made first: a
 * job of which none can be made stays a draft, and is told what would work.
 */
export const freezeJob = jobStepWith(
  idSchema,
  { act: 'freeze', allowed: ['draft'] },
  { prepare: (deps, job) => printable(deps, job) },
  async (inner, job, jobId, actor): Done => {
    const held = await holdSetup(inner, job.setupId);
    if (!held.ok) return held;
    const setup = (await getSetup(inner, job.setupId))!;
    if (JSON.stringify(sheetOf(setup)) !== JSON.stringify(job.geometry.sheet))
      return refuse({
        code: 'stale',
        message:
          'The sheet, the marks or the printable area of this setup were changed since this job was laid out. Lay it out anew (change anything), look at it, then freeze it.',
      });
    const frozenAs: JobFrozenAs = {
      rig: setup.name,
      media: setup.media,
      address: `${inner.origin}/j/${job.number}`,
      madeOn: dateIn(inner.now(), 'd MMMM yyyy', (await shopZone(inner)).zone),
      recipe: setup.recipe,
      fileMap: fileMapOf(setup),
      placement: (await placementNow(inner, job)) ?? undefined,
    };
    await inner.db
      .update(sheetJobs)
      .set({ stage: 'frozen', frozenAs, frozenBy: actor, frozenAt: inner.now() })
      .where(eq(sheetJobs.id, jobId));
    await addCut(inner, actor, jobId, carriedNow(setup));
    return accept(null);
  },
);

/** Shares of a job's sheets that are tried where the print of all of them cannot be made. */
const SHARES = [2, 4, 8];

/** Whether the print of a job can be made; refuses with how many of its sheets can, when not all of them. */
async function printable(deps: Deps, job: SheetJob): Done {
  const { sheets } = job.geometry;
  let why = '';
  for (const share of [1, ...SHARES]) {
    const some = sheets.slice(0, Math.ceil(sheets.length / share));
    const part = { ...job, geometry: { ...job.geometry, sheets: some } };
    try {
      const print = await printPdf(deps, part);
      if (!print.ok) return refuse({ code: 'refused', message: print.refusal });
      if (share === 1) return accept(null);
      const most = `${some.length === 1 ? 'one sheet' : `${some.length} sheets`}, ${piecesOn(part.geometry)} pieces`;
      return refuse({
        code: 'too-large',
        message: `A print of these ${sheets.length} sheets cannot be made: ${why} One of ${most}, can: make several jobs of at most so many.`,
      });
    } catch (error) {
      if (!(error instanceof TooLarge)) throw error;
      why = error.words;
    }
    if (some.length === 1) break;
  }
  return refuse({
    code: 'too-large',
    message: `A print of this job cannot be made, not even of a few of its sheets: ${why} Use smaller pictures, fewer pieces of artwork or lines with fewer corners.`,
  });
}
