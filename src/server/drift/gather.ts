import { and, asc, desc, eq, inArray, isNull } from 'drizzle-orm';

import { creepFromTapes, type DriftRun, lengthError } from '@/core/drift';
import { passes, readings, runChecks, runs, sessions } from '@/db/schema';
import { type DriftAxis } from '@/db/stored/drift';
import type { Deps } from '@/server/base/deps';
import { runsOf } from '@/server/runs/repository';
import { runLabel } from '@/server/runs/run';

import { driftRunsOf, together } from './runRecord';
import type { TapeMeasure } from './tapeMeasures';

/** Readings an axis that an estimate goes back over: about a year of runs, and a second or two of work. */
export const MOST_READINGS = 600;

interface Recorded {
  readonly at: Date;
  readonly along: readonly DriftRun[];
  readonly across: readonly DriftRun[];
  readonly sections: number;
}

const readingsIn = (pieces: readonly DriftRun[]): number =>
  pieces.reduce((sum, p) => sum + p.readings.length, 0);

/** The newest pieces that hold no more readings than an estimate goes back over, oldest first. */
export function newestOf(record: readonly Recorded[], axis: DriftAxis): DriftRun[] {
  const kept: DriftRun[] = [];
  let readings = 0;
  for (const { [axis]: pieces } of [...record].sort((a, b) => b.at.getTime() - a.at.getTime())) {
    readings += readingsIn(pieces);
    if (kept.length > 0 && readings > MOST_READINGS) break;
    kept.unshift(...pieces.filter((p) => p.readings.length > 0));
  }
  return kept;
}

/** Runs that are fetched together while going back. */
const RUNS_AT_ONCE = 30;

/** What is on record about a rig's drift, as far back as an estimate goes. */
export async function gather(deps: Deps, setupId: string): Promise<Recorded[]> {
  const record: Recorded[] = [];
  const enough = (axis: DriftAxis): boolean =>
    record.reduce((sum, r) => sum + readingsIn(r[axis]), 0) > MOST_READINGS;
  const rows = await deps.db
    .select({ id: runs.id, kind: runs.kind, number: runs.number, at: runs.startedAt })
    .from(runs)
    .where(eq(runs.setupId, setupId))
    .orderBy(desc(runs.startedAt));
  for (let from = 0; from < rows.length && !(enough('along') && enough('across')); from += RUNS_AT_ONCE) {
    const some = rows.slice(from, from + RUNS_AT_ONCE);
    const jobs = new Map(
      (
        await runsOf(
          deps,
          some.map((r) => r.id),
        )
      ).map((run) => [run.id, run]),
    );
    const marks = await deps.db
      .select()
      .from(runChecks)
      .where(
        and(
          inArray(
            runChecks.runId,
            some.filter((r) => r.kind !== 'job').map((r) => r.id),
          ),
          isNull(runChecks.replacedAt),
        ),
      )
      .orderBy(asc(runChecks.yMm));
    for (const row of some) {
      if (enough('along') && enough('across')) break;
      const run = jobs.get(row.id);
      if (run)
        record.push({
          at: row.at,
          along: driftRunsOf(run, 'along'),
          across: driftRunsOf(run, 'across'),
          sections: new Set(run.checks.map((c) => c.section)).size,
        });
      if (row.kind === 'job') continue;
      const of = (axis: 'dxMm' | 'dyMm'): DriftRun => ({
        id: runLabel(row.number),
        registeredAtM: [0],
        readings: marks.flatMap((m) =>
          m.runId !== row.id || m[axis] === null
            ? []
            : [{ id: m.id, yM: m.yMm / 1000, offsetMm: m[axis], uMm: m.uMm }],
        ),
      });
      record.push({ at: row.at, along: [of('dyMm')], across: [of('dxMm')], sections: 1 });
    }
  }
  return [...record, ...(await rollProofs(deps, setupId))];
}

const DAY_MS = 24 * 3600 * 1000;

/** Rows of a strip stand farther apart than twice this; readings of one row lie within it. */
const ROW_REACH_MM = 70;

/** The start of a tape is where the cut begins: off by nothing that counts. */
const TAPE_START_U_MM = 0.01;

/** Cut lines measured by tape, each against the print of the same day: without it nobody knows which of them is off. */
export function tapeRuns(tapes: readonly TapeMeasure[]): Recorded[] {
  return tapes
    .filter((t) => t.of === 'cut')
    .flatMap((cut) => {
      const prints = tapes.filter(
        (t) => t.of === 'print' && Math.abs(t.at.getTime() - cut.at.getTime()) < DAY_MS,
      );
      const print = lengthError(prints);
      if (print === null) return [];
      const creep = creepFromTapes(lengthError([cut])!, print);
      const yM = cut.nominalMm / 1000;
      const piece: DriftRun = {
        id: `tape ${cut.at.toISOString().slice(0, 10)}`,
        registeredAtM: [0],
        readings: [
          { id: 'start', yM: 0, offsetMm: 0, uMm: TAPE_START_U_MM },
          { id: 'end', yM, offsetMm: creep.perM * yM, uMm: creep.uPerM * yM },
        ],
      };
      return [{ at: cut.at, along: [piece], across: [], sections: 1 }];
    });
}

/** Roll proofs that were read: stations of one row across taken together. */
async function rollProofs(deps: Deps, setupId: string): Promise<Recorded[]> {
  const rows = await deps.db
    .select({ session: sessions.number, at: sessions.startedAt, passId: passes.id })
    .from(passes)
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .where(and(eq(sessions.setupId, setupId), eq(sessions.kind, 'roll-proof'), eq(sessions.stage, 'closed')));
  if (rows.length === 0) return [];
  const read = await deps.db
    .select()
    .from(readings)
    .where(
      and(
        inArray(
          readings.passId,
          rows.map((r) => r.passId),
        ),
        isNull(readings.replacedAt),
        isNull(readings.setAsideAt),
      ),
    );
  return rows.map(({ session, at, passId }) => {
    const of = (axis: DriftAxis): DriftRun => {
      const own = read.filter((r) => r.passId === passId && r.axis === axis).sort((a, b) => a.yMm - b.yMm);
      // Stations of one row are read a few mm apart, where their lines coincide.
      const rowsRead: (typeof own)[] = [];
      for (const r of own)
        if (r.yMm - (rowsRead.at(-1)?.[0]?.yMm ?? -Infinity) > ROW_REACH_MM) rowsRead.push([r]);
        else rowsRead.at(-1)!.push(r);
      const from = own[0]?.yMm ?? 0;
      return {
        id: `proof ${session}`,
        registeredAtM: [0],
        readings: rowsRead.map((row) =>
          together(
            row.map((r) => ({
              id: `${passId} ${row[0]!.stationId}`,
              yM: (row.reduce((sum, { yMm }) => sum + yMm, 0) / row.length - from) / 1000,
              offsetMm: r.offsetMm,
              uMm: r.uMm,
            })),
          ),
        ),
      };
    };
    const along = of('along');
    return { at, along: [along], across: [of('across')], sections: along.readings.length };
  });
}
