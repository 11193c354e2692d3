import { desc, eq, sql } from 'drizzle-orm';

import type { EventKind } from '@/core/setup';
import { events, media, runs, setups } from '@/db/schema';
import type { Deps } from '@/server/base/deps';

/** Something that was noted of a rig: an event, or what was said of a run when it was closed. */
export interface Happened {
  readonly at: Date;
  readonly by: string;
  /** The event's kind; null for a run. */
  readonly kind: EventKind | null;
  readonly run: { readonly id: string; readonly name: string } | null;
  /** The medium that alone it concerns. */
  readonly media: string | null;
  readonly note: string;
}

/** So much of it a rig's page shows; the export has all. */
const BACK = 60;

/** What was noted of a rig, newest first. */
export async function happenedTo(deps: Deps, rigId: string): Promise<Happened[]> {
  const runNote = sql<string>`${runs.outcome}->>'note'`;
  const [noted, told] = await Promise.all([
    deps.db
      .select({
        at: events.happenedAt,
        by: events.recordedBy,
        kind: events.kind,
        media: media.name,
        note: events.note,
      })
      .from(events)
      .leftJoin(setups, eq(setups.id, events.setupId))
      .leftJoin(media, eq(media.id, setups.mediaId))
      .where(eq(events.rigId, rigId))
      .orderBy(desc(events.happenedAt))
      .limit(BACK),
    deps.db
      .select({
        at: runs.closedAt,
        by: runs.closedBy,
        id: runs.id,
        name: runs.name,
        media: media.name,
        note: runNote,
      })
      .from(runs)
      .innerJoin(setups, eq(setups.id, runs.setupId))
      .innerJoin(media, eq(media.id, setups.mediaId))
      .where(sql`${setups.rigId} = ${rigId} and ${runs.closedAt} is not null and ${runNote} <> ''`)
      .orderBy(desc(runs.closedAt))
      .limit(BACK),
  ]);
  return [
    ...noted.map((e) => ({ ...e, kind: e.kind, run: null })),
    ...told.map(({ id, name, at, by, ...r }) => ({
      ...r,
      at: at!,
      by: by ?? '',
      kind: null,
      run: { id, name },
    })),
  ]
    .sort((a, b) => b.at.getTime() - a.at.getTime())
    .slice(0, BACK);
}
