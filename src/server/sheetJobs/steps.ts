import { eq, max } from 'drizzle-orm';
import { z } from 'zod';

import { IDENTITY } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import {
  AS_LAID_OUT,
  byRule,
  forScaledPrint,
  jobDrawing,
  markDistance,
  MOST_SCALED,
  printScaleOf,
  WITNESS_LAYER,
  type Cutting,
  type JobGeometry,
} from '@/core/sheetJob';
import { sheetCuts, sheetJobs } from '@/db/schema';
import type { CutMade } from '@/db/stored/sheetJobs';
import { type Actor, type Deps, type Done, type UseCaseRefusal } from '@/server/base/deps';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';
import { idSchema } from '@/server/base/shapes';

import { laidOut, sheetOf } from './createJob';
import type { SheetJob } from './job';
import { withSecond } from './pieces';
import { changeJobSchema, cuttingSchema } from './shapes';
import { jobStepWith, jobStep } from './step';

/* Steps of a sheet job: one at a time, on a locked row, by whoever saw its newest version. */

/** Changes a draft: its name, its setup, how it is laid out; of its pieces how many, their bleed, what is done to their lines. */
export const changeJob = jobStepWith(
  changeJobSchema.extend({ jobId: idSchema }),
  { act: 'change', allowed: ['draft'] },
  {
    prepare: async (
      deps,
      job,
      { setupId, layout, pieces: changes },
    ): Done<{ readonly setupId: string; readonly geometry: JobGeometry }> => {
      const setup = await getSetup(deps, setupId ?? job.setupId);
      if (!setup || (setup.archived && setup.id !== job.setupId))
        return refuse({ code: 'not-found', what: 'setup' });
      const unknown = changes.find(({ id }) => !job.geometry.pieces.some((p) => p.id === id));
      if (unknown)
        return refuse({ code: 'invalid-input', fields: { pieces: `This job has no piece ${unknown.id}.` } });
      const pieces = job.geometry.pieces.map((p) => {
        const {
          second,
          copies = p.copies,
          bleedMm = p.bleedMm,
          kind = p.kind,
        } = changes.find(({ id }) => id === p.id) ?? {};
        const changed = { ...p, copies, bleedMm, kind };
        return second === undefined ? changed : withSecond(changed, second);
      });
      // What was nudged or nested lies where the rule puts it once anything is laid out anew.
      const as = layout ?? byRule(job.geometry.layout);
      const laid = await laidOut(pieces, as, sheetOf(setup));
      return laid.ok ? accept({ setupId: setup.id, geometry: laid.value }) : laid;
    },
  },
  async (inner, job, { name }, _, laid): Done => {
    await inner.db
      .update(sheetJobs)
      .set({ name: name ?? job.name, ...laid })
      .where(eq(sheetJobs.id, job.id));
    return accept(null);
  },
);

/** What a cut file carries of what stands for a setup today. */
export const carriedNow = ({ standing }: Setup): CutMade => ({
  correction: standing.fileTransform,
  standingId: standing.id,
});

/** The next cut file of a job. */
export async function addCut(inner: Deps, actor: Actor, jobId: string, made: CutMade): Promise<void> {
  const [last] = await inner.db
    .select({ revision: max(sheetCuts.revision) })
    .from(sheetCuts)
    .where(eq(sheetCuts.jobId, jobId));
  await inner.db.insert(sheetCuts).values({
    ...{ jobId, revision: (last?.revision ?? 0) + 1, made },
    ...{ madeBy: actor, madeAt: inner.now() },
  });
}

export const cutAgainSchema = z.object({
  jobId: z.uuid(),
  correction: z.enum(['standing', 'none']),
  /** What the rule says between the two marks, mm, where a print came out scaled. */
  measuredMm: z
    .number('Type the distance as a number, in mm.')
    .positive('A distance is more than 0.')
    .nullable()
    .default(null),
  /** What is cut and how; nothing: as laid out. */
  cutting: cuttingSchema.optional(),
});

/** A cut file for a print that came out scaled: as far as the rule between two marks says. */
function onScaledPrint(job: SheetJob, made: CutMade, measuredMm: number): Outcome<CutMade, UseCaseRefusal> {
  const { sheet } = job.geometry;
  const between = markDistance(sheet.marks, sheet);
  if (!between)
    return refuse({
      code: 'refused',
      message: 'This sheet has fewer than two marks: nothing tells its size.',
    });
  const scale = printScaleOf(between.mm, measuredMm);
  if (scale === null)
    return refuse({
      code: 'refused',
      message: 'That is what it should be, as far as a rule tells: cut it with the file as it is.',
    });
  if (Math.abs(scale - 1) > MOST_SCALED)
    return refuse({
      code: 'invalid-input',
      fields: {
        measuredMm: `It should be ${between.mm.toFixed(1)} mm: measure from middle to middle of these two marks, and check the unit.`,
      },
    });
  const correction = forScaledPrint(made.correction ?? IDENTITY, scale, between.leading);
  return accept({ ...made, correction, printScale: scale });
}

/** Whether no line of any sheet would be cut. */
const nothingLeft = ({ geometry }: SheetJob, cutting: Cutting): boolean =>
  geometry.sheets.every((_, index) =>
    jobDrawing(geometry, index, cutting).paths.every((path) => path.layer === WITNESS_LAYER),
  );

/** The cut file once more for the same print: with what stands for the setup today or without it, cut as it was or another way. */
export const cutAgain = jobStep(
  cutAgainSchema,
  { act: 'cut again', allowed: ['frozen'] },
  async (inner, job, { jobId, correction, measuredMm = null, cutting }, actor): Done => {
    const setup = (await getSetup(inner, job.setupId))!;
    const plain: CutMade =
      correction === 'standing' ? carriedNow(setup) : { correction: null, standingId: null };
    const scaled = measuredMm === null ? accept(plain) : onScaledPrint(job, plain, measuredMm);
    if (!scaled.ok) return scaled;
    const last = job.cuts.at(-1);
    // Cut for another correction, it is cut as it was.
    const how = cutting ?? last?.cutting;
    const made: CutMade = { ...scaled.value, ...(how && { cutting: how }) };
    const same = (of: (cut: CutMade) => unknown): boolean =>
      JSON.stringify(last && of(last)) === JSON.stringify(of(made));
    if (cutting && nothingLeft(job, cutting))
      return refuse({
        code: 'invalid-input',
        fields: { cutting: 'Nothing would be cut: say what is to be done to at least one line.' },
      });
    if (last && same((c) => c.correction) && same((c) => c.cutting ?? AS_LAID_OUT))
      return refuse({
        code: 'refused',
        message: `Cut file ${last.revision} carries just that already: nothing has changed since.`,
      });
    await addCut(inner, actor, jobId, made);
    return accept(null);
  },
);

/** Done with it: its files can still be had, nothing of it changes any more. */
export const closeJob = jobStep(
  idSchema,
  { act: 'close', allowed: ['frozen'] },
  async (inner, _row, jobId, actor): Done => {
    await inner.db
      .update(sheetJobs)
      .set({ stage: 'closed', closedBy: actor, closedAt: inner.now() })
      .where(eq(sheetJobs.id, jobId));
    return accept(null);
  },
);

/** Throws a draft away, or brings it back. */
const discarding = (act: string, away: boolean) =>
  jobStep(idSchema, { act, allowed: ['draft'], discarded: !away }, async (inner, _, jobId): Done => {
    await inner.db.update(sheetJobs).set({ discarded: away }).where(eq(sheetJobs.id, jobId));
    return accept(null);
  });
export const throwAway = discarding('throw away', true);
export const bringBack = discarding('bring back', false);
