import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { REMEDY_IDS, remediesInOrder, type RemedyToTry } from '@/core/diagnosis';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { remediesTried, setups } from '@/db/schema';
import { keep } from '@/server/base/act';
import { fieldMessages, type Actor, type Deps, type UseCaseRefusal } from '@/server/base/deps';
import { listSetups } from '@/server/setups/repository';

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
    setups: list.map((s) => ({ id: s.id, words: `${s.name}, ${s.media}` })),
    order,
  };
}

export const triedInputSchema = z.object({
  setupId: z.uuid('Choose the rig and medium first.'),
  remedy: z.enum(REMEDY_IDS),
  worked: z.boolean(),
});

/** Writes down that a remedy was tried, and whether it helped. */
export async function noteTried(
  deps: Deps,
  actor: Actor,
  input: unknown,
  request?: string,
): Promise<Outcome<{ readonly triedId: string }, UseCaseRefusal>> {
  const parsed = triedInputSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { setupId } = parsed.data;
  return keep(deps, actor, { act: 'remedy tried', subjectId: setupId, request }, async (inner) => {
    const [there] = await inner.db.select({ id: setups.id }).from(setups).where(eq(setups.id, setupId));
    if (!there) return refuse({ code: 'not-found', what: 'setup' });
    const [row] = await inner.db
      .insert(remediesTried)
      .values({ ...parsed.data, by: actor, at: deps.now() })
      .returning({ id: remediesTried.id });
    return accept({ triedId: row!.id });
  });
}

/** Pressed by mistake: it stays in the log and does not count. */
export async function takeBackTried(
  deps: Deps,
  actor: Actor,
  triedId: string,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  return keep(deps, actor, { act: 'remedy taken back', subjectId: triedId, request }, async (inner) => {
    const rows = await inner.db
      .update(remediesTried)
      .set({ takenBackAt: deps.now() })
      .where(and(eq(remediesTried.id, triedId), isNull(remediesTried.takenBackAt)))
      .returning({ id: remediesTried.id });
    return rows.length === 0 ? refuse({ code: 'not-found', what: 'note' }) : accept(null);
  });
}
