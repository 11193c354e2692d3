import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse, type Outcome } from '@/core/outcome';
import { lengths } from '@/db/schema';
import { keep } from '@/server/base/act';
import { fieldMessages, type Actor, type Deps, type UseCaseRefusal } from '@/server/base/deps';
import { finite } from '@/server/base/shapes';

import { readingsOfPass } from './loadSession';
import { backToRead, passOf, refusalOf, type Changed } from './readings';
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
export function saveLength(
  deps: Deps,
  actor: Actor,
  raw: unknown,
  request?: string,
): Promise<Outcome<Changed, UseCaseRefusal>> {
  const parsed = lengthInputSchema.safeParse(raw);
  if (!parsed.success)
    return Promise.resolve(refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) }));
  const { passId, from, to, ...measured } = parsed.data;
  return changeLengths(deps, actor, passId, request, async (inner, pass) => {
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
    return accept(null);
  });
}

/** Takes a length back; it stays in the log. */
export const clearLength = (
  deps: Deps,
  actor: Actor,
  { passId, lengthId }: { readonly passId: string; readonly lengthId: string },
  request?: string,
): Promise<Outcome<Changed, UseCaseRefusal>> =>
  changeLengths(deps, actor, passId, request, async (inner) => {
    const gone = await inner.db
      .update(lengths)
      .set({ replacedAt: inner.now() })
      .where(and(eq(lengths.id, lengthId), eq(lengths.passId, passId), isNull(lengths.replacedAt)))
      .returning({ id: lengths.id });
    return gone.length > 0 ? accept(null) : refuse({ code: 'not-found', what: 'length' });
  });

function changeLengths(
  deps: Deps,
  actor: Actor,
  passId: string,
  request: string | undefined,
  change: (inner: Deps, stations: ReturnType<typeof featuresOf>) => Promise<Outcome<null, UseCaseRefusal>>,
): Promise<Outcome<Changed, UseCaseRefusal>> {
  return keep(deps, actor, { act: 'long length', subjectId: passId, request }, async (inner) => {
    const row = await passOf(inner, passId, '', null, true);
    if (!row) return refuse({ code: 'not-found', what: 'pass' });
    const refused = refusalOf(row);
    if (refused) return refuse(refused);
    const done = await change(inner, featuresOf((await readingsOfPass(inner, passId))!));
    if (!done.ok) return done;
    return accept(await backToRead(inner, row));
  });
}
