import { USUAL_POLICY } from '@/core/control';
import { asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';

import { changeOvers, machines, rigs } from '@/db/schema';
import { rigCheckAfter, rigFileFrame } from '@/db/stored/setups';
import type { Deps } from '@/server/base/deps';
import { listSetups } from '@/server/setups/repository';
import type { Rig, Setup } from '@/server/setups/setup';

const printer = alias(machines, 'printer');
const cutter = alias(machines, 'cutter');

/** One rig with its setups in use; null when there is none. */
export async function getRig(deps: Deps, rigId: string): Promise<Rig | null> {
  const [rig] = await loadRigs(deps, [rigId], await listSetups(deps, rigId));
  return rig ?? null;
}

/** The rigs that these setups belong to, oldest first. */
export async function rigsOf(deps: Deps, setups: readonly Setup[]): Promise<Rig[]> {
  return loadRigs(deps, [...new Set(setups.map((s) => s.rigId))], setups);
}

async function loadRigs(deps: Deps, ids: readonly string[], setups: readonly Setup[]): Promise<Rig[]> {
  if (ids.length === 0) return [];
  const rows = await deps.db
    .select({
      rig: rigs,
      printer: printer.name,
      cutter: cutter.name,
      // One machine that does both counts once.
      version: sql<number>`${rigs.version} + ${cutter.version} + case when ${printer.id} = ${cutter.id} then 0 else ${printer.version} end`,
    })
    .from(rigs)
    .innerJoin(printer, eq(printer.id, rigs.printerId))
    .innerJoin(cutter, eq(cutter.id, rigs.cutterId))
    .where(inArray(rigs.id, [...ids]))
    .orderBy(asc(rigs.createdAt), asc(rigs.name));
  const newest = await deps.db
    .selectDistinctOn([changeOvers.rigId], {
      rigId: changeOvers.rigId,
      setupId: changeOvers.setupId,
      by: changeOvers.by,
      at: changeOvers.at,
    })
    .from(changeOvers)
    .where(inArray(changeOvers.rigId, [...ids]))
    .orderBy(changeOvers.rigId, desc(changeOvers.at));
  return rows.map(({ rig, version, ...names }) => ({
    id: rig.id,
    name: rig.name,
    ...names,
    printerId: rig.printerId,
    cutterId: rig.cutterId,
    changeable: rig.changeable,
    fileFrame: rigFileFrame.orNull(rig.fileFrame),
    checkAfter: rigCheckAfter.orNull(rig.checkAfter) ?? USUAL_POLICY,
    version,
    setups: setups.filter((s) => s.rigId === rig.id),
    onIt: newest.find((c) => c.rigId === rig.id) ?? null,
  }));
}
