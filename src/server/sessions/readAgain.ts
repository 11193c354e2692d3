import { and, asc, desc, eq, isNull, lt, sql } from 'drizzle-orm';
import { z } from 'zod';

import { readingOrder } from '@/core/calibration';
import { accept, refuse, type Outcome } from '@/core/outcome';
import type { Station } from '@/core/proof';
import { normalDeviate, seededRandom } from '@/core/random/random';
import { nearestLengths, pickOffsetMm } from '@/core/comb';
import { repeatStudy, type Look, type RepeatStudy } from '@/core/readings/repeat';
import { OFFSET_AXES, type OffsetAxis } from '@/core/units';
import { passes, proofSheets, readings, repeatReadings, sessions, setups } from '@/db/schema';
import { sheetGeometry } from '@/db/stored/sessions';
import { type Deps, type UseCaseRefusal, type Done } from '@/server/base/deps';
import { idSchema } from '@/server/base/shapes';
import { useCase } from '@/server/base/useCase';

import { isOther, type Pass } from './session';

/* Combs that are read again, to learn how well they are read. What is kept here is no part of any fit of its own sheet. */

/** So many stations are read again: their two combs each make a round of ten looks. */
const STATIONS_AGAIN = 5;
/** A person reads a comb again so often at most. */
export const MOST_ROUNDS = 5;

export interface AgainLook extends Look {
  readonly id: string;
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly round: number;
}

/** A comb that is to be read again. */
export interface CombAgain {
  readonly station: Station;
  readonly axis: OffsetAxis;
}

/** What of a set can be read again: both combs of some stations that were read by comb, spread over the sheet. */
export function combsAgain(pass: Pass): CombAgain[] {
  const read = (id: string, axis: OffsetAxis): boolean =>
    pass.readings.some((r) => r.stationId === id && r.axis === axis && !isOther(r));
  return readingOrder(pass.stations)
    .filter((s) => OFFSET_AXES.every((axis) => read(s.id, axis)))
    .slice(0, STATIONS_AGAIN)
    .flatMap((station) => OFFSET_AXES.map((axis) => ({ station, axis })));
}

const combName = (stationId: string, axis: OffsetAxis): string => `${stationId} ${axis}`;

/** The looks of a set again, oldest first. */
export async function looksAgain(deps: Deps, passId: string): Promise<AgainLook[]> {
  const rows = await deps.db
    .select()
    .from(repeatReadings)
    .where(and(eq(repeatReadings.passId, passId), isNull(repeatReadings.replacedAt)))
    .orderBy(asc(repeatReadings.enteredAt), asc(repeatReadings.round));
  return rows.map(({ id, stationId, axis, round, offsetMm, enteredBy }) => ({
    ...{ id, stationId, axis, round, offsetMm, person: enteredBy, comb: combName(stationId, axis) },
  }));
}

/** What all looks at a set say, those of its session first; null while nothing was read twice. */
export async function studyOfPass(deps: Deps, passId: string): Promise<RepeatStudy | null> {
  const first = await deps.db
    .select({ reading: readings, geometry: proofSheets.geometry })
    .from(readings)
    .innerJoin(passes, eq(passes.id, readings.passId))
    .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
    .where(and(eq(readings.passId, passId), isNull(readings.replacedAt), sql`${readings.pick} ? 'line'`))
    .orderBy(asc(readings.enteredAt));
  if (!first[0]) return null;
  const again = await looksAgain(deps, passId);
  const combs = new Set(again.map((l) => l.comb));
  const looks = first
    .map(({ reading: r }) => ({
      comb: combName(r.stationId, r.axis),
      person: r.enteredBy,
      offsetMm: r.offsetMm,
    }))
    .filter((l) => combs.has(l.comb));
  return repeatStudy([...looks, ...again], sheetGeometry.read(first[0].geometry).spec.stepMm);
}

/** A study that was made on a rig, and on which sheet. */
export interface StudyOnRecord {
  readonly study: RepeatStudy;
  readonly sessionId: string;
  readonly at: Date;
}

/** The newest study of a rig that was begun before a moment; null when nobody read anything again. */
export async function newestStudy(deps: Deps, rigId: string, before: Date): Promise<StudyOnRecord | null> {
  const [row] = await deps.db
    .select({ passId: repeatReadings.passId, sessionId: passes.sessionId, at: repeatReadings.enteredAt })
    .from(repeatReadings)
    .innerJoin(passes, eq(passes.id, repeatReadings.passId))
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .innerJoin(setups, eq(setups.id, sessions.setupId))
    .where(
      and(eq(setups.rigId, rigId), lt(repeatReadings.enteredAt, before), isNull(repeatReadings.replacedAt)),
    )
    .orderBy(desc(repeatReadings.enteredAt))
    .limit(1);
  const study = row && (await studyOfPass(deps, row.passId));
  return study ? { study, sessionId: row.sessionId, at: row.at } : null;
}

/** In which order a person reads the combs in a round: another one each time, so that memory does not read. */
export function orderOf(
  combs: readonly CombAgain[],
  sheetNumber: number,
  person: string,
  round: number,
): CombAgain[] {
  const seed = [...person].reduce((sum, c) => 31 * sum + c.charCodeAt(0), 977 * sheetNumber + round);
  const random = seededRandom(seed);
  return combs
    .map((comb) => ({ comb, place: normalDeviate(random) }))
    .sort((a, b) => a.place - b.place)
    .map(({ comb }) => comb);
}

/** Which comb a person reads next, and in which of their rounds; null when they have read enough. */
export function nextAgain(
  combs: readonly CombAgain[],
  looks: readonly AgainLook[],
  sheetNumber: number,
  person: string,
): { readonly comb: CombAgain; readonly round: number; readonly done: number } | null {
  const own = looks.filter((l) => l.person === person);
  for (let round = 1; round <= MOST_ROUNDS; round += 1) {
    const inRound = own.filter((l) => l.round === round);
    const comb = orderOf(combs, sheetNumber, person, round).find(
      (c) => !inRound.some((l) => l.stationId === c.station.id && l.axis === c.axis),
    );
    if (comb) return { comb, round, done: inRound.length };
  }
  return null;
}

const lookSchema = z.object({
  passId: z.uuid(),
  stationId: z.string().min(1).max(8),
  axis: z.enum(OFFSET_AXES),
  round: z.int().min(1).max(MOST_ROUNDS, `A comb is read again ${MOST_ROUNDS} times at most.`),
  line: z.int().min(-40).max(40),
  between: z.boolean(),
});

const NOT_READ = {
  code: 'refused',
  message: 'This comb was not read yet. Read it in its session first; then it can be read again.',
} as const;

/** A pass, held, as long as its session was not thrown away. */
async function heldPass(
  deps: Deps,
  passId: string,
): Promise<Outcome<{ readonly geometry: unknown }, UseCaseRefusal>> {
  const [row] = await deps.db
    .select({ geometry: proofSheets.geometry, discarded: sessions.discarded })
    .from(passes)
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .innerJoin(proofSheets, eq(proofSheets.id, passes.sheetId))
    .where(eq(passes.id, passId))
    .for('update', { of: passes });
  if (!row) return refuse({ code: 'not-found', what: 'pass' });
  return row.discarded
    ? refuse({ code: 'refused', message: 'This session was discarded. Open it again in the logbook first.' })
    : accept(row);
}

/** Keeps a look at a comb that was read before; looked at again in the same round it replaces what was kept. */
export const keepLook = useCase(
  lookSchema,
  { act: 'read again', about: 'passId' },
  async (
    inner,
    { passId, stationId, axis, round, line, between },
    actor,
  ): Done<{ readonly round: number }> => {
    const pass = await heldPass(inner, passId);
    if (!pass.ok) return pass;
    const station = sheetGeometry.read(pass.value.geometry).stations.find((s) => s.id === stationId);
    if (!station) return refuse({ code: 'not-found', what: `station ${stationId} on this sheet` });
    const comb = station[axis];
    if (Math.abs(line) > comb.halfLines + 1)
      return refuse({ code: 'invalid-input', fields: { line: 'This comb has no such line.' } });
    const [first] = await inner.db
      .select({ offsetMm: readings.offsetMm })
      .from(readings)
      .where(
        and(
          ...[eq(readings.passId, passId), eq(readings.stationId, stationId), eq(readings.axis, axis)],
          ...[isNull(readings.replacedAt), sql`${readings.pick} ? 'line'`],
        ),
      );
    if (!first) return refuse(NOT_READ);
    // Which whole comb lengths it is, the session has told.
    const lengths = nearestLengths(comb, line, between, { offsetMm: first.offsetMm, uMm: 0 });
    const pick = { line, between, lengths };
    const own = { passId, stationId, axis, round, enteredBy: actor };
    await inner.db
      .update(repeatReadings)
      .set({ replacedAt: inner.now() })
      .where(
        and(
          ...[eq(repeatReadings.passId, passId), eq(repeatReadings.stationId, stationId)],
          ...[eq(repeatReadings.axis, axis), eq(repeatReadings.round, round)],
          ...[eq(repeatReadings.enteredBy, actor), isNull(repeatReadings.replacedAt)],
        ),
      );
    await inner.db
      .insert(repeatReadings)
      .values({ ...own, pick, offsetMm: pickOffsetMm(comb, pick), enteredAt: inner.now() });
    return accept({ round });
  },
);

/** Takes back the newest look of somebody at a set; it stays in the log. */
export const takeBackLook = useCase(
  idSchema,
  { act: 'take look back' },
  async (inner, passId, actor): Done<{ readonly taken: string }> => {
    const pass = await heldPass(inner, passId);
    if (!pass.ok) return pass;
    const last = (await looksAgain(inner, passId)).findLast((l) => l.person === actor);
    if (!last) return refuse({ code: 'refused', message: 'You have read nothing of this set again yet.' });
    await inner.db
      .update(repeatReadings)
      .set({ replacedAt: inner.now() })
      .where(eq(repeatReadings.id, last.id));
    return accept({ taken: last.comb });
  },
);
