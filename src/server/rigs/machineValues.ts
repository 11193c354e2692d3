import { and, eq, isNull, sql } from 'drizzle-orm';

import { sameFigure } from '@/core/setup';
import { machines, machineSettings, settingChanges, settingValues } from '@/db/schema';
import type { Actor, Deps } from '@/server/base/deps';
import type { Setup, SetupSetting } from '@/server/setups/setup';

export interface Typed {
  readonly setting: Pick<SetupSetting, 'id' | 'kept' | 'step'>;
  readonly from: number | null;
  readonly to: number;
}

export interface Why {
  readonly reason: string;
  /** The setup that it was typed for. */
  readonly setup?: Pick<Setup, 'id' | 'mediaId'>;
  readonly correctionId?: string;
}

/**
 * A figure as its machine shows it from now on, with who said so and why. Whoever has the rig's form open is told by
 * the machine's version before saving over it.
 */
export async function typeValue(
  deps: Deps,
  actor: Actor,
  { setting, from, to }: Typed,
  why: Why,
): Promise<void> {
  const mediaId = setting.kept === 'per-medium' ? (why.setup?.mediaId ?? null) : null;
  await deps.db
    .insert(settingValues)
    .values({ settingId: setting.id, mediaId, value: to, since: deps.now(), by: actor })
    .onConflictDoUpdate({
      target: [settingValues.settingId, settingValues.mediaId],
      set: { value: to, since: deps.now(), by: actor },
    });
  if (from !== null && sameFigure(from, to, setting.step)) return;
  await deps.db.insert(settingChanges).values({
    settingId: setting.id,
    setupId: why.setup?.id ?? null,
    fromValue: from,
    toValue: to,
    reason: why.reason,
    correctionId: why.correctionId ?? null,
    changedBy: actor,
    changedAt: deps.now(),
  });
  await deps.db
    .update(machines)
    .set({ version: sql`${machines.version} + 1` })
    .where(
      eq(
        machines.id,
        deps.db
          .select({ id: machineSettings.machineId })
          .from(machineSettings)
          .where(eq(machineSettings.id, setting.id)),
      ),
    );
}

/** What a setting shows for all media; null when its machine keeps one for each. */
export async function shownForAll(deps: Deps, settingId: string): Promise<number | null> {
  const [row] = await deps.db
    .select({ value: settingValues.value })
    .from(settingValues)
    .where(and(eq(settingValues.settingId, settingId), isNull(settingValues.mediaId)));
  return row?.value ?? null;
}
