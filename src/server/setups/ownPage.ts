import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { atPageEnd, type OwnPagePicks } from '@/core/setup';
import type { OffsetAxis } from '@/core/units';
import { ownPages, setups } from '@/db/schema';
import { type Deps, type Done } from '@/server/base/deps';
import { words, idSchema } from '@/server/base/shapes';
import { useCase } from '@/server/base/useCase';

/* Runs of a machine's own calibration, kept with what was picked on its page. */

/** A run as it was kept. */
export interface OwnPage extends OwnPagePicks {
  readonly id: string;
  readonly medium: string;
  readonly coarse: string;
  readonly answer: string;
  readonly by: string;
  readonly at: Date;
}

const MOST = 1e4;
const figure = (what: string) =>
  z
    .number(`Type ${what} as a number, for example −2 or 0.5.`)
    .min(-MOST, 'At least −10,000.')
    .max(MOST, 'At most 10,000.');
const said = z.string().trim().max(60, 'At most 60 characters.').default('');

const ownPageSchema = z
  .object({
    setupId: z.uuid(),
    medium: words('what the machine printed its page on', 60),
    coarse: said,
    across: figure('the pick across'),
    along: figure('the pick along the feed'),
    lowest: figure('the lowest number on the page'),
    highest: figure('the highest number on the page'),
    answer: said,
  })
  .refine((p) => p.lowest < p.highest, {
    path: ['highest'],
    message: 'The highest number on the page is above its lowest.',
  })
  .superRefine((p, ctx) => {
    for (const axis of ['across', 'along'] as const)
      if (p.lowest < p.highest && (p[axis] < p.lowest || p[axis] > p.highest))
        ctx.addIssue({
          code: 'custom',
          path: [axis],
          message: `The page goes from ${p.lowest} to ${p.highest}: pick one of its lines.`,
          input: p[axis],
        });
  });

/** Keeps a run; says of which axes the pick was the last on the page. */
export const keepOwnPage = useCase(
  ownPageSchema,
  { act: 'own page', about: 'setupId' },
  async (inner, run, actor): Done<{ readonly atEnd: readonly OffsetAxis[] }> => {
    const [setup] = await inner.db.select({ id: setups.id }).from(setups).where(eq(setups.id, run.setupId));
    if (!setup) return refuse({ code: 'not-found', what: 'setup' });
    await inner.db.insert(ownPages).values({ ...run, by: actor, at: inner.now() });
    return accept({ atEnd: atPageEnd(run) });
  },
);

/** Entered by mistake: it stays in the log and counts no more. */
export const takeBackOwnPage = useCase(idSchema, { act: 'take own page back' }, async (inner, id): Done => {
  const gone = await inner.db
    .update(ownPages)
    .set({ takenBackAt: inner.now() })
    .where(and(eq(ownPages.id, id), isNull(ownPages.takenBackAt)))
    .returning({ id: ownPages.id });
  return gone.length > 0 ? accept(null) : refuse({ code: 'not-found', what: 'run of the machine’s page' });
});

/** So many runs are charted; the export has all. */
const RUNS_BACK = 200;

/** The runs of a setup's machine, oldest first. */
export async function ownPagesOf(deps: Deps, setupId: string): Promise<OwnPage[]> {
  const rows = await deps.db
    .select()
    .from(ownPages)
    .where(and(eq(ownPages.setupId, setupId), isNull(ownPages.takenBackAt)))
    .orderBy(desc(ownPages.at), asc(ownPages.id))
    .limit(RUNS_BACK);
  return rows.reverse().map(({ id, medium, coarse, across, along, lowest, highest, answer, by, at }) => ({
    ...{ id, medium, coarse, across, along, lowest, highest, answer, by, at },
  }));
}
