import { CHECK_PLACES, CHECK_WAYS } from '@/core/setup';
import { and, eq, inArray, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { runChecks } from '@/db/schema';
import { type Done, type Actor, type Deps } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';

import { CHECK_U_MM, checkYMm, refusedRun, type RunCheck } from './run';
import { runStep, OPEN_RUN } from './step';

export const offset = z
  .number()
  .min(-30, 'A check reads within 30 mm. Is the decimal point right?')
  .max(30, 'A check reads within 30 mm. Is the decimal point right?')
  .nullable();

export const checkSchema = z
  .object({
    runId: z.uuid(),
    section: z.int().min(1),
    place: z.enum(CHECK_PLACES),
    way: z.enum(CHECK_WAYS),
    dxMm: offset,
    dyMm: offset,
    /** The checks of this place that the sender has seen and means to replace; others count beside it. */
    replaces: z.array(z.uuid()).max(20).default([]),
  })
  .refine((c) => c.dxMm !== null || c.dyMm !== null, {
    path: ['dyMm'],
    message: 'Enter at least one offset; 0 when the cut is where it should be.',
  });

/** Keeps a check as it was read. What it replaces stays in the log; what its reader had not seen goes on counting. */
export const saveCheck = runStep(
  checkSchema,
  { act: 'check', allowed: OPEN_RUN },
  async (inner, run, { runId, section, place, way, dxMm, dyMm, replaces }, actor): Done => {
    const own = run.sections[section - 1];
    if (!own) return refuse({ code: 'not-found', what: `section ${section} of this run` });
    if (own.state === 'waiting')
      return refusedRun(`Section ${section} is not cut yet. Say that it is cut, then check it.`);
    const yMm = checkYMm(run.plan, section, place);
    await keepCheck(inner, actor, runId, { section, place, way, yMm, dxMm, dyMm, replaces });
    return accept(null);
  },
);

/** Keeps a check and marks what it replaces: for a step that holds the run. */
export async function keepCheck(
  inner: Deps,
  actor: Actor,
  runId: string,
  {
    replaces,
    ...check
  }: Pick<RunCheck, 'section' | 'place' | 'way' | 'yMm' | 'dxMm' | 'dyMm'> & {
    readonly replaces: readonly string[];
  },
): Promise<void> {
  const { section, place, way } = check;
  if (replaces.length > 0)
    await inner.db
      .update(runChecks)
      .set({ replacedAt: inner.now() })
      .where(and(currentChecks(runId, replaces), eq(runChecks.section, section), eq(runChecks.place, place)));
  await inner.db.insert(runChecks).values({
    ...{ runId, ...check, uMm: CHECK_U_MM[way] },
    ...{ enteredBy: actor, enteredAt: inner.now() },
  });
}

const currentChecks = (runId: string, ids: readonly string[]) =>
  and(eq(runChecks.runId, runId), inArray(runChecks.id, [...ids]), isNull(runChecks.replacedAt));

/** Takes a check back; it stays in the log as replaced. */
export const takeBackCheck = runStep(
  z.object({ runId: idSchema, checkId: idSchema }),
  { act: 'take check back', allowed: OPEN_RUN },
  async (inner, _row, { runId, checkId }): Done => {
    await inner.db
      .update(runChecks)
      .set({ replacedAt: inner.now() })
      .where(currentChecks(runId, [checkId]));
    return accept(null);
  },
);
