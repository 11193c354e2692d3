import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { lengths } from '@/db/schema';
import { finite, idSchema } from '@/server/base/shapes';
import type { Done } from '@/server/base/deps';

import { readingsOfPass } from './loadSession';
import { backToRead, type Changed, passStep } from './readings';
import { featuresOf } from './session';

/* Long lengths between the stations of a set, as a ruler or a tape says them. */

/** A length that is off by more was measured between other places, or in another unit. */
const MOST_OFF = 0.05;

const lengthMm = finite.min(1, 'At least 1 mm.').max(60_000, 'At most 60 m.');

const lengthInputSchema = z.object({
  passId: z.uuid(),
  from: z.string().min(1).max(8),
  to: z.string().min(1).max(8),
  printMm: lengthMm.nullable(),
  cutMm: lengthMm,
  resolutionMm: finite
    .min(0.005, 'A ruler is read to at least 0.005 mm.')
    .max(5, 'A tape is read to 5 mm at most.'),
});

/** Keeps a length; measured again between the same stations it replaces what was kept. */
export const saveLength = passStep(
  lengthInputSchema,
  'long length',
  async (inner, row, { passId, from, to, ...measured }, actor): Done<Changed> => {
    const pass = featuresOf((await readingsOfPass(inner, passId))!);
    const ends = [from, to].map((id) => pass.find((f) => f.id === id));
    if (!ends[0] || !ends[1] || from === to)
      return refuse({
        code: 'invalid-input',
        fields: { to: `Choose two different stations of this set: ${pass.map((f) => f.id).join(', ')}.` },
      });
    const nominal = Math.hypot(ends[1].x - ends[0].x, ends[1].y - ends[0].y);
    for (const field of ['printMm', 'cutMm'] as const) {
      const mm = measured[field];
      if (mm !== null && Math.abs(mm / nominal - 1) > MOST_OFF)
        return refuse({
          code: 'invalid-input',
          fields: {
            [field]: `From ${from} to ${to} it is ${nominal.toFixed(1)} mm on the sheet: measure from middle to middle of these two, and check the unit.`,
          },
        });
    }
    // The same two stations, whichever was named first.
    const [fromStation, toStation] = [from, to].sort();
    await inner.db
      .update(lengths)
      .set({ replacedAt: inner.now() })
      .where(
        and(
          eq(lengths.passId, passId),
          eq(lengths.fromStation, fromStation!),
          eq(lengths.toStation, toStation!),
          isNull(lengths.replacedAt),
        ),
      );
    await inner.db.insert(lengths).values({
      ...{ passId, fromStation: fromStation!, toStation: toStation!, ...measured },
      ...{ enteredBy: actor, enteredAt: inner.now() },
    });
    return accept(await backToRead(inner, row));
  },
);

/** Takes a length back; it stays in the log. */
export const clearLength = passStep(
  z.object({ passId: idSchema, lengthId: idSchema }),
  'long length',
  async (inner, row, { passId, lengthId }): Done<Changed> => {
    const gone = await inner.db
      .update(lengths)
      .set({ replacedAt: inner.now() })
      .where(and(eq(lengths.id, lengthId), eq(lengths.passId, passId), isNull(lengths.replacedAt)))
      .returning({ id: lengths.id });
    return gone.length > 0
      ? accept(await backToRead(inner, row))
      : refuse({ code: 'not-found', what: 'length' });
  },
);
