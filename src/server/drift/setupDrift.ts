import { and, desc, eq, isNotNull, sql } from 'drizzle-orm';
import { createHash } from 'node:crypto';

import {
  DRIFT_PRIORS,
  DRIFT_VERSION,
  startOfRuns,
  type DriftNode,
  type DriftRun,
  type RunStart,
} from '@/core/drift';
import { driftEstimates, setups, runs, sessions, tapeMeasures } from '@/db/schema';
import { type AxisKnowledge, driftEstimate, driftNode } from '@/db/stored/drift';
import { onePerProcess } from '@/process/onePerProcess';
import type { Deps } from '@/server/base/deps';
import { Remembered } from '@/server/base/remembered';
import { heavy } from '@/server/heavy/pool';
import { getSetup } from '@/server/setups/repository';

import { gather, newestOf, tapeRuns } from './gather';
import { listTapeMeasures } from './tapeMeasures';

export type { AxisKnowledge } from '@/db/stored/drift';

export interface SetupDrift {
  readonly version: string;
  readonly along: AxisKnowledge;
  readonly across: AxisKnowledge;
  readonly sectionsOnRecord: number;
  readonly record: { readonly along: readonly DriftRun[]; readonly across: readonly DriftRun[] };
}

/** What is known of a rig's drift now; null when there is no such rig. */
export async function setupDrift(deps: Deps, setupId: string): Promise<SetupDrift | null> {
  const setup = await getSetup(deps, setupId);
  if (!setup) return null;
  const pieces = await gather(deps, setupId);
  const tapes = tapeRuns(await listTapeMeasures(deps, setupId));
  const sectionsOnRecord = [...pieces, ...tapes].reduce((sum, p) => sum + p.sections, 0);
  const record = { along: newestOf([...pieces, ...tapes], 'along'), across: newestOf(pieces, 'across') };
  // A tape starts at the cut itself: it does not tell how far out a run starts.
  const started = { along: newestOf(pieces, 'along'), across: record.across };
  const calibratedSdMm = await lastOutcomeSd(deps, setupId);
  const inputs = { mediaClass: setup.mediaClass, calibratedSdMm, ...record };
  const fingerprint = createHash('sha256').update(JSON.stringify(inputs)).digest('hex');
  const [before] = await deps.db
    .select()
    .from(driftEstimates)
    .where(
      and(
        eq(driftEstimates.setupId, setupId),
        eq(driftEstimates.version, DRIFT_VERSION),
        eq(driftEstimates.fingerprint, fingerprint),
      ),
    );
  if (before) {
    const result = driftEstimate.read(before.result);
    return { version: DRIFT_VERSION, ...result, sectionsOnRecord, record };
  }
  const result = {
    along: await axisKnowledge(
      record.along,
      setup.mediaClass,
      startOfRuns(firstChecks(started.along), calibratedSdMm),
    ),
    across: await axisKnowledge(
      record.across,
      setup.mediaClass,
      startOfRuns(firstChecks(started.across), calibratedSdMm),
    ),
  };
  await deps.db
    .insert(driftEstimates)
    .values({ setupId, version: DRIFT_VERSION, fingerprint, inputs, result, createdAt: deps.now() })
    .onConflictDoNothing();
  return { version: DRIFT_VERSION, ...result, sectionsOnRecord, record };
}

/** Rigs whose drift is remembered between pages. */
const MOST_REMEMBERED = 50;

const remembered = onePerProcess('drift', () => new Remembered<SetupDrift | null>(MOST_REMEMBERED));

/** The same for pages: gathered and worked out once for all who look, until something of the rig changes. */
export async function shownDrift(deps: Deps, setupId: string): Promise<SetupDrift | null> {
  const stamp = await driftStamp(deps, setupId);
  return remembered.of(setupId, stamp, () => setupDrift(deps, setupId));
}

/** Moves with everything that an estimate of this rig's drift is made from. */
async function driftStamp(deps: Deps, setupId: string): Promise<string> {
  const { rows } = await deps.db.execute<{ stamp: string }>(sql`
    select concat_ws(' ', (select version from ${setups} where id = ${setupId}),
      (select concat(count(*), '/', sum(version)) from ${runs} where setup_id = ${setupId}),
      (select concat(count(*), '/', sum(version)) from ${sessions} where setup_id = ${setupId}),
      (select concat(count(*), '/', max(entered_at)) from ${tapeMeasures} where setup_id = ${setupId})) as stamp`);
  return rows[0]!.stamp;
}

/** What the rig's newest closed session left over, a standard deviation an axis; null without one. */
async function lastOutcomeSd(deps: Deps, setupId: string): Promise<number | null> {
  const [row] = await deps.db
    .select({ r95Mm: sessions.outcomeR95Mm })
    .from(sessions)
    .where(and(eq(sessions.setupId, setupId), isNotNull(sessions.outcomeR95Mm)))
    .orderBy(desc(sessions.closedAt))
    .limit(1);
  return row?.r95Mm == null ? null : row.r95Mm / R95_OF_SD;
}

/** Radius of 95 of 100 over the standard deviation an axis, without bias (Rayleigh, closed form). */
const R95_OF_SD = Math.sqrt(-2 * Math.log(0.05));

const firstChecks = (record: readonly DriftRun[]): number[] => record.map((r) => r.readings[0]!.offsetMm);

/** Seven digits of each figure: far more than it is known to, and half as long to keep. */
const asKept = (node: DriftNode): DriftNode =>
  driftNode.read(
    Object.fromEntries(
      Object.entries<number>({ ...node }).map(([name, v]) => [name, Number(v.toPrecision(7))]),
    ),
  );

async function axisKnowledge(
  record: readonly DriftRun[],
  mediaClass: keyof typeof DRIFT_PRIORS,
  start: RunStart,
): Promise<AxisKnowledge> {
  const { estimate, slips } = await heavy('estimateDrift', { record, mediaClass });
  return {
    runs: estimate.runs,
    readings: estimate.readings,
    enough: estimate.enough,
    wander: estimate.wander,
    creepVar: estimate.creepVar,
    readingVar: estimate.readingVar,
    registrationVar: estimate.registrationVar,
    creep: estimate.creep,
    bow: estimate.bow,
    unitVarMm2: estimate.unitVarMm2,
    startSdMm: start.sdMm,
    startFrom: start.from,
    nodes: estimate.nodes.map(asKept),
    slips: slips.map((s) => ({ ...s })),
  };
}
