import { and, eq, isNull, ne, or, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { z } from 'zod';
import { accept, refuse } from '@/core/outcome';
import { sameFigure } from '@/core/setup';
import { machines, machineSettings, rigs, settingChanges, settingValues, setups } from '@/db/schema';
import { type Actor, type Deps, type Done } from '@/server/base/deps';
import { listArchived } from '@/server/setups/repository';
import type { Rig, Setup, SetupSetting } from '@/server/setups/setup';
import { useCase } from '@/server/base/useCase';
import { typeValue } from './machineValues';
import { getRig } from './repository';
import { lockRig } from './writeRig';

import { moveOver, renameInLog } from './moveRig';

/*
 * Rigs that name the same printer and cutter may be one rig with several media. Only the operator knows: it is offered,
 * with what differs, and done when somebody says so.
 */

/** A rig that seems to be this one, and how their settings go together. */
export interface Twin {
  readonly rigId: string;
  readonly name: string;
  readonly media: readonly string[];
  /** By what the machine calls them; `other` is null where that rig has no such setting. */
  readonly settings: readonly {
    readonly id: string;
    readonly name: string;
    readonly value: number;
    readonly other: { readonly id: string; readonly value: number } | null;
  }[];
  /** Settings that mean something else on each: then they cannot be put together. */
  readonly against: string | null;
}

const printer = alias(machines, 'printer');
const cutter = alias(machines, 'cutter');
const plain = (name: unknown) => sql`lower(regexp_replace(btrim(${name}), '\\s+', ' ', 'g'))`;

/** Rigs with something on them whose machines are called as those of this one. */
export async function twinsOf(deps: Deps, rig: Rig): Promise<Twin[]> {
  const rows = await deps.db
    .selectDistinct({ id: rigs.id })
    .from(rigs)
    .innerJoin(printer, eq(printer.id, rigs.printerId))
    .innerJoin(cutter, eq(cutter.id, rigs.cutterId))
    .innerJoin(setups, and(eq(setups.rigId, rigs.id), isNull(setups.archivedAt)))
    .where(
      and(
        ne(rigs.id, rig.id),
        ne(rigs.cutterId, rig.cutterId),
        sql`${plain(printer.name)} = ${plain(sql`${rig.printer}::text`)}`,
        sql`${plain(cutter.name)} = ${plain(sql`${rig.cutter}::text`)}`,
      ),
    );
  const found: Twin[] = [];
  for (const { id } of rows) {
    const other = await getRig(deps, id);
    if (other) found.push(compare(rig, other));
  }
  return found;
}

const settingsOf = (rig: Rig): readonly SetupSetting[] => rig.setups[0]?.settings ?? [];

function compare(rig: Rig, other: Rig): Twin {
  const theirs = settingsOf(other);
  const settings = settingsOf(rig).map((s) => {
    const same = theirs.find((t) => t.name.toLowerCase() === s.name.toLowerCase());
    return {
      id: s.id,
      name: s.name,
      value: s.value,
      other: same ? { id: same.id, value: same.value } : null,
    };
  });
  const unlike = settingsOf(rig).find((s) =>
    theirs.some((t) => t.name.toLowerCase() === s.name.toLowerCase() && !meansTheSame(s, t)),
  );
  const missing = theirs.find((t) => !settings.some((s) => s.other?.id === t.id));
  return {
    rigId: other.id,
    name: other.name,
    media: other.setups.map((s) => s.media),
    settings,
    against: unlike
      ? `${unlike.name} does something else on each of them`
      : framesDiffer(rig, other)
        ? 'their cut files lie on the sheet in different ways'
        : missing
          ? `only ${other.name} has a setting called ${missing.name}`
          : settings.some((s) => s.other === null)
            ? `only ${rig.name} has a setting called ${settings.find((s) => s.other === null)!.name}`
            : null,
  };
}

const framesDiffer = ({ fileFrame: a }: Rig, { fileFrame: b }: Rig): boolean =>
  a !== null && b !== null && JSON.stringify(a) !== JSON.stringify(b);

const meansTheSame = (a: SetupSetting, b: SetupSetting): boolean =>
  a.kind === b.kind &&
  a.unit === b.unit &&
  (!a.directionKnown || !b.directionKnown || a.direction === b.direction) &&
  a.step === b.step &&
  a.anchor.x === b.anchor.x &&
  a.anchor.y === b.anchor.y &&
  a.nominalMm === b.nominalMm;

export const oneRigSchema = z.object({
  /** The rig that stays, and the one that becomes setups of it. */
  rigId: z.uuid(),
  otherId: z.uuid(),
  /** Where the machine keeps the figures that differ. */
  kept: z.enum(['one', 'per-medium']),
  /** Kept as one: what the machine shows now, by the staying rig’s settings. */
  shows: z
    .record(z.uuid(), z.number('Type the figure that the machine shows.').min(-1e4).max(1e4))
    .default({}),
});

/** “They are the same machines”: the other rig’s setups, with all their log, go on as setups of this one. */
export const makeOneRig = useCase(
  oneRigSchema,
  { act: 'make one rig', about: 'rigId' },
  async (inner, { rigId, otherId, kept, shows }, actor): Done => {
    for (const id of [rigId, otherId].sort()) await lockRig(inner, id);
    const rig = await getRig(inner, rigId);
    const other = await getRig(inner, otherId);
    if (!rig || !other) return refuse({ code: 'not-found', what: 'rig' });
    const twin = (await twinsOf(inner, rig)).find((t) => t.rigId === otherId);
    if (!twin)
      return refuse({ code: 'stale', message: 'These two rigs do not name the same machines any more.' });
    if (twin.against)
      return refuse({
        code: 'refused',
        message: `They cannot be put together as they are: ${twin.against}. Mend that on the rigs’ pages first.`,
      });
    const clash = other.setups.find((o) => rig.setups.some((s) => sameKind(s, o)));
    if (clash)
      return refuse({
        code: 'refused',
        message: `Both have ${clash.media} in this size. Put one of the two away first, or tell them apart by a word.`,
      });
    const pairs = twin.settings.map((pair) => pairOf(rig, other, pair.id, pair.other!.id, kept));
    const two = pairs.flatMap((pair) => twoFigures(rig, other, pair))[0];
    if (two)
      return refuse({
        code: 'refused',
        message: `A machine that keeps one figure for each medium cannot keep two for ${two}. Choose one for all media, or calibrate one of the two first.`,
      });
    for (const pair of pairs) await oneSetting(inner, actor, rig, other, pair, shows[pair.setting.id]);
    await moveOver(inner, rig, other);
    return accept(null);
  },
);

const sameKind = (
  a: { media: string; sheetWidthMm: number; sheetHeightMm: number; label: string },
  b: typeof a,
): boolean =>
  a.media === b.media &&
  a.sheetWidthMm === b.sheetWidthMm &&
  a.sheetHeightMm === b.sheetHeightMm &&
  a.label === b.label;

/** One setting of a machine, as each of the two rigs knows it. */
interface Pair {
  readonly setting: SetupSetting;
  readonly twinId: string;
  readonly kept: SetupSetting['kept'];
}

/** What is kept for each medium on one of them is so on the machine; else the operator says, where figures differ. */
function pairOf(rig: Rig, other: Rig, id: string, twinId: string, told: SetupSetting['kept']): Pair {
  const setting = settingsOf(rig).find((s) => s.id === id)!;
  const twin = settingsOf(other).find((s) => s.id === twinId)!;
  const each = setting.kept === 'per-medium' || twin.kept === 'per-medium';
  const differ = !sameFigure(setting.value, twin.value, setting.step);
  return { setting, twinId, kept: each ? 'per-medium' : differ ? told : 'one' };
}

const shownOn = (setup: Setup, settingId: string): number =>
  setup.settings.find((s) => s.id === settingId)!.value;

/** Media that are on both rigs with two figures, where the machine keeps one for each. */
function twoFigures(rig: Rig, other: Rig, { setting, twinId, kept }: Pair): string[] {
  if (kept === 'one') return [];
  return rig.setups.flatMap((mine) =>
    other.setups
      .filter(
        (o) =>
          o.mediaId === mine.mediaId &&
          !sameFigure(shownOn(mine, setting.id), shownOn(o, twinId), setting.step),
      )
      .map((o) => o.media),
  );
}

/** Two rows of one setting become one; what the log keeps under the id that goes is kept under the one that stays. */
async function oneSetting(
  deps: Deps,
  actor: Actor,
  rig: Rig,
  other: Rig,
  { setting, twinId, kept }: Pair,
  shows: number | undefined,
): Promise<void> {
  // Those off the bench too: put back, they show what they showed.
  const mine = [...rig.setups, ...(await listArchived(deps, rig.id))];
  const theirs = [...other.setups, ...(await listArchived(deps, other.id))];
  await renameInLog(deps, twinId, setting.id, other);
  await deps.db
    .update(settingChanges)
    .set({ settingId: setting.id })
    .where(eq(settingChanges.settingId, twinId));
  await deps.db.update(machineSettings).set({ kept }).where(eq(machineSettings.id, setting.id));
  await deps.db
    .delete(settingValues)
    .where(or(eq(settingValues.settingId, setting.id), eq(settingValues.settingId, twinId)));
  await deps.db.delete(machineSettings).where(eq(machineSettings.id, twinId));
  const why = { reason: `${other.name} is the same machine` };
  const now = { id: setting.id, step: setting.step, kept };
  if (kept === 'one')
    return typeValue(deps, actor, { setting: now, from: setting.value, to: shows ?? setting.value }, why);
  for (const [list, id] of [
    [theirs, twinId],
    [mine, setting.id],
  ] as const)
    for (const setup of list) {
      const value = shownOn(setup, id);
      await typeValue(deps, actor, { setting: now, from: value, to: value }, { ...why, setup });
    }
}
