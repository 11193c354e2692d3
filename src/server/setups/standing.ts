import { and, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import type { Standing, StandingSource } from '@/core/setup';
import { sessions, setups, standingCorrections } from '@/db/schema';
import type { Actor, Deps, Done } from '@/server/base/deps';
import { accept, refuse } from '@/core/outcome';
import { standingFile, standingSettings } from '@/db/stored/setups';
import { idSchema } from '@/server/base/shapes';
import { useCase } from '@/server/base/useCase';

import { getSetup } from './repository';
import type { Setup } from './setup';

/** Where a new standing correction came from. */
export interface StandingOrigin {
  readonly source: StandingSource;
  readonly sessionId?: string | null;
  readonly correctionId?: string | null;
  readonly r95Mm?: number | null;
}

/** The values that a setup wants, by setting. */
export const wantedOf = (setup: Pick<Setup, 'settings'>): Record<string, number> =>
  Object.fromEntries(setup.settings.map((s) => [s.id, s.wanted]));

/** The standing correction as the rules of the core look at it. */
export const standingOf = (setup: Setup): Standing => ({
  settings: wantedOf(setup),
  fileTransform: setup.standing.fileTransform,
});

/** The first, or the next one: what was there is kept. */
export async function replaceStanding(
  deps: Deps,
  actor: Actor,
  setupId: string,
  standing: Standing,
  { source, sessionId = null, correctionId = null, r95Mm = null }: StandingOrigin,
): Promise<void> {
  await deps.db
    .update(standingCorrections)
    .set({ replacedAt: deps.now() })
    .where(and(eq(standingCorrections.setupId, setupId), isNull(standingCorrections.replacedAt)));
  await deps.db.insert(standingCorrections).values({
    setupId,
    settings: standing.settings,
    // NULL of the table, not null of JSON.
    ...(standing.fileTransform ? { fileTransform: standing.fileTransform } : {}),
    source,
    sessionId,
    correctionId,
    r95Mm,
    by: actor,
    since: deps.now(),
  });
}

/** The session is open again: what it made the standing correction is so no more, what stood before it stands again. */
export async function undoStanding(deps: Deps, setupId: string, sessionId: string): Promise<void> {
  const [made] = await deps.db
    .update(standingCorrections)
    .set({ replacedAt: deps.now() })
    .where(
      and(
        eq(standingCorrections.setupId, setupId),
        eq(standingCorrections.sessionId, sessionId),
        isNull(standingCorrections.replacedAt),
      ),
    )
    .returning({ id: standingCorrections.id, since: standingCorrections.since });
  if (!made) return;
  const before = deps.db
    .select({ id: standingCorrections.id })
    .from(standingCorrections)
    .where(
      and(
        eq(standingCorrections.setupId, setupId),
        sql`${standingCorrections.since} <= ${made.since}`,
        sql`${standingCorrections.id} <> ${made.id}`,
      ),
    )
    .orderBy(desc(standingCorrections.replacedAt))
    .limit(1);
  await deps.db
    .update(standingCorrections)
    .set({ replacedAt: null })
    .where(inArray(standingCorrections.id, before));
}

/** A rig got a setting more: every setup of it wants what it shows now, until a calibration says otherwise. */
export async function wantAsFound(
  deps: Deps,
  setupIds: readonly string[],
  values: Readonly<Record<string, number>>,
): Promise<void> {
  if (setupIds.length === 0 || Object.keys(values).length === 0) return;
  await deps.db
    .update(standingCorrections)
    .set({ settings: sql`${standingCorrections.settings} || ${JSON.stringify(values)}::jsonb` })
    .where(and(inArray(standingCorrections.setupId, [...setupIds]), isNull(standingCorrections.replacedAt)));
}

export interface StandingEntry {
  readonly id: string;
  readonly settings: Readonly<Record<string, number>>;
  readonly carriesFile: boolean;
  readonly source: StandingSource;
  readonly session: { readonly id: string; readonly number: number } | null;
  readonly r95Mm: number | null;
  readonly by: string;
  readonly since: Date;
  /** Null of the one that stands. */
  readonly replacedAt: Date | null;
}

/** So many a page shows; all are kept. */
const STANDING_BACK = 30;

/** What stands and what stood, newest first. */
export async function standingHistory(deps: Deps, setupId: string): Promise<StandingEntry[]> {
  const rows = await deps.db
    .select({ standing: standingCorrections, number: sessions.number })
    .from(standingCorrections)
    .leftJoin(sessions, eq(sessions.id, standingCorrections.sessionId))
    .where(eq(standingCorrections.setupId, setupId))
    .orderBy(sql`${standingCorrections.replacedAt} desc nulls first`)
    .limit(STANDING_BACK);
  return rows.map(({ standing, number }) => ({
    id: standing.id,
    settings: standingSettings.read(standing.settings),
    carriesFile: standing.fileTransform !== null,
    source: standing.source,
    session: standing.sessionId !== null && number !== null ? { id: standing.sessionId, number } : null,
    r95Mm: standing.r95Mm,
    by: standing.by,
    since: standing.since,
    replacedAt: standing.replacedAt,
  }));
}

/** An earlier standing correction stands again. What its settings want has to be typed at the next change-over. */
export const takeBackStanding = useCase(
  z.object({ setupId: idSchema, standingId: idSchema }),
  { act: 'take back standing', about: 'setupId' },
  async (inner, { setupId, standingId }, actor): Done => {
    await inner.db.select({ id: setups.id }).from(setups).where(eq(setups.id, setupId)).for('update');
    const setup = await getSetup(inner, setupId);
    if (!setup) return refuse({ code: 'not-found', what: 'setup' });
    const [row] = await inner.db
      .select()
      .from(standingCorrections)
      .where(
        and(
          eq(standingCorrections.id, standingId),
          eq(standingCorrections.setupId, setupId),
          isNotNull(standingCorrections.replacedAt),
        ),
      );
    if (!row)
      return refuse({
        code: 'stale',
        message: 'This correction stands already. The page shows what is so now.',
      });
    const then = standingSettings.read(row.settings);
    const standing: Standing = {
      // Settings that came later keep what they have now.
      settings: { ...wantedOf(setup), ...then },
      fileTransform: row.fileTransform === null ? null : standingFile.read(row.fileTransform),
    };
    const { sessionId, correctionId, r95Mm } = row;
    await replaceStanding(inner, actor, setupId, standing, {
      source: 'taken-back',
      sessionId,
      correctionId,
      r95Mm,
    });
    return accept(null);
  },
);
