import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { serverZone } from '@/clock/dates';
import { accept } from '@/core/outcome';
import { shopFacts } from '@/db/schema';
import { type Deps, type Done } from '@/server/base/deps';
import { useCase } from '@/server/base/useCase';

const FACT = 'time-zone';

/** Zones by the names of the IANA database, as this server knows them. */
export const zonesKnown = (): readonly string[] => ['UTC', ...Intl.supportedValuesOf('timeZone')];

const zoneSchema = z
  .string()
  .refine(
    (name) => zonesKnown().includes(name),
    'Choose a time zone of the list, for example Europe/London.',
  );

/** The zone that dates and hours of this shop are written in. */
export async function shopZone(deps: Pick<Deps, 'db'>): Promise<{ zone: string; said: boolean }> {
  const [fact] = await deps.db
    .select({ value: shopFacts.value })
    .from(shopFacts)
    .where(eq(shopFacts.name, FACT));
  // A zone that an archive of another server brought and this one does not know is not written in.
  const said = zoneSchema.safeParse(fact?.value);
  return { zone: said.success ? said.data : serverZone(), said: said.success };
}

export const zoneInputSchema = z.object({ zone: zoneSchema.nullable() });

/** Says in which zone the shop keeps its days; null: as the server has it. */
export const setZone = useCase(zoneInputSchema, { act: 'time zone' }, async (inner, { zone }): Done => {
  if (zone === null) await inner.db.delete(shopFacts).where(eq(shopFacts.name, FACT));
  else
    await inner.db
      .insert(shopFacts)
      .values({ name: FACT, value: zone, at: inner.now() })
      .onConflictDoUpdate({ target: shopFacts.name, set: { value: zone, at: inner.now() } });
  return accept(null);
});
