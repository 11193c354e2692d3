import { eq, sql } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { EVENT_KINDS } from '@/core/setup';
import { rigs } from '@/db/schema';
import { getRig } from '@/server/rigs/repository';
import { lockRig } from '@/server/rigs/writeRig';
import type { Done } from '@/server/base/deps';
import { useCase } from '@/server/base/useCase';

export const policyInputSchema = z.object({
  rigId: z.uuid(),
  version: z.int(),
  events: z.array(z.enum(EVENT_KINDS)).max(EVENT_KINDS.length),
  idleDays: z
    .int('Type whole days, for example 30.')
    .min(1, 'At least one day.')
    .max(3650, 'At most ten years.')
    .nullable(),
  signals: z.boolean(),
});

/** When a rig asks to be checked; refused when somebody else changed the rig in the meantime. */
export const setPolicy = useCase(
  policyInputSchema,
  { act: 'check policy', about: 'rigId' },
  async (inner, { rigId, version, ...policy }): Done => {
    await lockRig(inner, rigId);
    const rig = await getRig(inner, rigId);
    if (!rig) return refuse({ code: 'not-found', what: 'rig' });
    if (rig.version !== version)
      return refuse({
        code: 'stale',
        message: 'Somebody changed this rig since the page was opened. Load it again, then say when it asks.',
      });
    const checkAfter = { ...policy, events: EVENT_KINDS.filter((k) => policy.events.includes(k)) };
    await inner.db
      .update(rigs)
      .set({ checkAfter, version: sql`${rigs.version} + 1` })
      .where(eq(rigs.id, rigId));
    return accept(null);
  },
);
