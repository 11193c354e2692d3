import { USUAL_POLICY } from '@/core/control';
import { and, asc, eq, inArray, isNull, sql, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';

import { declaredEffect, type DeclaredEffect } from '@/core/correction';
import type { SimulatedRig } from '@/core/rigsim';
import {
  machines,
  machineSettings,
  mats,
  media,
  tools,
  rigs,
  settingValues,
  setups,
  standingCorrections,
} from '@/db/schema';
import {
  rigCheckAfter,
  rigFileFrame,
  settingWords,
  setupMarks,
  setupRecipe,
  setupRoll,
  setupSimulation,
  standingFile,
  standingSettings,
} from '@/db/stored/setups';
import type { Deps } from '@/server/base/deps';

import type { Setup, SetupSetting } from './setup';

type SetupRow = typeof setups.$inferSelect;
type SettingRow = typeof machineSettings.$inferSelect;
type StandingRow = typeof standingCorrections.$inferSelect;

const printer = alias(machines, 'printer');
const cutter = alias(machines, 'cutter');

interface Joined {
  readonly setup: SetupRow;
  readonly rig: typeof rigs.$inferSelect;
  readonly medium: typeof media.$inferSelect;
  readonly printer: string;
  readonly cutter: typeof machines.$inferSelect;
  readonly tool: typeof tools.$inferSelect | null;
  readonly mat: typeof mats.$inferSelect | null;
  readonly standing: StandingRow;
}

/** Setups in use (or those of a rig), with what their machines show. */
export const listSetups = (deps: Deps, rigId?: string): Promise<Setup[]> =>
  loadSetups(deps, and(isNull(setups.archivedAt), rigId === undefined ? undefined : eq(setups.rigId, rigId)));

/** Those of a rig that were taken off the bench. */
export const listArchived = (deps: Deps, rigId: string): Promise<Setup[]> =>
  loadSetups(deps, and(sql`${setups.archivedAt} is not null`, eq(setups.rigId, rigId)));

/** One setup, in use or not. */
export async function getSetup(deps: Deps, setupId: string): Promise<Setup | null> {
  const [found] = await loadSetups(deps, eq(setups.id, setupId));
  return found ?? null;
}

async function loadSetups(deps: Deps, where: SQL | undefined): Promise<Setup[]> {
  const rows = await deps.db
    .select({
      setup: setups,
      rig: rigs,
      medium: media,
      printer: printer.name,
      cutter,
      tool: tools,
      mat: mats,
      standing: standingCorrections,
    })
    .from(setups)
    .innerJoin(rigs, eq(rigs.id, setups.rigId))
    .innerJoin(media, eq(media.id, setups.mediaId))
    .innerJoin(printer, eq(printer.id, rigs.printerId))
    .innerJoin(cutter, eq(cutter.id, rigs.cutterId))
    .leftJoin(tools, eq(tools.id, setups.toolId))
    .leftJoin(mats, eq(mats.id, setups.matId))
    .innerJoin(
      standingCorrections,
      and(eq(standingCorrections.setupId, setups.id), isNull(standingCorrections.replacedAt)),
    )
    .where(where)
    .orderBy(asc(setups.createdAt), asc(rigs.name), asc(setups.id));
  const machineIds = [...new Set(rows.flatMap(({ rig }) => [rig.cutterId, rig.printerId]))];
  const settings =
    machineIds.length === 0
      ? []
      : await deps.db
          .select({ setting: machineSettings, mediaId: settingValues.mediaId, value: settingValues.value })
          .from(machineSettings)
          .leftJoin(settingValues, eq(settingValues.settingId, machineSettings.id))
          .where(and(inArray(machineSettings.machineId, machineIds), isNull(machineSettings.retiredAt)))
          .orderBy(asc(machineSettings.position));
  return rows.map((row) => toSetup(row, settings));
}

interface ShownRow {
  readonly setting: SettingRow;
  readonly mediaId: string | null;
  readonly value: number | null;
}

function toSetup(row: Joined, shown: readonly ShownRow[]): Setup {
  const { setup, rig, standing, medium, tool, mat } = row;
  return {
    id: setup.id,
    rigId: rig.id,
    name: rig.name,
    label: setup.label,
    printer: row.printer,
    cutter: row.cutter.name,
    media: medium.name,
    mediaId: setup.mediaId,
    sheetWidthMm: setup.sheetWidthMm,
    sheetHeightMm: setup.sheetHeightMm,
    workArea: { x0: setup.areaX0Mm, y0: setup.areaY0Mm, x1: setup.areaX1Mm, y1: setup.areaY1Mm },
    toleranceMm: setup.toleranceMm,
    changeable: rig.changeable,
    marks: setupMarks.orNull(setup.marks),
    tool: tool && { id: tool.id, name: tool.name },
    mat: mat && {
      id: mat.id,
      name: mat.name,
      grip: mat.grip,
      wear: mat.wear,
      widthMm: mat.widthMm,
      heightMm: mat.heightMm,
    },
    grip: medium.grip,
    mirrored: medium.mirrored,
    driverPage:
      setup.driverWidthMm === null || setup.driverHeightMm === null
        ? null
        : { widthMm: setup.driverWidthMm, heightMm: setup.driverHeightMm },
    reachMm: row.cutter.reachMm,
    fileFrame: rigFileFrame.orNull(rig.fileFrame),
    checkAfter: rigCheckAfter.orNull(rig.checkAfter) ?? USUAL_POLICY,
    bobFirst: setup.bobFirst,
    mediaClass: setup.mediaClass,
    recipe: setupRecipe.read(setup.recipe),
    roll: setupRoll.read(setup.roll),
    feedPercent: setup.feedPercent,
    feedSetAt: setup.feedSetAt,
    settings: settingsOf(row, shown),
    standing: {
      id: standing.id,
      fileTransform: standing.fileTransform === null ? null : standingFile.read(standing.fileTransform),
      source: standing.source,
      sessionId: standing.sessionId,
      r95Mm: standing.r95Mm,
      by: standing.by,
      since: standing.since,
    },
    simulated: setup.simulation !== null,
    archived: setup.archivedAt !== null,
    version: setup.version,
  };
}

/** The settings of the cutter, then those of the printer, with what they show for this medium. */
function settingsOf({ setup, rig, standing }: Joined, shown: readonly ShownRow[]): SetupSetting[] {
  const wanted = standingSettings.read(standing.settings);
  const machinesOf = [...new Set([rig.cutterId, rig.printerId])];
  return machinesOf.flatMap((machineId) => {
    const own = shown.filter((s) => s.setting.machineId === machineId);
    const rows = new Map(own.map(({ setting }) => [setting.id, setting]));
    return [...rows.values()].map((row) => {
      const mine = own.find(
        (s) => s.setting.id === row.id && s.mediaId === (row.kept === 'per-medium' ? setup.mediaId : null),
      );
      const wants = wanted[row.id] ?? mine?.value ?? 0;
      // A machine that keeps one for each medium shows nothing yet for one that it never had.
      const value = mine?.value ?? wants;
      return toSetting(row, machineId === rig.cutterId ? 'cutter' : 'printer', value, wants);
    });
  });
}

function toSetting(row: SettingRow, on: SetupSetting['on'], value: number, wanted: number): SetupSetting {
  const declared: DeclaredEffect = {
    kind: row.kind,
    unit: row.unit,
    direction: row.direction,
    anchor: { x: row.anchorXMm, y: row.anchorYMm },
    nominalMm: row.nominalMm,
  };
  return {
    ...declared,
    id: row.id,
    name: row.name,
    step: row.step,
    value,
    wanted,
    min: row.min,
    max: row.max,
    display: row.display,
    directionKnown: row.directionKnown,
    kept: row.kept,
    on,
    words: settingWords.read(row.words),
    effect: declaredEffect(declared),
  };
}

/** The hidden truth of a simulated rig with this medium on it, or null for a real one. */
export async function getSimulation(deps: Deps, setupId: string): Promise<SimulatedRig | null> {
  const [row] = await deps.db
    .select({ simulation: setups.simulation })
    .from(setups)
    .where(eq(setups.id, setupId));
  return row?.simulation ? setupSimulation.read(row.simulation) : null;
}
