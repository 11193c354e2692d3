import { and, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse, type Outcome } from '@/core/outcome';
import type { OffsetAxis } from '@/core/units';
import { DOOR } from '@/db/closed';
import { asOneStatement, inTransaction, isTaken } from '@/db/transaction';
import { passes, proofSheets, readings, sessions } from '@/db/schema';
import { sheetStation } from '@/db/stored/sessions';

import { answeredBefore, keep } from '@/server/base/act';
import { type Actor, type Deps, type UseCaseRefusal, type Done } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';
import { withShape } from '@/server/base/useCase';
import type { UseCase } from '@/server/base/useCase';
import { passReading } from '@/core/readings';
import { readingInputSchema } from './shapes';
import { CLOSED } from './session';

interface Comb {
  readonly stationId: string;
  readonly axis: OffsetAxis;
}

/** The session of a pass and what a reading of it has to know; null when there is none. */
export async function passOf(
  deps: Deps,
  passId: string,
  stationId: string,
  request: string | null,
  lock: boolean,
) {
  const asked = deps.db
    .select({
      sessionId: sessions.id,
      stage: sessions.stage,
      changes: sessions.changes,
      answered: sql<boolean>`exists (select 1 from acts where request = ${request})`,
      newest: sql<boolean>`${passes.position} = (select max(p.position) from passes p where p.session_id = ${sessions.id})`,
      read: sql<boolean>`exists (select 1 from readings r where r.pass_id = ${passes.id} and r.replaced_at is null)`,
      station: sql<unknown>`jsonb_path_query_first(${proofSheets.geometry}, '$.stations[*] ? (@.id == $id && @.set == $set)', jsonb_build_object('id', ${stationId}::text, 'set', ${passes.stationSet}))`,
    })
    .from(passes)
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
    .where(eq(passes.id, passId));
  const [row] = await (lock ? asked.for('update', { of: sessions }) : asked);
  return row ?? null;
}

export type PassRow = NonNullable<Awaited<ReturnType<typeof passOf>>>;

/**
 * Whether readings of a pass may change now. While it is read, yes; later a reading takes the session back to Read,
 * where what it proposes is worked out anew; never after it is closed, nor once its correction is in use.
 */
export function refusalOf(row: PassRow): UseCaseRefusal | null {
  switch (row.stage) {
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

/** Something else was kept of a pass: everybody's page looks again, and what stood proposed is worked out anew. */
export async function backToRead(inner: Deps, row: PassRow): Promise<Changed> {
  const [touched] = await inner.db
    .update(sessions)
    .set({
      changes: sql`${sessions.changes} + 1`,
      version: sql`${sessions.version} + ${row.stage === 'read' ? 0 : 1}`,
      stage: 'read',
    })
    .where(eq(sessions.id, row.sessionId))
    .returning({ changes: sessions.changes });
  return touched!;
}

/** A step on what is read of a pass: its session is held, and takes readings of it. */
export const passStep = <S extends z.ZodType<{ readonly passId: string; readonly stationId?: string }>, T>(
  schema: S,
  act: string,
  work: (inner: Deps, row: PassRow, given: z.output<S>, actor: Actor) => Done<T>,
): UseCase<z.input<S>, T> =>
  withShape(schema, act, (deps, actor, given, { request }) => {
    const { passId, stationId = '' } = given;
    return keep(deps, actor, { act, subjectId: passId, request }, async (inner) => {
      const row = await passOf(inner, passId, stationId, null, true);
      if (!row) return refuse({ code: 'not-found', what: 'pass' });
      const refused = refusalOf(row);
      return refused ? refuse(refused) : work(inner, row, given, actor);
    });
  });

/** How many changes the session had seen with this one: a page that has heard of fewer does not know it yet. */
export interface Changed {
  readonly changes: number;
}

/**
 * What a reading changes, as parts of one question to the database: everybody’s page looks again, a proposal is void,
 * what counted of the comb counts no more. Whoever reads `replaced` to its end comes after it.
 */
const changing = (row: PassRow, passId: string, comb: Comb, at: Date) => sql`
  with door as (select pg_try_advisory_xact_lock_shared(${DOOR}) as open), touched as (
    update sessions set changes = changes + 1,
      version = version + ${row.stage === 'read' ? 0 : 1}::int, stage = 'read'
    where id = ${row.sessionId} and changes = ${row.changes} and (select open from door) returning changes
  ), replaced as (
    update readings set replaced_at = ${at}
    where pass_id = ${passId} and station_id = ${comb.stationId} and axis = ${comb.axis} and replaced_at is null
      and exists (select 1 from touched)
    returning id
  )`;

const READING = 'reading';

interface Entered {
  readonly passId: string;
  readonly request: string;
  readonly actor: Actor;
  readonly input: z.output<typeof readingInputSchema>;
}

/**
 * Looks, then keeps the reading if nobody changed the session in between, in two questions: the second is one statement
 * and so its own transaction. Null when somebody did.
 */
async function keepUnlessChanged(
  deps: Deps,
  { passId, request, actor, input }: Entered,
): Promise<Outcome<Changed, UseCaseRefusal> | null> {
  const { stationId, axis, pick, coarseMm } = input;
  const row = await passOf(deps, passId, stationId, request, false);
  if (row?.answered) return answeredBefore(deps, { act: READING, subjectId: passId, request });
  if (!row) return refuse({ code: 'not-found', what: 'pass' });
  const refused = refusalOf(row);
  if (refused) return refuse(refused);
  if (row.station === null) return refuse({ code: 'not-found', what: `station ${stationId} on this sheet` });
  const { observation: o } = passReading(sheetStation.read(row.station), axis, pick);
  const at = deps.now();
  const written = deps.db.execute<Record<'changes', number>>(sql`
    ${changing(row, passId, { stationId, axis }, at)}, act as (
      insert into acts (request, act, subject_id, asked, by, at, result)
      select ${request}, ${READING}, ${passId}, ${deps.asked ?? null}, ${actor}, ${at}, jsonb_build_object('changes', touched.changes) from touched
    )
    insert into readings
      (pass_id, station_id, axis, pick, coarse_mm, x_mm, y_mm, offset_mm, u_mm, entered_by, entered_at)
    select ${passId}, ${stationId}, ${axis}, ${JSON.stringify(pick)}::jsonb, ${coarseMm}::float8,
      ${o.xMm}::float8, ${o.yMm}::float8, ${o.offsetMm}::float8, ${o.uMm}::float8, ${actor}, ${at}
    from touched, (select count(*) from replaced) before
    returning (select changes from touched)`);
  const { rows } = await asOneStatement(written);
  return rows[0] ? accept({ changes: rows[0].changes }) : null;
}

/** Keeps one reading as it was entered; an earlier one of the same comb is kept too, marked as replaced. */
export const saveReading = withShape(
  readingInputSchema,
  READING,
  async (deps, actor, input, { request = crypto.randomUUID() }): Done<Changed> => {
    const entered = { passId: input.passId, request, actor, input };
    const kept = await keepUnlessChanged(deps, entered).catch((error: unknown) => {
      // Somebody else was on this comb, or sent this number: found out in their turn.
      if (isTaken(error)) return null;
      throw error;
    });
    return kept ?? inTransaction(deps.db, (tx) => inItsTurn({ ...deps, db: tx }, entered));
  },
);

/** The same behind a lock on the session, so that nobody can come in between. */
async function inItsTurn(deps: Deps, entered: Entered): Promise<Outcome<Changed, UseCaseRefusal>> {
  await passOf(deps, entered.passId, entered.input.stationId, null, true);
  const kept = await keepUnlessChanged(deps, entered);
  if (!kept) throw new Error('a session changed while it was locked');
  return kept;
}

const currentReading = (passId: string, { stationId, axis }: Comb) =>
  and(
    eq(readings.passId, passId),
    eq(readings.stationId, stationId),
    eq(readings.axis, axis),
    isNull(readings.replacedAt),
  );

export const combSchema = z.object({
  stationId: z.string().min(1).max(80),
  axis: z.enum(['across', 'along']),
});

/** Takes a reading back; it stays in the log as replaced. */
export const clearReading = passStep(
  z.object({ passId: idSchema, comb: combSchema }),
  'take reading back',
  async (inner, row, { passId, comb }): Done<Changed> => {
    const { rows } = await inner.db.execute<Record<'changes', number>>(
      sql`${changing(row, passId, comb, inner.now())} select changes from touched`,
    );
    return accept({ changes: rows[0]!.changes });
  },
);

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
