import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { atPageEnd, isPageRange, placeOnPage, type OwnPagePicks, type PagePick } from '@/core/setup';
import { OFFSET_AXES, type OffsetAxis } from '@/core/units';
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

const said = z.string().trim().max(60, 'At most 60 characters.').default('');
const label = z.string().trim().max(12, 'At most 12 characters.').default('');
const axisSchema = z.object({ pick: label, from: label, to: label, middle: label });

const NO_LABEL = 'Type it as it stands on the page: a number, a letter, or both, for example −3, F or B4.';

/** What is wrong with what was picked on one axis, by its field; null when nothing is. */
function wrongPick(axis: PagePick): readonly [keyof PagePick, string] | null {
  const last = placeOnPage(axis, axis.to);
  if (placeOnPage({ ...axis, to: axis.from }, axis.from) === null) return ['from', NO_LABEL];
  if (last === null) return ['to', NO_LABEL];
  if (!isPageRange(axis)) return ['to', `The last line of the page comes after ${axis.from}.`];
  for (const field of ['pick', 'middle'] as const) {
    if (field === 'middle' && axis.middle === '') continue;
    const place = placeOnPage(axis, axis[field]);
    if (place === null) return [field, NO_LABEL];
    if (place < 0 || place > last)
      return [field, `The page goes from ${axis.from} to ${axis.to}: pick one of its lines.`];
  }
  return null;
}

const ownPageSchema = z
  .object({
    setupId: z.uuid(),
    medium: words('what the machine printed its page on', 60),
    coarse: said,
    across: axisSchema,
    along: axisSchema,
    answer: said,
  })
  .superRefine((run, ctx) => {
    for (const axis of OFFSET_AXES) {
      const wrong = wrongPick(run[axis]);
      if (wrong)
        ctx.addIssue({ code: 'custom', path: [axis, wrong[0]], message: wrong[1], input: run[axis] });
    }
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
  return rows.reverse().map(({ id, medium, coarse, across, along, answer, by, at }) => ({
    ...{ id, medium, coarse, across, along, answer, by, at },
  }));
}
