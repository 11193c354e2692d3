import { z } from 'zod';

import { accept, refuse, type Outcome } from '@/core/outcome';
import {
  layOutJob,
  pairRefusalText,
  type JobGeometry,
  type JobLayout,
  type JobPiece,
  type JobSheet,
} from '@/core/sheetJob';
import { sheetJobPieces, sheetJobs } from '@/db/schema';
import { keep } from '@/server/base/act';
import type { UseCaseRefusal, Done } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';
import { holdSetup } from '@/server/setups/holdSetup';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';
import { withShape } from '@/server/base/useCase';

import { keepArt, openArt, pieceOf, traced, artSchema } from './pieces';
import { newJobSchema } from './shapes';

const FIRST_PIECE = 'A';

/** The sheet that a setup prints and cuts. */
export const sheetOf = ({ sheetWidthMm, sheetHeightMm, workArea, marks }: Setup): JobSheet => ({
  ...{ sheetWidthMm, sheetHeightMm, area: workArea, marks },
});

/** A draft of a job from dropped artwork: traced, offset and laid out on its setup's sheet. */
export const createJob = withShape(
  z.object({ art: artSchema, job: newJobSchema }),
  'new sheet job',
  async (deps, actor, { art, job: input }, { request }): Done<{ readonly jobId: string }> => {
    const setup = await getSetup(deps, input.setupId);
    if (!setup || setup.archived) return refuse({ code: 'not-found', what: 'setup' });
    const opened = await openArt(art);
    if (!opened.ok) return opened;
    const line = await traced(opened.value.picture, input.recipe);
    if (!line.ok) return line;
    const piece = pieceOf(line.value.line, { ...input, id: FIRST_PIECE });
    const laid = await laidOut([piece], input.layout, sheetOf(setup));
    if (!laid.ok) return laid;
    return keep(deps, actor, { act: 'new sheet job', subjectId: setup.id, request }, async (inner) => {
      const held = await holdSetup(inner, setup.id);
      if (!held.ok) return held;
      await keepArt(inner, opened.value);
      const [row] = await inner.db
        .insert(sheetJobs)
        .values({
          ...{ setupId: setup.id, name: input.name, stage: 'draft', geometry: laid.value },
          ...{ startedBy: actor, startedAt: inner.now() },
        })
        .returning({ id: sheetJobs.id });
      await inner.db.insert(sheetJobPieces).values({
        ...{ jobId: row!.id, piece: FIRST_PIECE, recipe: line.value.recipe },
        ...{ artSha256: opened.value.sha256, artName: opened.value.name },
      });
      return accept({ jobId: row!.id });
    });
  },
);

/** So many places are worked out while others wait; more on a thread. */
const MOST_HERE = 500;

/** Pieces laid out, or what is wrong with it as the form says it. */
export async function laidOut(
  pieces: readonly JobPiece[],
  layout: JobLayout,
  sheet: JobSheet,
): Promise<Outcome<JobGeometry, UseCaseRefusal>> {
  const copies = pieces.reduce((sum, p) => sum + (p.copies ?? 0), 0);
  const laid =
    copies > MOST_HERE ? await heavy('layOut', { pieces, layout, sheet }) : layOutJob(pieces, layout, sheet);
  return laid.ok ? laid : refuse({ code: 'refused', message: pairRefusalText(laid.refusal) });
}
