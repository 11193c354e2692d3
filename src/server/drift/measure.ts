import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { setups, runChecks, runs, tapeMeasures } from '@/db/schema';
import { type Done } from '@/server/base/deps';
import { noteEvent } from '@/server/setups/history';
import { getSetup } from '@/server/setups/repository';
import { offset } from '@/server/runs/checks';
import { CHECK_U_MM, refusedRun } from '@/server/runs/run';

import { feedSchema } from '@/server/setups/shapes';
import { useCase } from '@/server/base/useCase';

export const twoMarksSchema = z.object({
  setupId: z.uuid(),
  lengthMm: z.number().min(200, 'The marks lie at least 200 mm apart.').max(60_000, 'At most 60 m.'),
  first: z.object({ dxMm: offset, dyMm: offset }),
  last: z.object({ dxMm: offset, dyMm: offset }),
});

/** First and last mark of a long piece: the short way to learn the creep. */
export const saveTwoMarks = useCase(
  twoMarksSchema,
  { act: 'two marks', about: 'setupId' },
  async (inner, { setupId, lengthMm, first, last }, actor): Done => {
    const both = (axis: 'dxMm' | 'dyMm'): boolean => (first[axis] === null) === (last[axis] === null);
    if (!both('dxMm') || !both('dyMm') || (first.dxMm === null && first.dyMm === null))
      return refusedRun('Read the same direction at both marks: across, along or both.');
    if (!(await getSetup(inner, setupId))) return refuse({ code: 'not-found', what: 'rig' });
    const [row] = await inner.db
      .insert(runs)
      .values({
        setupId,
        kind: 'two-marks',
        name: 'first and last mark',
        stage: 'closed',
        startedBy: actor,
        startedAt: inner.now(),
        closedBy: actor,
        closedAt: inner.now(),
      })
      .returning({ id: runs.id });
    await inner.db.insert(runChecks).values(
      [
        { place: 'first row' as const, yMm: 0, ...first },
        { place: 'last row' as const, yMm: lengthMm, ...last },
      ].map((c) => ({
        ...c,
        runId: row!.id,
        section: 1,
        way: 'comb' as const,
        uMm: CHECK_U_MM.comb,
        enteredBy: actor,
        enteredAt: inner.now(),
      })),
    );
    return accept(null);
  },
);

export const tapeSchema = z
  .object({
    setupId: z.uuid(),
    of: z.enum(['print', 'cut']),
    nominalMm: z.number().min(300, 'Measure at least 300 mm.').max(60_000, 'At most 60 m.'),
    measuredMm: z.number().min(300, 'Measure at least 300 mm.').max(60_000, 'At most 60 m.'),
    uMm: z.number().min(0.05).max(5),
  })
  .refine((t) => Math.abs(t.measuredMm / t.nominalMm - 1) < 0.03, {
    path: ['measuredMm'],
    message: 'That is more than 3 % off. Is it the same distance, in the same unit?',
  });

export const saveTape = useCase(
  tapeSchema,
  { act: 'tape', about: 'setupId' },
  async (inner, given, actor): Done => {
    const { setupId } = given;
    if (!(await getSetup(inner, setupId))) return refuse({ code: 'not-found', what: 'rig' });
    await inner.db.insert(tapeMeasures).values({ ...given, enteredBy: actor, enteredAt: inner.now() });
    return accept(null);
  },
);

export const setFeedSchema = z.object({ setupId: z.uuid(), feedPercent: feedSchema });

/** What the printer's feed compensation is now; after a change the print is measured anew. */
export const setFeed = useCase(
  setFeedSchema,
  { act: 'feed', about: 'setupId' },
  async (inner, { setupId, feedPercent }, actor): Done => {
    await inner.db.select({ id: setups.id }).from(setups).where(eq(setups.id, setupId)).for('update');
    const setup = await getSetup(inner, setupId);
    if (!setup) return refuse({ code: 'not-found', what: 'rig' });
    // Told for the first time, it is what the earlier measures were made with.
    const changed = setup.feedPercent !== null && setup.feedPercent !== feedPercent;
    await inner.db
      .update(setups)
      .set({ feedPercent, ...(changed ? { feedSetAt: inner.now() } : {}) })
      .where(eq(setups.id, setupId));
    if (changed)
      await noteEvent(inner, actor, setup, {
        kind: 'feed',
        note: `from ${setup.feedPercent!.toFixed(2)} % to ${feedPercent.toFixed(2)} %`,
      });
    return accept(null);
  },
);
