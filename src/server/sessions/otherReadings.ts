import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import { KEPT_WAYS } from '@/core/readings/registry';
import type { Told, WayRefusal } from '@/core/readings/way';
import type { ReadingDoubt, SentOther } from '@/core/readings';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { readings } from '@/db/schema';
import type { Done } from '@/server/base/deps';
import type { UseCase } from '@/server/base/useCase';

import { readingsOfPass } from './loadSession';
import { backToRead, passStep } from './readings';

/* Readings that are no combs, by whichever way of the registry: each is kept at its own place beside the sheet’s stations. */

/** So many places in one session are read by hand; longer tables go to the address for scripts. */
const MOST_PLACES = 400;

export interface OthersKept {
  readonly changes: number;
  readonly kept: number;
  readonly doubts: readonly ReadingDoubt[];
}

type Sent = z.ZodObject<{
  way: z.ZodLiteral<string>;
  passId: z.ZodUUID;
  stationId: z.ZodOptional<z.ZodString>;
}>;

/** What is sent of a reading: by which way, of which pass, and what that way asks for. */
const sentSchema = z.discriminatedUnion(
  'way',
  KEPT_WAYS.map((w) => w.kept.input.safeExtend({ way: z.literal(w.name), passId: z.uuid() })) as unknown as [
    Sent,
    ...Sent[],
  ],
);

/** Keeps what was read by one of the ways. */
export const saveOther = passStep(
  sentSchema,
  'other readings',
  async (inner, row, given, actor): Done<OthersKept> => {
    const { passId } = given;
    const { kept } = KEPT_WAYS.find((w) => w.name === given.way)!;
    const there = await inner.db
      .selectDistinct({ id: readings.stationId, sheet: sql<boolean>`jsonb_exists(${readings.pick}, 'line')` })
      .from(readings)
      .where(eq(readings.passId, passId));
    const { stations } = (await readingsOfPass(inner, passId))!;
    const station = stations.find((s) => s.id === given.stationId) ?? null;
    const taken = new Set(there.map((r) => r.id));
    const found: Outcome<Told, WayRefusal> = kept.tell(given, { stations, station, taken });
    if (!found.ok) return found;
    const { read, doubts, instead, axis } = found.value;
    const places = new Set([
      ...there.filter((r) => !r.sheet).map((r) => r.id),
      ...read.map((r) => r.stationId),
    ]);
    if (read.length === 0)
      return refuse({
        code: 'invalid-input',
        fields: { csv: doubts[0]?.message ?? 'No row holds an offset.' },
      });
    if (places.size > MOST_PLACES)
      return refuse({
        code: 'invalid-input',
        fields: {
          csv: `At most ${MOST_PLACES} places in a session; send longer tables to the address for scripts.`,
        },
      });
    const at = inner.now();
    const { changes } = await backToRead(inner, row);
    if (instead.length > 0)
      await inner.db
        .update(readings)
        .set({ replacedAt: at })
        .where(
          and(
            eq(readings.passId, passId),
            inArray(readings.stationId, [...instead]),
            axis && eq(readings.axis, axis),
            isNull(readings.replacedAt),
          ),
        );
    await inner.db
      .insert(readings)
      .values(read.map((r) => ({ passId, ...r, coarseMm: null, enteredBy: actor, enteredAt: at })));
    return accept({ changes, kept: new Set(read.map((r) => r.stationId)).size, doubts });
  },
) as UseCase<SentOther, OthersKept>;
