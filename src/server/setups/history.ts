import { desc, eq, inArray } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { OF_ONE_SETUP, type EventKind } from '@/core/setup';
import { events, machineSettings, media, settingChanges, setups } from '@/db/schema';
import { type Actor, type Deps, type Done } from '@/server/base/deps';
import { useCase } from '@/server/base/useCase';
import { eventInputSchema } from './shapes';

import { getSetup } from './repository';
import type { Rig, Setup } from './setup';

export interface SettingChangeEntry {
  readonly setting: string;
  readonly unit: string;
  /** Its smallest step: so many places its figures have. */
  readonly step: number;
  readonly from: number | null;
  readonly to: number;
  readonly reason: string;
  /** The medium that it was typed for; null when it was for none. */
  readonly media: string | null;
  readonly by: string;
  readonly at: Date;
}

/** So much of a rig’s history its page shows; the export has all. */
const HISTORY_BACK = 100;

/** The newest changes of what a rig’s machines show, newest first. */
export async function settingHistory(
  deps: Deps,
  rig: Pick<Rig, 'cutterId' | 'printerId'>,
): Promise<SettingChangeEntry[]> {
  return deps.db
    .select({
      setting: machineSettings.name,
      unit: machineSettings.unit,
      step: machineSettings.step,
      from: settingChanges.fromValue,
      to: settingChanges.toValue,
      reason: settingChanges.reason,
      media: media.name,
      by: settingChanges.changedBy,
      at: settingChanges.changedAt,
    })
    .from(settingChanges)
    .innerJoin(machineSettings, eq(machineSettings.id, settingChanges.settingId))
    .leftJoin(setups, eq(setups.id, settingChanges.setupId))
    .leftJoin(media, eq(media.id, setups.mediaId))
    .where(inArray(machineSettings.machineId, [rig.cutterId, rig.printerId]))
    .orderBy(desc(settingChanges.changedAt))
    .limit(HISTORY_BACK);
}

export const recordEvent = useCase(
  eventInputSchema,
  { act: 'event', about: 'setupId' },
  async (inner, given, actor): Done => {
    const { setupId } = given;
    const setup = await getSetup(inner, setupId);
    if (!setup) return refuse({ code: 'not-found', what: 'rig' });
    await noteEvent(inner, actor, setup, given);
    return accept(null);
  },
);

export const firstEdgeSchema = z.object({ setupId: z.uuid(), bobFirst: z.boolean() });

/** Which edge of a sheet leaves the printer first, as somebody saw it: kept with the rig, and in its log. */
export const sayFirstEdge = useCase(
  firstEdgeSchema,
  { act: 'first edge', about: 'setupId' },
  async (inner, { setupId, bobFirst }): Done => {
    const [row] = await inner.db
      .update(setups)
      .set({ bobFirst })
      .where(eq(setups.id, setupId))
      .returning({ id: setups.id });
    return row ? accept(null) : refuse({ code: 'not-found', what: 'rig' });
  },
);

/** Something that happened to a whole rig, for a step that keeps something else too. */
export const noteRigEvent = (deps: Deps, actor: Actor, rigId: string, kind: EventKind, note: string) =>
  deps.db.insert(events).values({ rigId, kind, note, recordedBy: actor, happenedAt: deps.now() });

/** Writes an event into the log, for a step that keeps something else too. */
export const noteEvent = (
  deps: Deps,
  actor: Actor,
  { id, rigId }: Pick<Setup, 'id' | 'rigId'>,
  { kind, note }: Pick<z.output<typeof eventInputSchema>, 'kind' | 'note'>,
) =>
  deps.db.insert(events).values({
    rigId,
    setupId: OF_ONE_SETUP.includes(kind) ? id : null,
    kind,
    note,
    recordedBy: actor,
    happenedAt: deps.now(),
  });
