import { and, asc, eq, isNull } from 'drizzle-orm';

import { declaredEffect, type DeclaredEffect, type EffectDirection } from '@/core/correction';
import type { MediaClass } from '@/core/drift';
import type { SimulatedRig } from '@/core/rigsim';
import { media, rigs, rigSettings } from '@/db/schema';
import type { Deps } from '@/server/base/deps';
import { stored } from '@/server/base/stored';
import { type Changeable, recipeSchema, simulationSchema } from './shapes';
import { markKitSchema, rollKitSchema } from '@/shapes/kits';

import type { Rig, RigSetting } from './rig';

type RigRow = typeof rigs.$inferSelect;

/** Rigs in use (or one, archived or not), with their settings in order. */
export async function listRigs(deps: Deps): Promise<Rig[]> {
  const rows = await deps.db
    .select({ rig: rigs, media: media.name })
    .from(rigs)
    .innerJoin(media, eq(media.id, rigs.mediaId))
    .where(isNull(rigs.archivedAt))
    .orderBy(asc(rigs.createdAt), asc(rigs.name));
  const settings = await deps.db
    .select()
    .from(rigSettings)
    .where(isNull(rigSettings.retiredAt))
    .orderBy(asc(rigSettings.position));
  return rows.map(({ rig, media: mediaName }) =>
    toRig(
      rig,
      mediaName,
      settings.filter((s) => s.rigId === rig.id),
    ),
  );
}

export async function getRig(deps: Deps, rigId: string): Promise<Rig | null> {
  const [row] = await deps.db
    .select({ rig: rigs, media: media.name })
    .from(rigs)
    .innerJoin(media, eq(media.id, rigs.mediaId))
    .where(eq(rigs.id, rigId));
  if (!row) return null;
  const settings = await deps.db
    .select()
    .from(rigSettings)
    .where(and(eq(rigSettings.rigId, rigId), isNull(rigSettings.retiredAt)))
    .orderBy(asc(rigSettings.position));
  return toRig(row.rig, row.media, settings);
}

function toRig(row: RigRow, mediaName: string, settings: readonly (typeof rigSettings.$inferSelect)[]): Rig {
  return {
    id: row.id,
    name: row.name,
    printer: row.printer,
    cutter: row.cutter,
    media: mediaName,
    sheetWidthMm: row.sheetWidthMm,
    sheetHeightMm: row.sheetHeightMm,
    workArea: { x0: row.areaX0Mm, y0: row.areaY0Mm, x1: row.areaX1Mm, y1: row.areaY1Mm },
    toleranceMm: row.toleranceMm,
    changeable: row.changeable as Changeable,
    marks: stored(markKitSchema.nullable(), row.marks, 'rigs.marks'),
    bobFirst: row.bobFirst,
    mediaClass: row.mediaClass as MediaClass,
    recipe: stored(recipeSchema, row.recipe, 'rigs.recipe'),
    roll: stored(rollKitSchema, row.roll, 'rigs.roll'),
    feedPercent: row.feedPercent,
    feedSetAt: row.feedSetAt,
    settings: settings.map(toSetting),
    simulated: row.simulation !== null,
    archived: row.archivedAt !== null,
    version: row.version,
  };
}

function toSetting(row: typeof rigSettings.$inferSelect): RigSetting {
  const declared: DeclaredEffect = {
    kind: row.kind as DeclaredEffect['kind'],
    unit: row.unit as DeclaredEffect['unit'],
    direction: row.direction as EffectDirection,
    anchor: { x: row.anchorXMm, y: row.anchorYMm },
    nominalMm: row.nominalMm,
  };
  return {
    ...declared,
    id: row.id,
    name: row.name,
    step: row.step,
    value: row.value,
    min: row.min,
    max: row.max,
    display: row.display as RigSetting['display'],
    effect: declaredEffect(declared),
  };
}

/** The hidden truth of a simulated rig, or null for a real one. */
export async function getSimulation(deps: Deps, rigId: string): Promise<SimulatedRig | null> {
  const [row] = await deps.db.select({ simulation: rigs.simulation }).from(rigs).where(eq(rigs.id, rigId));
  return row?.simulation ? stored(simulationSchema, row.simulation, 'rigs.simulation') : null;
}
