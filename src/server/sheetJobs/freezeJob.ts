import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { dateIn } from '@/clock/dates';
import { accept, refuse } from '@/core/outcome';
import { findingsOnce } from '@/core/sheetJob';
import { sheetJobs } from '@/db/schema';
import type { JobFrozenAs } from '@/db/stored/sheetJobs';
import type { Deps, Done } from '@/server/base/deps';
import { TooLarge } from '@/server/base/failure';
import { fileMapOf } from '@/server/sessions/sheets';
import { holdSetup } from '@/server/setups/holdSetup';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';
import { shopZone } from '@/server/shop/zone';
import { idSchema } from '@/server/base/shapes';

import { sheetOf } from './createJob';
import { piecesOn, type SheetJob } from './job';
import { printPdf } from './jobFiles';
import { lookAtJob, stopsOf, type JobLook } from './lookAtJob';
import { placementNow } from './printPlace';
import { addCut, carriedNow } from './steps';
import { jobStepWith } from './step';

/**
 * Freezes a job as it is printed; its first cut file carries what stands for the setup now. Its print is made first: a
 * job of which none can be made stays a draft, and is told what would work.
 */
export const freezeJob = jobStepWith(
  z.object({
    jobId: idSchema,
    /** Why it is frozen although something would spoil it; nothing where nothing does. */
    reason: z
      .string()
      .trim()
      .max(200, 'At most 200 characters.')
      .nullish()
      .transform((words) => words || null),
  }),
  { act: 'freeze', allowed: ['draft'] },
  {
    prepare: async (deps, job, { reason }): Done<JobLook | null> => {
      const setup = await getSetup(deps, job.setupId);
      if (setup && laidOutElsewhere(job, setup)) return refuse(LAID_OUT_ELSEWHERE);
      const look = setup && (await lookAtJob(deps, job, setup));
      const [stop] = look ? stopsOf(look) : [];
      if (stop && (reason === null || reason.length < LEAST_REASON))
        return refuse({
          code: 'invalid-input',
          fields: {
            reason: `It would be spoiled: ${stop.message} Say in a few words why it is frozen all the same.`,
          },
        });
      const made = await printable(deps, job);
      return made.ok ? accept(look) : made;
    },
  },
  async (inner, job, { jobId, reason }, actor, look): Done => {
    const held = await holdSetup(inner, job.setupId);
    if (!held.ok) return held;
    const setup = (await getSetup(inner, job.setupId))!;
    if (laidOutElsewhere(job, setup)) return refuse(LAID_OUT_ELSEWHERE);
    const frozenAs: JobFrozenAs = {
      rig: setup.name,
      media: setup.media,
      address: `${inner.origin}/j/${job.number}`,
      madeOn: dateIn(inner.now(), 'd MMMM yyyy', (await shopZone(inner)).zone),
      recipe: setup.recipe,
      fileMap: fileMapOf(setup),
      placement: (await placementNow(inner, job)) ?? undefined,
      found: foundOf(look, reason),
    };
    await inner.db
      .update(sheetJobs)
      .set({ stage: 'frozen', frozenAs, frozenBy: actor, frozenAt: inner.now() })
      .where(eq(sheetJobs.id, jobId));
    await addCut(inner, actor, jobId, carriedNow(setup));
    return accept(null);
  },
);

/** Whether a job was laid out for a sheet that its setup no longer has. */
const laidOutElsewhere = (job: SheetJob, setup: Setup): boolean =>
  JSON.stringify(sheetOf(setup)) !== JSON.stringify(job.geometry.sheet);

const LAID_OUT_ELSEWHERE = {
  code: 'stale',
  message:
    'The sheet, the marks or the printable area of this setup were changed since this job was laid out. Lay it out anew (change anything), look at it, then freeze it.',
} as const;

/** Fewer letters are no reason. */
const LEAST_REASON = 3;

/** What was found when it was frozen, and why it was frozen all the same; nothing of a good one. */
function foundOf(look: JobLook | null, reason: string | null): JobFrozenAs['found'] {
  if (!look) return undefined;
  const findings = findingsOnce(look.findings).map(({ code, severity, message, times }) => ({
    ...{ code, severity, message, times },
  }));
  if (findings.length === 0 && look.notLooked.length === 0) return undefined;
  const stopped = findings.some((f) => f.severity === 'stop');
  return { findings, notLooked: [...look.notLooked], reason: stopped ? reason : null };
}

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
