import { and, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import { passReading } from '@/core/calibration';
import { accept, refuse, type Outcome } from '@/core/outcome';
import type { OffsetAxis } from '@/core/units';
import { passes, proofSheets, readings, sessions } from '@/db/schema';

import { keep } from './base/act';
import { stored } from './base/stored';
import { fieldMessages, type Actor, type Deps, type UseCaseRefusal } from './deps';
import { readingInputSchema, stationSchema } from './schemas';
import { CLOSED, type Stage } from './session';

interface Comb {
  readonly stationId: string;
  readonly axis: OffsetAxis;
}

/** The session of a pass, locked, and what a reading of it has to know; null when there is none. */
async function lockPass(deps: Deps, passId: string, stationId: string) {
  const [row] = await deps.db
    .select({
      sessionId: sessions.id,
      stage: sessions.stage,
      newest: sql<boolean>`${passes.position} = (select max(p.position) from passes p where p.session_id = ${sessions.id})`,
      read: sql<boolean>`exists (select 1 from readings r where r.pass_id = ${passes.id} and r.replaced_at is null)`,
      station: sql<unknown>`jsonb_path_query_first(${proofSheets.geometry}, '$.stations[*] ? (@.id == $id && @.set == $set)', jsonb_build_object('id', ${stationId}::text, 'set', ${passes.stationSet}))`,
    })
    .from(passes)
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
    .where(eq(passes.id, passId))
    .for('update', { of: sessions });
  return row ?? null;
}

/**
 * Whether readings of a pass may change now. While it is read, yes; later a reading takes the session back to Read,
 * where what it proposes is worked out anew; never after it is closed, nor once its correction is in use.
 */
function refusalOf(row: NonNullable<Awaited<ReturnType<typeof lockPass>>>): UseCaseRefusal | null {
  switch (row.stage as Stage) {
    case 'closed':
      return CLOSED;
    case 'print':
      return {
        code: 'refused',
        message: 'This set is not on record as cut yet. Say so first, then read it.',
      };
    case 'read':
    case 'correct':
    case 'prove':
      if (!row.newest)
        return {
          code: 'refused',
          message: 'This set has been corrected from already; its readings are closed. Read the newest set.',
        };
      if (row.stage === 'prove' && !row.read)
        return {
          code: 'refused',
          message: 'This set is not on record as cut yet. Say so first, then read it.',
        };
      return null;
    default:
      return row.stage as never;
  }
}

/** What changed in a session through its readings: everybody’s page looks again, and a proposal is void. */
const touch = (deps: Deps, row: { readonly sessionId: string; readonly stage: string }) =>
  deps.db
    .update(sessions)
    .set({
      changes: sql`${sessions.changes} + 1`,
      ...(row.stage === 'read' ? {} : { stage: 'read', version: sql`${sessions.version} + 1` }),
    })
    .where(eq(sessions.id, row.sessionId));

/** Keeps one reading as it was entered; an earlier one of the same comb is kept too, marked as replaced. */
export async function saveReading(
  deps: Deps,
  actor: Actor,
  input: unknown,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  const parsed = readingInputSchema.safeParse(input);
  if (!parsed.success) return refuse({ code: 'invalid-input', fields: fieldMessages(parsed.error) });
  const { passId, stationId, axis, pick, coarseMm } = parsed.data;
  return keep(deps, actor, { act: 'reading', subjectId: passId, request }, async (inner) => {
    const row = await lockPass(inner, passId, stationId);
    if (!row) return refuse({ code: 'not-found', what: 'pass' });
    const refused = refusalOf(row);
    if (refused) return refuse(refused);
    if (row.station === null)
      return refuse({ code: 'not-found', what: `station ${stationId} on this sheet` });
    const { observation } = passReading(stored(stationSchema, row.station, 'a station'), axis, pick);
    await replace(inner, row, passId, { stationId, axis });
    await inner.db.insert(readings).values({
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
    return accept(null);
  });
}

/** What counted of a comb counts no more, and the session has changed: one question to the database. */
async function replace(
  deps: Deps,
  row: Parameters<typeof touch>[1],
  passId: string,
  comb: Comb,
): Promise<void> {
  const touched = deps.db.$with('touched').as(touch(deps, row).returning({ id: sessions.id }));
  await deps.db
    .with(touched)
    .update(readings)
    .set({ replacedAt: deps.now() })
    .where(currentReading(passId, comb));
}

const currentReading = (passId: string, { stationId, axis }: Comb) =>
  and(
    eq(readings.passId, passId),
    eq(readings.stationId, stationId),
    eq(readings.axis, axis),
    isNull(readings.replacedAt),
  );

export const combSchema = z.object({
  stationId: z.string().min(1).max(8),
  axis: z.enum(['across', 'along']),
});

/** Takes a reading back; it stays in the log as replaced. */
export function clearReading(
  deps: Deps,
  actor: Actor,
  passId: string,
  comb: Comb,
  request?: string,
): Promise<Outcome<null, UseCaseRefusal>> {
  return keep(deps, actor, { act: 'take reading back', subjectId: passId, request }, async (inner) => {
    const row = await lockPass(inner, passId, comb.stationId);
    if (!row) return refuse({ code: 'not-found', what: 'pass' });
    const refused = refusalOf(row);
    if (refused) return refuse(refused);
    await replace(inner, row, passId, comb);
    return accept(null);
  });
}

/**
 * Leaves a reading out of the fit, or counts it again: the operator's decision, kept with who made it. For a step that
 * holds the session; false when there is no such reading.
 */
export async function setAside(
  deps: Deps,
  actor: Actor,
  passId: string,
  comb: Comb,
  aside: boolean,
): Promise<boolean> {
  const changed = await deps.db
    .update(readings)
    .set({ setAsideBy: aside ? actor : null, setAsideAt: aside ? deps.now() : null })
    .where(currentReading(passId, comb))
    .returning({ id: readings.id });
  return changed.length > 0;
}
