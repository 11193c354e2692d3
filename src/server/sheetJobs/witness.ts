import { and, asc, eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { witnessSheet, witnessStation } from '@/core/sheetJob';
import type { PlumbState } from '@/core/verdict';
import { passes, proofSheets, sessions, sheetJobs, witnesses } from '@/db/schema';
import type { Deps, Done } from '@/server/base/deps';
import { openSession } from '@/server/sessions/loadSession';
import { getSheet } from '@/server/sessions/sheets';
import { addPass } from '@/server/sessions/startSession';
import { getSetup } from '@/server/setups/repository';
import { useCase } from '@/server/base/useCase';

import { getJob } from './repository';

/* The witness in a job's waste, read as a quick check of its setup: every sheet that is cut gives a reading for nothing. */

export const witnessSchema = z.object({
  jobId: z.uuid(),
  revision: z.int().positive(),
  /** From 0. */
  sheet: z.int().min(0),
});

/** A witness that is read or was. */
export interface WitnessRead {
  readonly revision: number;
  readonly sheet: number;
  readonly sessionId: string;
  readonly open: boolean;
  readonly outcome: PlumbState | null;
  readonly r95Mm: number | null;
}

/** The witnesses of a job that were begun; those thrown away can be begun anew. */
export async function witnessesOf(deps: Deps, jobId: string): Promise<WitnessRead[]> {
  const rows = await deps.db
    .select({ witness: witnesses, session: sessions })
    .from(witnesses)
    .innerJoin(sessions, eq(sessions.id, witnesses.sessionId))
    .where(and(eq(witnesses.jobId, jobId), eq(sessions.discarded, false)))
    .orderBy(asc(witnesses.revision), asc(witnesses.sheet));
  return rows.map(({ witness: { revision, sheet, sessionId }, session }) => ({
    ...{ revision, sheet, sessionId, open: session.closedAt === null },
    ...{ outcome: session.outcome, r95Mm: session.outcomeR95Mm },
  }));
}

const NO_WITNESS = {
  code: 'refused',
  message: 'This sheet of the job has no witness: there was no room in its waste.',
} as const;

const SCALED = {
  code: 'refused',
  message:
    'This cut file follows a print that came out scaled: what its witness says is no check of the setup.',
} as const;

/** Begins to read the witness of a sheet that was cut, or goes on with it. */
export const readWitness = useCase(
  witnessSchema,
  { act: 'read witness', about: 'jobId' },
  async (inner, { jobId, revision, sheet }, actor): Done<{ readonly sessionId: string }> => {
    await inner.db.select({ id: sheetJobs.id }).from(sheetJobs).where(eq(sheetJobs.id, jobId)).for('update');
    const job = await getJob(inner, jobId);
    const cut = job?.cuts.find((c) => c.revision === revision);
    if (!job || !cut) return refuse({ code: 'not-found', what: 'cut file' });
    if (cut.printScale !== undefined) return refuse(SCALED);
    const station = witnessStation(job.geometry, sheet);
    if (!station) return refuse(NO_WITNESS);
    const begun = (await witnessesOf(inner, jobId)).find((w) => w.revision === revision && w.sheet === sheet);
    if (begun) return accept({ sessionId: begun.sessionId });
    const setup = (await getSetup(inner, job.setupId))!;
    if (await openSession(inner, setup.id, 'quick-check'))
      return refuse({
        code: 'refused',
        message: `A quick check of ${setup.media} on ${setup.name} is open already. Close it or discard it first, then read this witness.`,
      });
    const at = inner.now();
    const [printed] = await inner.db
      .insert(proofSheets)
      .values({
        ...{ setupId: setup.id, rigName: job.frozenAs!.rig, mediaName: job.frozenAs!.media },
        geometry: {
          ...witnessSheet(job.geometry.sheet, station, job.label, job.number),
          fileMap: job.frozenAs!.fileMap,
        },
        ...{ address: job.frozenAs!.address, madeOn: job.frozenAs!.madeOn, createdAt: at },
        ...{ printedAt: job.frozenAt, printedBy: job.frozenBy },
      })
      .returning();
    const [session] = await inner.db
      .insert(sessions)
      .values({ setupId: setup.id, kind: 'quick-check', stage: 'read', startedBy: actor, startedAt: at })
      .returning({ id: sessions.id });
    const own = (await getSheet(inner, printed!.id))!;
    await addPass(inner, session!.id, 1, setup, own, 1, 'prove', 1, cut.correction);
    await inner.db
      .update(passes)
      .set({ recipe: job.frozenAs!.recipe })
      .where(eq(passes.sessionId, session!.id));
    await inner.db
      .insert(witnesses)
      .values({ jobId, revision, sheet, sessionId: session!.id, startedBy: actor, startedAt: at });
    return accept({ sessionId: session!.id });
  },
);
