import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { byRule } from '@/core/sheetJob';
import { sheetJobPieces, sheetJobs } from '@/db/schema';
import { answeredBefore, keep } from '@/server/base/act';
import type { Done } from '@/server/base/deps';
import { holdSetup } from '@/server/setups/holdSetup';
import { getSetup } from '@/server/setups/repository';
import { withShape } from '@/server/base/useCase';

import { laidOut, sheetOf } from './createJob';
import { getJob } from './repository';

export const copyJobSchema = z.object({ jobId: z.uuid(), copies: z.int().min(1).max(20_000).nullable() });

/** The same again under a new number, as a draft, laid out on the setup's sheet of today. */
export const copyJob = withShape(
  copyJobSchema,
  'copy sheet job',
  async (deps, actor, { jobId, copies }, { request }): Done<{ readonly jobId: string }> => {
    const act = { act: 'copy sheet job', subjectId: jobId, request };
    const before = await answeredBefore<{ jobId: string }>(deps, act);
    if (before) return before;
    const job = await getJob(deps, jobId);
    const setup = job && (await getSetup(deps, job.setupId));
    if (!job || !setup) return refuse({ code: 'not-found', what: 'job' });
    // So many of one piece, or as many of each as there were.
    const pieces = job.geometry.pieces.map((p) => (job.geometry.pieces.length === 1 ? { ...p, copies } : p));
    const laid = await laidOut(pieces, byRule(job.geometry.layout), sheetOf(setup));
    if (!laid.ok) return laid;
    return keep(deps, actor, act, async (inner) => {
      const held = await holdSetup(inner, setup.id);
      if (!held.ok) return held;
      const [row] = await inner.db
        .insert(sheetJobs)
        .values({
          ...{ setupId: job.setupId, name: job.name, stage: 'draft', geometry: laid.value },
          ...{ startedBy: actor, startedAt: inner.now() },
        })
        .returning({ id: sheetJobs.id });
      await inner.db.insert(sheetJobPieces).values(
        job.pieces.map(({ id, art, recipe, lineOf }) => ({
          ...{ jobId: row!.id, piece: id, artSha256: art.sha256, artName: art.name, recipe, lineOf },
        })),
      );
      return accept({ jobId: row!.id });
    });
  },
);
