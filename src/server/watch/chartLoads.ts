import { asc, eq, isNull, or, and, sql } from 'drizzle-orm';

import type { ChartRecord } from '@/core/control';
import { leverMm, TERM_NAMES, type TermName } from '@/core/fit';
import type { EventKind } from '@/core/setup';
import { events, foundTerms, sessions } from '@/db/schema';
import { onePerProcess } from '@/process/onePerProcess';
import { contentHash } from '@/server/base/contentHash';
import type { Deps } from '@/server/base/deps';
import { Remembered } from '@/server/base/remembered';
import type { Setup } from '@/server/setups/setup';

/** What the charts of a setup are made of, and what happened to it, both oldest first. */
export interface ChartLoads {
  readonly record: ChartRecord;
  readonly events: readonly { readonly at: Date; readonly kind: EventKind }[];
}

/** Files that differ by less carry the same correction. */
const SAME_FILE_MM = 1e-6;

type Packed = Readonly<Record<'at' | TermName, number[] | null>> & {
  readonly corrected: boolean[] | null;
  readonly shiftOnly: boolean[] | null;
};

/** Setups whose charts are remembered between pages. */
const MOST_REMEMBERED = 20;
const remembered = onePerProcess('chart loads', () => new Remembered<ChartLoads>(MOST_REMEMBERED));

/** The first set of every load of a setup, oldest first; gathered once, until something of the setup changes. */
export const chartLoads = async (deps: Deps, setup: Setup): Promise<ChartLoads> =>
  remembered.of(setup.id, await stampOf(deps, setup), () => gathered(deps, setup));

/** Moves with every load, with a session that is thrown away or brought back, with what happens, and with the setup. */
async function stampOf(deps: Deps, setup: Setup): Promise<string> {
  const { rows } = await deps.db.execute<{ stamp: string }>(sql`
    select concat_ws(' ',
      (select concat(count(*), '/', sum(version)) from ${sessions} where setup_id = ${setup.id}),
      (select concat(count(*), '/', max(at)) from ${foundTerms} where setup_id = ${setup.id}),
      (select concat(count(*), '/', max(happened_at), '/', max(id::text)) from ${events} where rig_id = ${setup.rigId})) as stamp`);
  return `${rows[0]!.stamp} ${contentHash(setup.workArea)}`;
}

/**
 * It comes as one row of columns, so that the tens of thousands of loads of a long record are no more work than they have
 * to be.
 */
async function gathered(deps: Deps, setup: Setup): Promise<ChartLoads> {
  const before = sql`over (order by ${foundTerms.at}, ${foundTerms.passId})`;
  const rows = deps.db
    .select({
      at: foundTerms.at,
      shiftOnly: foundTerms.shiftOnly,
      shiftXMm: foundTerms.shiftXMm,
      shiftYMm: foundTerms.shiftYMm,
      turnRad: foundTerms.turnRad,
      scaleAcross: foundTerms.scaleAcross,
      scaleAlong: foundTerms.scaleAlong,
      leanRad: foundTerms.leanRad,
      corrected: sql<boolean>`
        lag(${foundTerms.shown}) ${before} is not null and (lag(${foundTerms.shown}) ${before} <> ${foundTerms.shown}
          or abs(lag(${foundTerms.fileXMm}) ${before} - ${foundTerms.fileXMm}) > ${SAME_FILE_MM}
          or abs(lag(${foundTerms.fileYMm}) ${before} - ${foundTerms.fileYMm}) > ${SAME_FILE_MM})`.as(
        'corrected',
      ),
    })
    .from(foundTerms)
    .innerJoin(sessions, eq(sessions.id, foundTerms.sessionId))
    .where(and(eq(foundTerms.setupId, setup.id), eq(foundTerms.position, 1), eq(sessions.discarded, false)))
    .orderBy(asc(foundTerms.at), asc(foundTerms.passId))
    .as('f');
  const list = (of: unknown) => sql`json_agg(${of})`;
  const [[packed], happened] = await Promise.all([
    deps.db
      .select({
        at: sql<number[] | null>`json_agg(round(extract(epoch from ${rows.at}) * 1000))`,
        shiftOnly: sql<boolean[] | null>`${list(rows.shiftOnly)}`,
        corrected: sql<boolean[] | null>`${list(rows.corrected)}`,
        shiftXMm: sql<number[] | null>`${list(rows.shiftXMm)}`,
        shiftYMm: sql<number[] | null>`${list(rows.shiftYMm)}`,
        turnRad: sql<number[] | null>`${list(rows.turnRad)}`,
        scaleAcross: sql<number[] | null>`${list(rows.scaleAcross)}`,
        scaleAlong: sql<number[] | null>`${list(rows.scaleAlong)}`,
        leanRad: sql<number[] | null>`${list(rows.leanRad)}`,
      })
      .from(rows),
    deps.db
      .select({ at: events.happenedAt, kind: events.kind })
      .from(events)
      .where(and(eq(events.rigId, setup.rigId), or(isNull(events.setupId), eq(events.setupId, setup.id))))
      .orderBy(asc(events.happenedAt)),
  ]);
  const times = happened.map((e) => +e.at);
  return { record: unpacked(packed!, times, setup), events: happened };
}

function unpacked(packed: Packed, happened: readonly number[], setup: Setup): ChartRecord {
  const at = packed.at ?? [];
  const mm = Object.fromEntries(
    TERM_NAMES.map((term) => {
      const byOne = leverMm(term, setup.workArea);
      const truly = term.startsWith('scale') ? 1 : 0;
      return [term, (packed[term] ?? []).map((v) => (v - truly) * byOne)];
    }),
  ) as Record<TermName, number[]>;
  let next = 0;
  const anew = at.map((time, i): ChartRecord['anew'][number] => {
    const from = next;
    while (next < happened.length && happened[next]! <= time) next += 1;
    if (packed.corrected![i]) return 'corrected';
    return i > 0 && next > from ? 'event' : null;
  });
  return { at, anew, mm, shiftOnly: packed.shiftOnly ?? [] };
}
