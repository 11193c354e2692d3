import { setupsByRig, setupWords } from '@/core/setup/inLists';
import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { REMEDY_IDS, remediesInOrder, type RemedyToTry } from '@/core/diagnosis';
import { accept, refuse } from '@/core/outcome';
import { remediesTried, setups } from '@/db/schema';
import { type Deps, type Done } from '@/server/base/deps';
import { listSetups } from '@/server/setups/repository';
import { idSchema } from '@/server/base/shapes';
import { useCase } from '@/server/base/useCase';

/** What to try when a mark will not read, for one setup; and the setups to choose from. */
export interface MarkRemedies {
  readonly setupId: string | null;
  readonly setups: readonly { readonly id: string; readonly words: string }[];
  readonly order: readonly RemedyToTry[];
}

/** The remedies in the order that the shop's own record makes of them; of no setup: of the whole shop. */
export async function remediesFor(deps: Deps, setupId: string | null): Promise<MarkRemedies> {
  const list = await listSetups(deps);
  const here = list.find((s) => s.id === setupId) ?? null;
  const rows = await deps.db
    .select({
      setupId: remediesTried.setupId,
      rigId: setups.rigId,
      mediaId: setups.mediaId,
      remedy: remediesTried.remedy,
      worked: remediesTried.worked,
    })
    .from(remediesTried)
    .innerJoin(setups, eq(setups.id, remediesTried.setupId))
    .where(isNull(remediesTried.takenBackAt));
  const order = remediesInOrder(
    rows.map((row) => ({
      ...{ remedy: row.remedy, worked: row.worked },
      where:
        row.rigId !== here?.rigId
          ? ('elsewhere' as const)
          : row.mediaId === here.mediaId
            ? ('here' as const)
            : ('rig' as const),
    })),
  );
  return {
    setupId: here?.id ?? null,
    setups: setupsByRig(list).map((s) => ({ id: s.id, words: setupWords(s) })),
    order,
  };
}

export const triedInputSchema = z.object({
  setupId: z.uuid('Choose the rig and medium first.'),
  remedy: z.enum(REMEDY_IDS),
  worked: z.boolean(),
});

/** Writes down that a remedy was tried, and whether it helped. */
export const noteTried = useCase(
  triedInputSchema,
  { act: 'remedy tried', about: 'setupId' },
  async (inner, given, actor): Done<{ readonly triedId: string }> => {
    const { setupId } = given;
    const [there] = await inner.db.select({ id: setups.id }).from(setups).where(eq(setups.id, setupId));
    if (!there) return refuse({ code: 'not-found', what: 'setup' });
    const [row] = await inner.db
      .insert(remediesTried)
      .values({ ...given, by: actor, at: inner.now() })
      .returning({ id: remediesTried.id });
    return accept({ triedId: row!.id });
  },
);

/** Pressed by mistake: it stays in the log and does not count. */
export const takeBackTried = useCase(idSchema, { act: 'remedy taken back' }, async (inner, triedId): Done => {
  const rows = await inner.db
    .update(remediesTried)
    .set({ takenBackAt: inner.now() })
    .where(and(eq(remediesTried.id, triedId), isNull(remediesTried.takenBackAt)))
    .returning({ id: remediesTried.id });
  return rows.length === 0 ? refuse({ code: 'not-found', what: 'note' }) : accept(null);
});
