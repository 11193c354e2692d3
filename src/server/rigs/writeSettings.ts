import { and, asc, eq, inArray, isNull } from 'drizzle-orm';

import { machineSettings, settingValues } from '@/db/schema';
import type { Actor, Deps } from '@/server/base/deps';
import type { Setup } from '@/server/setups/setup';
import type { RigInput } from '@/server/setups/shapes';

import { shownForAll, typeValue } from './machineValues';

interface Machines {
  readonly cutterId: string;
  readonly printerId: string;
}

type SettingRow = typeof machineSettings.$inferSelect;

/**
 * Inserts, changes and retires settings to match the form; values that change go into the history. A setting that comes
 * to be kept for each medium starts with what was typed for each of them; later each medium’s own page tells its value.
 * @returns what settings show that were not there before, and of which somebody typed another value.
 */
export async function writeSettings(
  deps: Deps,
  actor: Actor,
  { cutterId, printerId }: Machines,
  settings: RigInput['settings'],
  setups: readonly Pick<Setup, 'id' | 'mediaId'>[],
): Promise<{ readonly added: Record<string, number>; readonly retyped: Record<string, number> }> {
  const before = await deps.db
    .select()
    .from(machineSettings)
    .where(and(inArray(machineSettings.machineId, [cutterId, printerId]), isNull(machineSettings.retiredAt)))
    .orderBy(asc(machineSettings.position));
  await clearTheWay(deps, before, new Set(settings.map((s) => s.id)));
  const added: Record<string, number> = {};
  const retyped: Record<string, number> = {};
  for (const [position, { id, value, on, ...definition }] of settings.entries()) {
    const machineId = on === 'printer' ? printerId : cutterId;
    const old = before.find((s) => s.id === id);
    const values = { ...definition, position, machineId };
    const settingId = old ? old.id : await insertSetting(deps, values);
    if (old) await deps.db.update(machineSettings).set(values).where(eq(machineSettings.id, old.id));
    const moved = old !== undefined && old.kept !== definition.kept;
    const was = old ? await shownForAll(deps, settingId) : null;
    if (moved) await deps.db.delete(settingValues).where(eq(settingValues.settingId, settingId));
    const setting = { id: settingId, step: definition.step, kept: definition.kept };
    const typed = { setting, from: was, to: value };
    const reason = old ? 'edited on the rig’s page' : 'as found';
    if (!old) added[settingId] = value;
    if (definition.kept === 'one') {
      if (was !== null && was !== value) retyped[settingId] = value;
      if (was !== value || moved) await typeValue(deps, actor, typed, { reason });
    } else if (!old || moved) {
      const media = new Map(setups.map((s) => [s.mediaId, s]));
      for (const setup of media.values()) await typeValue(deps, actor, typed, { reason, setup });
    }
  }
  return { added, retyped };
}

async function insertSetting(deps: Deps, values: typeof machineSettings.$inferInsert): Promise<string> {
  const [row] = await deps.db.insert(machineSettings).values(values).returning({ id: machineSettings.id });
  return row!.id;
}

/** Kept ones move out of the way of the others’ new positions; the rest are taken off. */
async function clearTheWay(
  deps: Deps,
  before: readonly SettingRow[],
  kept: ReadonlySet<string | undefined>,
): Promise<void> {
  for (const old of before)
    await deps.db
      .update(machineSettings)
      .set(kept.has(old.id) ? { position: old.position + 100 } : { retiredAt: deps.now() })
      .where(eq(machineSettings.id, old.id));
}
