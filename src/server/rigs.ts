import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import {
  declaredEffect,
  type DeclaredEffect,
  type EffectDirection,
  type MachineSetting,
} from '@/core/correction';
import type { MediaClass } from '@/core/drift';
import type { Rect } from '@/core/geometry';
import type { MarkKit } from '@/core/marks';
import { accept, refuse, type Outcome } from '@/core/outcome';
import type { SimulatedRig } from '@/core/rigsim';
import { events, media, rigs, rigSettings, runs, sessions, settingChanges } from '@/db/schema';
import { sqlState } from '@/db/transaction';

import { keep } from './base/act';
import { stored } from './base/stored';
import { fieldMessages, type Actor, type Deps, type UseCaseRefusal } from './deps';
import {
  eventInputSchema,
  recipeSchema,
  rigInputSchema,
  simulationSchema,
  type Changeable,
  type PrintRecipe,
  type RigInput,
} from './schemas';
import { markKitSchema, rollKitSchema, type RollKit } from '@/shapes/kits';

export interface RigSetting extends MachineSetting, DeclaredEffect {
  readonly display: 'signed' | 'sign-and-size';
}

export interface Rig {
  readonly id: string;
  readonly name: string;
  readonly printer: string;
  readonly cutter: string;
  readonly media: string;
  readonly sheetWidthMm: number;
  readonly sheetHeightMm: number;
  readonly workArea: Rect;
  readonly toleranceMm: number;
  readonly changeable: Changeable;
  readonly marks: MarkKit | null;
  /** Whether the near edge, the bob’s, leaves the printer first; null until somebody has looked. */
  readonly bobFirst: boolean | null;
  /** Its media for drift, until the log knows better. */
  readonly mediaClass: MediaClass;
  readonly recipe: PrintRecipe;
  readonly roll: RollKit;
  /** The printer's feed compensation, %, and since when it is so; null while nobody told. */
  readonly feedPercent: number | null;
  readonly feedSetAt: Date | null;
  readonly settings: readonly RigSetting[];
  readonly simulated: boolean;
  readonly archived: boolean;
  readonly version: number;
}

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

const isTaken = (error: unknown): boolean => sqlState(error) === '23505';

const TAKEN = {
  code: 'invalid-input',
  fields: { name: 'A rig of this name and media is on the bench already. Choose another name.' },
} as const;

/** Adds a rig with its settings; their first values open the settings' history. */
export async function addRig(
  deps: Deps,
  actor: Actor,
  input: unknown,
  request?: string,
): Promise<Outcome<{ rigId: string }, UseCaseRefusal>> {
  const parsed = rigInputSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  try {
    return await keep(deps, actor, { act: 'add rig', request }, async (inner) => {
      const mediaId = await mediaIdOf(inner, parsed.data.media);
      const [row] = await inner.db
        .insert(rigs)
        .values({ ...rigColumns(parsed.data), mediaId, createdAt: deps.now() })
        .returning({ id: rigs.id });
      await writeSettings(inner, actor, row!.id, parsed.data);
      return accept({ rigId: row!.id });
    });
  } catch (error) {
    if (isTaken(error)) return refuse(TAKEN);
    throw error;
  }
}

/** Changes a rig; refused when somebody else saved it in the meantime. */
export async function changeRig(
  deps: Deps,
  actor: Actor,
  rigId: string,
  version: number,
  input: unknown,
  request?: string,
): Promise<Outcome<{ rigId: string }, UseCaseRefusal>> {
  const parsed = rigInputSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  try {
    return await keep(deps, actor, { act: 'change rig', subjectId: rigId, request }, async (inner) => {
      await inner.db.select({ id: rigs.id }).from(rigs).where(eq(rigs.id, rigId)).for('update');
      const before = await getRig(inner, rigId);
      if (!before) return refuse({ code: 'not-found', what: 'rig' });
      if (before.version !== version)
        return refuse({ code: 'stale', message: staleText(before, parsed.data) });
      const mediaId = await mediaIdOf(inner, parsed.data.media);
      await inner.db
        .update(rigs)
        .set({ ...rigColumns(parsed.data), mediaId, version: version + 1 })
        .where(eq(rigs.id, rigId));
      await writeSettings(inner, actor, rigId, parsed.data);
      return accept({ rigId });
    });
  } catch (error) {
    if (isTaken(error)) return refuse(TAKEN);
    throw error;
  }
}

/** Both values of what differs, so that nobody's change is lost unseen. */
function staleText(theirs: Rig, mine: RigInput): string {
  const pairs: [string, string | number, string | number][] = [
    ['name', theirs.name, mine.name],
    ['printer', theirs.printer, mine.printer],
    ['cutter', theirs.cutter, mine.cutter],
    ['media', theirs.media, mine.media],
    ['tolerance (mm)', theirs.toleranceMm, mine.toleranceMm],
    ...mine.settings.flatMap((s): [string, number, number][] => {
      const other = theirs.settings.find((t) => t.id === s.id);
      return other ? [[s.name, other.value, s.value]] : [];
    }),
  ];
  const differing = pairs
    .filter(([, a, b]) => a !== b)
    .map(([what, a, b]) => `${what}: saved “${a}”, yours “${b}”`);
  const detail = differing.length > 0 ? ` ${differing.join('; ')}.` : '';
  return `Somebody saved this rig while you were editing it.${detail} Reload to see theirs, then save yours again.`;
}

function rigColumns(r: RigInput) {
  return {
    name: r.name,
    printer: r.printer,
    cutter: r.cutter,
    sheetWidthMm: r.sheetWidthMm,
    sheetHeightMm: r.sheetHeightMm,
    areaX0Mm: r.marginLeftMm,
    areaY0Mm: r.marginNearMm,
    areaX1Mm: r.marginLeftMm + r.areaWidthMm,
    areaY1Mm: r.marginNearMm + r.areaHeightMm,
    toleranceMm: r.toleranceMm,
    changeable: r.changeable,
    mediaClass: r.mediaClass,
    marks: r.marks,
    recipe: r.recipe,
    roll: r.roll,
  };
}

async function mediaIdOf(deps: Deps, name: string): Promise<string> {
  await deps.db.insert(media).values({ name }).onConflictDoNothing();
  const [row] = await deps.db.select({ id: media.id }).from(media).where(eq(media.name, name));
  return row!.id;
}

/** Inserts, changes and retires settings to match the form; values that change go into the history. */
async function writeSettings(deps: Deps, actor: Actor, rigId: string, input: RigInput): Promise<void> {
  const before = await deps.db
    .select()
    .from(rigSettings)
    .where(and(eq(rigSettings.rigId, rigId), isNull(rigSettings.retiredAt)));
  const kept = new Set(input.settings.map((s) => s.id));
  for (const old of before)
    // Kept ones move out of the way of the others' new positions; they are set for good below.
    await deps.db
      .update(rigSettings)
      .set(kept.has(old.id) ? { position: old.position + 100 } : { retiredAt: deps.now() })
      .where(eq(rigSettings.id, old.id));
  for (const [position, { id, ...setting }] of input.settings.entries()) {
    const old = before.find((s) => s.id === id);
    const values = { ...setting, position, rigId };
    const settingId = old
      ? old.id
      : (await deps.db.insert(rigSettings).values(values).returning({ id: rigSettings.id }))[0]!.id;
    if (old) await deps.db.update(rigSettings).set(values).where(eq(rigSettings.id, old.id));
    if (old && old.value === setting.value) continue;
    await deps.db.insert(settingChanges).values({
      settingId,
      fromValue: old?.value ?? null,
      toValue: setting.value,
      reason: old ? 'edited on the rig’s page' : 'as found',
      changedBy: actor,
      changedAt: deps.now(),
    });
  }
}

/** Takes a rig off the bench, or puts it back: its log stays. Nothing may be open on it. */
export async function archiveRig(
  deps: Deps,
  actor: Actor,
  rigId: string,
  archived: boolean,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  try {
    const act = archived ? 'archive rig' : 'put rig back';
    return await keep(deps, actor, { act, subjectId: rigId, request }, async (inner) => {
      await inner.db.select({ id: rigs.id }).from(rigs).where(eq(rigs.id, rigId)).for('update');
      const open = archived ? await openOn(inner, rigId) : null;
      if (open) return refuse({ code: 'refused', message: `${open} Close it first.` });
      const done = await inner.db
        .update(rigs)
        .set({ archivedAt: archived ? deps.now() : null, version: sql`${rigs.version} + 1` })
        .where(eq(rigs.id, rigId))
        .returning({ id: rigs.id });
      return done.length > 0 ? accept(null) : refuse({ code: 'not-found', what: 'rig' });
    });
  } catch (error) {
    if (isTaken(error))
      return refuse({
        code: 'refused',
        message: 'Another rig took this name and media in the meantime. Rename that one first.',
      });
    throw error;
  }
}

/** What is still open on a rig, in words; null when nothing is. */
async function openOn(deps: Deps, rigId: string): Promise<string | null> {
  const [session] = await deps.db
    .select({ number: sessions.number })
    .from(sessions)
    .where(and(eq(sessions.rigId, rigId), isNull(sessions.closedAt)))
    .limit(1);
  if (session) return `Session ${session.number} of this rig is still open.`;
  const [run] = await deps.db
    .select({ name: runs.name })
    .from(runs)
    .where(and(eq(runs.rigId, rigId), isNull(runs.closedAt)))
    .limit(1);
  return run ? `The run “${run.name}” of this rig is still open.` : null;
}

export interface SettingChangeEntry {
  readonly setting: string;
  readonly unit: string;
  /** Its smallest step: so many places its figures have. */
  readonly step: number;
  readonly from: number | null;
  readonly to: number;
  readonly reason: string;
  readonly by: string;
  readonly at: Date;
}

/** So much of a rig’s history its page shows; the export has all. */
const HISTORY_BACK = 100;

/** The newest changes of its settings, newest first. */
export async function settingHistory(deps: Deps, rigId: string): Promise<SettingChangeEntry[]> {
  return deps.db
    .select({
      setting: rigSettings.name,
      unit: rigSettings.unit,
      step: rigSettings.step,
      from: settingChanges.fromValue,
      to: settingChanges.toValue,
      reason: settingChanges.reason,
      by: settingChanges.changedBy,
      at: settingChanges.changedAt,
    })
    .from(settingChanges)
    .innerJoin(rigSettings, eq(rigSettings.id, settingChanges.settingId))
    .where(eq(rigSettings.rigId, rigId))
    .orderBy(desc(settingChanges.changedAt))
    .limit(HISTORY_BACK);
}

export async function recordEvent(
  deps: Deps,
  actor: Actor,
  input: unknown,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  const parsed = eventInputSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { rigId } = parsed.data;
  return keep(deps, actor, { act: 'event', subjectId: rigId, request }, async (inner) => {
    if (!(await getRig(inner, rigId))) return refuse({ code: 'not-found', what: 'rig' });
    await noteEvent(inner, actor, parsed.data);
    return accept(null);
  });
}

export const firstEdgeSchema = z.object({ rigId: z.uuid(), bobFirst: z.boolean() });

/** Which edge of a sheet leaves the printer first, as somebody saw it: kept with the rig, and in its log. */
export async function sayFirstEdge(
  deps: Deps,
  actor: Actor,
  input: unknown,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  const parsed = firstEdgeSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { rigId, bobFirst } = parsed.data;
  return keep(deps, actor, { act: 'first edge', subjectId: rigId, request }, async (inner) => {
    const [row] = await inner.db
      .update(rigs)
      .set({ bobFirst })
      .where(eq(rigs.id, rigId))
      .returning({ id: rigs.id });
    return row ? accept(null) : refuse({ code: 'not-found', what: 'rig' });
  });
}

/** Writes an event into the log, for a step that keeps something else too. */
export const noteEvent = (deps: Deps, actor: Actor, event: z.output<typeof eventInputSchema>) =>
  deps.db.insert(events).values({ ...event, recordedBy: actor, happenedAt: deps.now() });
