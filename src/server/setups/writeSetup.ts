import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { media, rigs, setups } from '@/db/schema';
import { type Actor, type Deps, type Done, type UseCaseRefusal } from '@/server/base/deps';
import { equipmentOf } from '@/server/rigs/equipment';
import { typeValue } from '@/server/rigs/machineValues';
import { getRig } from '@/server/rigs/repository';
import { idSchema } from '@/server/base/shapes';
import { useCase } from '@/server/base/useCase';

import { getSetup } from './repository';
import type { Setup } from './setup';
import { anotherSetupSchema, type SetupInput, setupInputSchema } from './shapes';
import { replaceStanding, wantAsFound } from './standing';

const TAKEN = {
  code: 'invalid-input',
  fields: {
    media:
      'This medium in this size is on the rig already. Choose another one, or tell the two apart by a word of your own.',
  },
} as const;

/** Another medium or size on a rig: nothing that its machines know is typed twice. */
export const addSetup = useCase(
  anotherSetupSchema.safeExtend({ rigId: idSchema }),
  { act: 'add setup', about: 'rigId', taken: TAKEN },
  async (inner, { rigId, values, ...given }, actor): Done<{ setupId: string }> => {
    const rig = await getRig(inner, rigId);
    const like = rig?.setups[0];
    if (!rig || !like) return refuse({ code: 'not-found', what: 'rig' });
    const foreign = await notOfCutter(inner, rigId, given);
    if (foreign) return refuse(foreign);
    const { id: setupId } = await insertSetup(inner, rigId, given);
    await standAsFound(inner, actor, setupId);
    const setup = (await getSetup(inner, setupId))!;
    for (const s of setup.settings.filter((x) => x.kept === 'per-medium' && values[x.id] !== undefined))
      await typeValue(
        inner,
        actor,
        { setting: s, from: null, to: values[s.id]! },
        { reason: 'as found', setup },
      );
    await wantAsFound(inner, [setupId], values);
    return accept({ setupId });
  },
);

/** Changes what a setup is; refused when somebody else saved it in the meantime. */
export const changeSetup = useCase(
  setupInputSchema.safeExtend({ setupId: idSchema, version: z.int() }),
  { act: 'change setup', about: 'setupId', taken: TAKEN },
  async (inner, { setupId, version, ...given }): Done<{ setupId: string }> => {
    await inner.db.select({ id: setups.id }).from(setups).where(eq(setups.id, setupId)).for('update');
    const before = await getSetup(inner, setupId);
    if (!before) return refuse({ code: 'not-found', what: 'setup' });
    if (before.version !== version)
      return refuse({
        code: 'stale',
        message: staleText('setup', [
          ['media', before.media, given.media],
          ['tolerance (mm)', before.toleranceMm, given.toleranceMm],
          ['sheet width (mm)', before.sheetWidthMm, given.sheetWidthMm],
          ['sheet height (mm)', before.sheetHeightMm, given.sheetHeightMm],
        ]),
      });
    const foreign = await notOfCutter(inner, before.rigId, given);
    if (foreign) return refuse(foreign);
    const mediaId = await mediaIdOf(inner, given);
    const { grip, mirrored } = given;
    await inner.db.update(media).set({ grip, mirrored }).where(eq(media.id, mediaId));
    await inner.db
      .update(setups)
      .set({ ...setupColumns(given), mediaId, version: version + 1 })
      .where(eq(setups.id, setupId));
    return accept({ setupId });
  },
);

/** Both values of what differs, so that nobody's change is lost unseen. */
export function staleText(
  what: string,
  pairs: readonly [string, string | number, string | number][],
): string {
  const differing = pairs
    .filter(([, a, b]) => a !== b)
    .map(([name, a, b]) => `${name}: saved “${a}”, yours “${b}”`);
  const detail = differing.length > 0 ? ` ${differing.join('; ')}.` : '';
  return `Somebody saved this ${what} while you were editing it.${detail} Reload to see theirs, then save yours again.`;
}

/** Adds the row; its standing correction has to follow in the same transaction. */
export async function insertSetup(
  deps: Deps,
  rigId: string,
  given: SetupInput,
): Promise<{ readonly id: string; readonly mediaId: string }> {
  const mediaId = await mediaIdOf(deps, given);
  const [row] = await deps.db
    .insert(setups)
    .values({ ...setupColumns(given), rigId, mediaId, createdAt: deps.now() })
    .returning({ id: setups.id });
  return { id: row!.id, mediaId };
}

/** What its machines show is what a setup wants, until a calibration says otherwise. */
export async function standAsFound(deps: Deps, actor: Actor, setupId: string): Promise<void> {
  await replaceStanding(deps, actor, setupId, { settings: {}, fileTransform: null }, { source: 'as-found' });
  const { settings } = (await getSetup(deps, setupId))!;
  await wantAsFound(deps, [setupId], Object.fromEntries(settings.map((s) => [s.id, s.value])));
}

function setupColumns(s: SetupInput) {
  return {
    label: s.label,
    sheetWidthMm: s.sheetWidthMm,
    sheetHeightMm: s.sheetHeightMm,
    areaX0Mm: s.marginLeftMm,
    areaY0Mm: s.marginNearMm,
    areaX1Mm: s.marginLeftMm + s.areaWidthMm,
    areaY1Mm: s.marginNearMm + s.areaHeightMm,
    toleranceMm: s.toleranceMm,
    mediaClass: s.mediaClass,
    toolId: s.toolId,
    matId: s.matId,
    driverWidthMm: s.driverWidthMm,
    driverHeightMm: s.driverHeightMm,
    marks: s.marks,
    recipe: s.recipe,
    roll: s.roll,
  };
}

/** A tool or a mat of another cutter is none of this one’s. */
async function notOfCutter(
  deps: Deps,
  rigId: string,
  { toolId, matId }: Pick<SetupInput, 'toolId' | 'matId'>,
): Promise<UseCaseRefusal | null> {
  if (toolId === null && matId === null) return null;
  const [rig] = await deps.db.select({ cutterId: rigs.cutterId }).from(rigs).where(eq(rigs.id, rigId));
  const own = await equipmentOf(deps, rig!.cutterId);
  const fields: Record<string, string> = {};
  if (toolId !== null && !own.tools.some((t) => t.id === toolId))
    fields.toolId = 'This tool is not in the cutter any more. Choose another one.';
  if (matId !== null && !own.mats.some((m) => m.id === matId))
    fields.matId = 'This mat is not in use any more. Choose another one.';
  return Object.keys(fields).length > 0 ? { code: 'invalid-input', fields } : null;
}

/** The medium of this name; one that is new to the shop is described by what was told of it. */
async function mediaIdOf(
  deps: Deps,
  { media: name, grip, mirrored }: Pick<SetupInput, 'media' | 'grip' | 'mirrored'>,
): Promise<string> {
  await deps.db.insert(media).values({ name, grip, mirrored }).onConflictDoNothing();
  const [row] = await deps.db.select({ id: media.id }).from(media).where(eq(media.name, name));
  return row!.id;
}

/** A setup as its form would give it: another one starts from it. */
export const inputOf = (setup: Setup): SetupInput => ({
  media: setup.media,
  label: setup.label,
  sheetWidthMm: setup.sheetWidthMm,
  sheetHeightMm: setup.sheetHeightMm,
  marginLeftMm: setup.workArea.x0,
  marginNearMm: setup.workArea.y0,
  areaWidthMm: setup.workArea.x1 - setup.workArea.x0,
  areaHeightMm: setup.workArea.y1 - setup.workArea.y0,
  toleranceMm: setup.toleranceMm,
  mediaClass: setup.mediaClass,
  toolId: setup.tool?.id ?? null,
  matId: setup.mat?.id ?? null,
  grip: setup.grip,
  mirrored: setup.mirrored,
  driverWidthMm: setup.driverPage?.widthMm ?? null,
  driverHeightMm: setup.driverPage?.heightMm ?? null,
  marks: setup.marks,
  recipe: setup.recipe,
  roll: setup.roll,
});
