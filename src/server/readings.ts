import { and, eq, isNull } from 'drizzle-orm';

import { passReading } from '@/core/calibration';
import { accept, refuse, type Outcome } from '@/core/outcome';
import type { OffsetAxis } from '@/core/units';
import { passes, readings, sessions } from '@/db/schema';

import { fieldMessages, type Actor, type Deps, type UseCaseRefusal } from './deps';
import { CLOSED, loadPass } from './loadSession';
import { readingInputSchema } from './schemas';

/** Keeps one reading as it was entered; an earlier one of the same comb is kept too, marked as replaced. */
export async function saveReading(
  deps: Deps,
  actor: Actor,
  input: unknown,
): Promise<Outcome<null, UseCaseRefusal>> {
  const parsed = readingInputSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { passId, stationId, axis, pick, coarseMm } = parsed.data;
  const [row] = await deps.db.select().from(passes).where(eq(passes.id, passId));
  if (!row) return refuse({ code: 'not-found', what: 'pass' });
  const [open] = await deps.db
    .select({ id: sessions.id })
    .from(sessions)
    .where(and(eq(sessions.id, row.sessionId), isNull(sessions.closedAt)));
  if (!open) return refuse(CLOSED);
  const pass = await loadPass(deps, row);
  const station = pass.stations.find((s) => s.id === stationId);
  if (!station) return refuse({ code: 'not-found', what: `station ${stationId} on this sheet` });
  const { observation } = passReading(station, axis, pick);
  await deps.db.transaction(async (tx) => {
    // One writer at a time for a pass: two tablets may read the same comb.
    await tx.select({ id: passes.id }).from(passes).where(eq(passes.id, passId)).for('update');
    await tx
      .update(readings)
      .set({ replacedAt: deps.now() })
      .where(currentReading(passId, stationId, axis));
    await tx.insert(readings).values({
      passId,
      stationId,
      axis,
      pick,
      coarseMm,
      xMm: observation.xMm,
      yMm: observation.yMm,
      offsetMm: observation.offsetMm,
      uMm: observation.uMm,
      enteredBy: actor,
      enteredAt: deps.now(),
    });
  });
  return accept(null);
}

const currentReading = (passId: string, stationId: string, axis: OffsetAxis) =>
  and(
    eq(readings.passId, passId),
    eq(readings.stationId, stationId),
    eq(readings.axis, axis),
    isNull(readings.replacedAt),
  );

/** Takes a reading back; it stays in the log as replaced. */
export async function clearReading(
  deps: Deps,
  passId: string,
  stationId: string,
  axis: OffsetAxis,
): Promise<Outcome<null, UseCaseRefusal>> {
  await deps.db
    .update(readings)
    .set({ replacedAt: deps.now() })
    .where(currentReading(passId, stationId, axis));
  return accept(null);
}

/** Leaves a reading out of the fit, or counts it again: the operator's decision, kept in the log with who made it. */
export async function setReadingAside(
  deps: Deps,
  actor: Actor,
  passId: string,
  stationId: string,
  axis: OffsetAxis,
  aside: boolean,
): Promise<Outcome<null, UseCaseRefusal>> {
  const changed = await deps.db
    .update(readings)
    .set({ setAsideBy: aside ? actor : null, setAsideAt: aside ? deps.now() : null })
    .where(currentReading(passId, stationId, axis))
    .returning({ id: readings.id });
  return changed.length > 0 ? accept(null) : refuse({ code: 'not-found', what: 'reading' });
}
