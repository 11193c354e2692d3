import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { deedOf, sameFigure } from '@/core/setup';
import { changeOvers } from '@/db/schema';
import { type Actor, type Deps, type Done } from '@/server/base/deps';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';
import { useCase } from '@/server/base/useCase';

import { typeValue } from './machineValues';
import { lockRig } from './writeRig';

const figure = z
  .number('Type the figure as the machine shows it, for example 0.85.')
  .min(-1e4, 'No machine shows a figure that small.')
  .max(1e4, 'No machine shows a figure that large.');

export const changeOverSchema = z.object({
  setupId: z.uuid(),
  /** What the card said has to be shown, by setting: what was typed is this, and nothing that came in between. */
  wanted: z.record(z.uuid(), figure),
  /** Where the machine showed something else than the log knew before anything was typed. */
  found: z.record(z.uuid(), figure).default({}),
});

/** “The machine shows them all”: a rig gets another medium or size, and from now on this is what is on it. */
export const changeOver = useCase(
  changeOverSchema,
  { act: 'change over', about: 'setupId' },
  async (inner, { setupId, wanted, found }, actor): Done => {
    const named = await getSetup(inner, setupId);
    if (!named) return refuse({ code: 'not-found', what: 'setup' });
    await lockRig(inner, named.rigId);
    const setup = (await getSetup(inner, setupId))!;
    if (setup.archived)
      return refuse({ code: 'refused', message: 'This setup is put away. Put it back first.' });
    const other = setup.settings.find((s) => !sameFigure(wanted[s.id] ?? NaN, s.wanted, s.step));
    if (other)
      return refuse({
        code: 'stale',
        message: `What ${setup.media} wants has been changed meanwhile: ${other.name}. The card shows what is so now; type that.`,
      });
    await writeFound(inner, actor, setup, found);
    const now = (await getSetup(inner, setupId))!;
    const changes = now.settings
      .filter((s) => deedOf(s) === 'type')
      .map((s) => ({ settingId: s.id, from: s.value, to: s.wanted }));
    const why = { reason: `change-over to ${now.media}`, setup: now };
    for (const { settingId, from, to } of changes) {
      const setting = now.settings.find((s) => s.id === settingId)!;
      await typeValue(inner, actor, { setting, from, to }, why);
    }
    await inner.db
      .insert(changeOvers)
      .values({ rigId: now.rigId, setupId, changes, by: actor, at: inner.now() });
    return accept(null);
  },
);

/** The log was wrong about the machine: what it was found to show goes in first, so that every step is on record. */
async function writeFound(
  deps: Deps,
  actor: Actor,
  setup: Setup,
  found: Readonly<Record<string, number>>,
): Promise<void> {
  for (const setting of setup.settings) {
    const to = found[setting.id];
    if (to === undefined || sameFigure(to, setting.value, setting.step)) continue;
    await typeValue(deps, actor, { setting, from: setting.value, to }, { reason: 'found so', setup });
  }
}
