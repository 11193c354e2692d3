import { and, eq, isNull } from 'drizzle-orm';

import { accept, type Outcome, refuse } from '@/core/outcome';
import { media, rigs, rigSettings, settingChanges } from '@/db/schema';
import { sqlState } from '@/db/transaction';
import { keep } from '@/server/base/act';
import { type Actor, type Deps, fieldMessages, type UseCaseRefusal } from '@/server/base/deps';
import { type RigInput, rigInputSchema } from './shapes';

import { getRig } from './repository';
import type { Rig } from './rig';

export const isTaken = (error: unknown): boolean => sqlState(error) === '23505';

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
