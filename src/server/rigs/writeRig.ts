import { and, eq, isNull, ne, sql } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { machines, rigs, setups } from '@/db/schema';
import { type Actor, type Deps, type Done } from '@/server/base/deps';
import { listSetups } from '@/server/setups/repository';
import type { Rig, Setup } from '@/server/setups/setup';
import { newRigSchema, type RigInput, rigInputSchema } from '@/server/setups/shapes';
import { replaceStanding, standingOf, wantAsFound } from '@/server/setups/standing';
import { insertSetup, standAsFound, staleText } from '@/server/setups/writeSetup';
import { idSchema } from '@/server/base/shapes';
import { useCase } from '@/server/base/useCase';

import { getRig } from './repository';
import { writeSettings } from './writeSettings';

const TAKEN = {
  code: 'invalid-input',
  fields: {
    name: 'A rig of this name is on the bench already. Put the medium on that rig, or choose another name.',
  },
} as const;

const ONE_MACHINE = {
  code: 'invalid-input',
  fields: {
    cutter: 'One machine prints and cuts on this rig: give printer and cutter the same name.',
  },
} as const;

/** Adds a rig with machines of its own and its first medium. */
export const addRig = useCase(
  newRigSchema,
  { act: 'add rig' },
  async (inner, given, actor): Done<{ rigId: string; setupId: string }> => {
    if (await nameInUse(inner, given.name, null)) return refuse(TAKEN);
    const both = sameName(given.printer, given.cutter);
    const machine = async (name: string, prints: boolean, cuts: boolean): Promise<string> => {
      const values = { name, prints, cuts, createdAt: inner.now() };
      const [row] = await inner.db.insert(machines).values(values).returning({ id: machines.id });
      return row!.id;
    };
    const cutterId = await machine(given.cutter, both, true);
    const printerId = both ? cutterId : await machine(given.printer, true, false);
    const { name, changeable, fileFrame } = given;
    const [rig] = await inner.db
      .insert(rigs)
      .values({
        name,
        changeable,
        ...(fileFrame ? { fileFrame } : {}),
        printerId,
        cutterId,
        createdAt: inner.now(),
      })
      .returning({ id: rigs.id });
    const setup = await insertSetup(inner, rig!.id, given);
    await writeSettings(inner, actor, { cutterId, printerId }, given.settings, [setup]);
    await standAsFound(inner, actor, setup.id);
    return accept({ rigId: rig!.id, setupId: setup.id });
  },
);

/** Changes a rig and its machines; refused when somebody else saved it, or typed a figure, in the meantime. */
export const changeRig = useCase(
  rigInputSchema.safeExtend({ rigId: idSchema, version: z.int() }),
  { act: 'change rig', about: 'rigId' },
  async (inner, { rigId, version, ...given }, actor): Done<{ rigId: string }> => {
    await lockRig(inner, rigId);
    const before = await getRig(inner, rigId);
    if (!before) return refuse({ code: 'not-found', what: 'rig' });
    if (before.version !== version)
      return refuse({ code: 'stale', message: changedMeanwhile(before, given) });
    if (await nameInUse(inner, given.name, rigId)) return refuse(TAKEN);
    if (before.printerId === before.cutterId && !sameName(given.printer, given.cutter))
      return refuse(ONE_MACHINE);
    const rename = (id: string, name: string) =>
      inner.db.update(machines).set({ name }).where(eq(machines.id, id));
    await rename(before.printerId, given.printer);
    await rename(before.cutterId, given.cutter);
    await inner.db
      .update(rigs)
      .set({
        name: given.name,
        changeable: given.changeable,
        // NULL of the table, not null of JSON.
        fileFrame: given.fileFrame ?? sql`null`,
        version: sql`${rigs.version} + 1`,
      })
      .where(eq(rigs.id, rigId));
    const shared = await setupsOfMachines(inner, before);
    const written = await writeSettings(inner, actor, before, given.settings, shared);
    await wantAsFound(
      inner,
      shared.map((s) => s.id),
      written.added,
    );
    await followWhereFound(inner, actor, shared, written.retyped);
    return accept({ rigId });
  },
);

/** A figure that is typed by hand is what a setup wants while nothing was ever calibrated on it. */
async function followWhereFound(
  deps: Deps,
  actor: Actor,
  list: readonly Setup[],
  retyped: Readonly<Record<string, number>>,
): Promise<void> {
  if (Object.keys(retyped).length === 0) return;
  for (const setup of list.filter((s) => s.standing.source === 'as-found')) {
    const { settings, fileTransform } = standingOf(setup);
    const next = { settings: { ...settings, ...retyped }, fileTransform };
    await replaceStanding(deps, actor, setup.id, next, { source: 'as-found' });
  }
}

/** Holds a rig and its machines, so that nobody types or saves between looking and writing. */
export async function lockRig(deps: Deps, rigId: string): Promise<void> {
  const [rig] = await deps.db.select().from(rigs).where(eq(rigs.id, rigId)).for('update');
  if (!rig) return;
  // In one order, whoever comes: nobody waits for somebody who waits for him.
  for (const id of [...new Set([rig.cutterId, rig.printerId])].sort())
    await deps.db.select({ id: machines.id }).from(machines).where(eq(machines.id, id)).for('update');
}

/** Every setup that one of a rig’s machines works for, on whichever rig. */
async function setupsOfMachines(deps: Deps, rig: Rig): Promise<Setup[]> {
  const mine = await deps.db
    .select({ id: rigs.id })
    .from(rigs)
    .where(
      sql`${rigs.cutterId} in (${rig.cutterId}, ${rig.printerId}) or ${rigs.printerId} in (${rig.cutterId}, ${rig.printerId})`,
    );
  const found: Setup[] = [];
  for (const { id } of mine) found.push(...(await listSetups(deps, id)));
  return found;
}

const sameName = (a: string, b: string): boolean =>
  a.trim().replace(/\s+/g, ' ').toLowerCase() === b.trim().replace(/\s+/g, ' ').toLowerCase();

/** Whether another rig that has something on it is called so. Whoever asks holds the answer until the transaction ends. */
async function nameInUse(deps: Deps, name: string, except: string | null): Promise<boolean> {
  await deps.db.execute(sql`select pg_advisory_xact_lock(hashtext('rig names'))`);
  const [row] = await deps.db
    .select({ id: rigs.id })
    .from(rigs)
    .innerJoin(setups, and(eq(setups.rigId, rigs.id), isNull(setups.archivedAt)))
    .where(and(sql`lower(${rigs.name}) = lower(${name})`, except === null ? undefined : ne(rigs.id, except)))
    .limit(1);
  return row !== undefined;
}

function changedMeanwhile(theirs: Rig, mine: RigInput): string {
  const shown = theirs.setups[0]?.settings ?? [];
  return staleText('rig', [
    ['name', theirs.name, mine.name],
    ['printer', theirs.printer, mine.printer],
    ['cutter', theirs.cutter, mine.cutter],
    ...mine.settings.flatMap((s): [string, number, number][] => {
      const other = shown.find((t) => t.id === s.id);
      return other ? [[s.name, other.value, s.value]] : [];
    }),
  ]);
}
