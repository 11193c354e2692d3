import { and, eq, inArray, or, sql } from 'drizzle-orm';
import {
  changeOvers,
  corrections,
  events,
  fits,
  machineSettings,
  mats,
  passes,
  rigs,
  sessions,
  setups,
  standingCorrections,
  tools,
} from '@/db/schema';
import { type Deps } from '@/server/base/deps';
import type { Rig } from '@/server/setups/setup';

/* The rows of one rig become another's: what is written is what was, under the other's ids. */

/** Ids inside stored JSON: each is a UUID, which stands for nothing else. */
export async function renameInLog(deps: Deps, was: string, now: string, other: Rig): Promise<void> {
  const renamed = (column: unknown) => sql`replace(${column}::text, ${was}, ${now})::jsonb`;
  const ids = deps.db
    .select({ id: setups.id })
    .from(setups)
    .innerJoin(rigs, eq(rigs.id, setups.rigId))
    .where(or(eq(rigs.cutterId, other.cutterId), eq(rigs.printerId, other.printerId)));
  const sessionIds = deps.db.select({ id: sessions.id }).from(sessions).where(inArray(sessions.setupId, ids));
  const passIds = deps.db.select({ id: passes.id }).from(passes).where(inArray(passes.sessionId, sessionIds));
  const fitIds = deps.db.select({ id: fits.id }).from(fits).where(inArray(fits.passId, passIds));
  await deps.db
    .update(passes)
    .set({ settingsAtCut: renamed(passes.settingsAtCut) })
    .where(inArray(passes.sessionId, sessionIds));
  await deps.db
    .update(fits)
    .set({ inputs: renamed(fits.inputs), result: renamed(fits.result) })
    .where(inArray(fits.passId, passIds));
  await deps.db
    .update(corrections)
    .set({ changes: renamed(corrections.changes), plan: renamed(corrections.plan) })
    .where(inArray(corrections.fitId, fitIds));
  await deps.db
    .update(standingCorrections)
    .set({ settings: renamed(standingCorrections.settings) })
    .where(inArray(standingCorrections.setupId, ids));
  await deps.db
    .update(changeOvers)
    .set({ changes: renamed(changeOvers.changes) })
    .where(inArray(changeOvers.setupId, ids));
  await deps.db
    .update(setups)
    .set({
      simulation: sql`case when ${setups.simulation} is null then null else ${renamed(setups.simulation)} end`,
    })
    .where(inArray(setups.id, ids));
}

/** The other rig’s setups, archived ones too, and what happened to it. The rig that nothing is left on stays in the log. */
export async function moveOver(deps: Deps, rig: Rig, other: Rig): Promise<void> {
  // What happened to the other rig concerned its own setups only.
  for (const setup of other.setups)
    await deps.db.execute(sql`
      insert into ${events} (rig_id, setup_id, kind, note, recorded_by, happened_at)
      select ${rig.id}, ${setup.id}, kind, note, recorded_by, happened_at from ${events}
      where rig_id = ${other.id} and setup_id is null`);
  await deps.db
    .update(events)
    .set({ rigId: rig.id })
    .where(and(eq(events.rigId, other.id), sql`${events.setupId} is not null`));
  await deps.db
    .update(setups)
    .set({
      rigId: rig.id,
      // A name that was its own stays with it.
      label: sql`case when ${setups.label} <> '' or ${other.name} = ${rig.name} then ${setups.label} else ${other.name} end`,
    })
    .where(eq(setups.rigId, other.id));
  // What else belonged to the machine that was one of the same: settings it had once, tools, mats.
  for (const [was, now] of [
    [other.cutterId, rig.cutterId],
    [other.printerId, rig.printerId],
  ] as const)
    for (const table of [machineSettings, tools, mats])
      await deps.db.update(table).set({ machineId: now }).where(eq(table.machineId, was));
  // Further rigs of the machine that was one of the same go on with the one that stays.
  await deps.db.update(rigs).set({ cutterId: rig.cutterId }).where(eq(rigs.cutterId, other.cutterId));
  await deps.db.update(rigs).set({ printerId: rig.printerId }).where(eq(rigs.printerId, other.printerId));
  await deps.db.update(changeOvers).set({ rigId: rig.id }).where(eq(changeOvers.rigId, other.id));
  await deps.db
    .update(rigs)
    .set({
      version: sql`${rigs.version} + 1`,
      // What one of them was told about its cut files holds for the machine.
      ...(rig.fileFrame === null && other.fileFrame !== null ? { fileFrame: other.fileFrame } : {}),
    })
    .where(eq(rigs.id, rig.id));
}
