import { createHash } from 'node:crypto';

import { traceRefusalText, type CutLine } from '@/core/artwork';
import { accept, refuse, type Outcome } from '@/core/outcome';
import {
  boxOf,
  layOutJob,
  pairRefusalText,
  type JobGeometry,
  type JobLayout,
  type JobPiece,
  type JobSheet,
} from '@/core/sheetJob';
import { artworks, sheetJobs } from '@/db/schema';
import type { JobRecipe } from '@/db/stored/sheetJobs';
import { decodePicture } from '@/server/artwork/decode';
import { keep } from '@/server/base/act';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';

import type { NewJob } from './shapes';

const ONE_PIECE = 'A';

/** The sheet that a setup prints and cuts. */
export const sheetOf = ({ sheetWidthMm, sheetHeightMm, workArea, marks }: Setup): JobSheet => ({
  ...{ sheetWidthMm, sheetHeightMm, area: workArea, marks },
});

/** A draft of a job from a dropped picture: traced, offset and laid out on its setup's sheet. */
export async function createJob(
  deps: Deps,
  actor: Actor,
  art: { readonly bytes: Uint8Array; readonly name: string },
  input: NewJob,
  request?: string,
): Promise<Outcome<{ readonly jobId: string }, UseCaseRefusal>> {
  const setup = await getSetup(deps, input.setupId);
  if (!setup || setup.archived) return refuse({ code: 'not-found', what: 'setup' });
  const decoded = await decodePicture(art.bytes);
  if (!decoded.ok)
    return decoded.refusal.code === 'too-large'
      ? refuse({ code: 'too-large', message: decoded.refusal.message })
      : refuse({ code: 'invalid-input', fields: { image: decoded.refusal.message } });
  const { width, height, rgba } = decoded.value;
  const line = await heavy('cutLine', { picture: { width, height, rgba }, recipe: input.recipe });
  if (!line.ok) return refuse({ code: 'invalid-input', fields: { image: traceRefusalText(line.refusal) } });
  const { trace } = line.value;
  const recipe: JobRecipe = {
    line: input.recipe,
    parted: { background: trace.background, threshold: trace.threshold },
  };
  const laid = laidOut([pieceOf(line.value, input)], input.layout, sheetOf(setup));
  if (!laid.ok) return laid;
  const sha256 = createHash('sha256').update(art.bytes).digest('hex');
  return keep(deps, actor, { act: 'new sheet job', subjectId: setup.id, request }, async (inner) => {
    await inner.db
      .insert(artworks)
      .values({
        ...{ sha256, bytes: Buffer.from(art.bytes), widthPx: width, heightPx: height },
        keptAt: inner.now(),
      })
      .onConflictDoNothing();
    const [row] = await inner.db
      .insert(sheetJobs)
      .values({
        ...{ setupId: setup.id, name: input.name, stage: 'draft', artSha256: sha256 },
        ...{ artName: art.name.slice(0, 200), recipe, geometry: laid.value },
        ...{ startedBy: actor, startedAt: inner.now() },
      })
      .returning({ id: sheetJobs.id });
    return accept({ jobId: row!.id });
  });
}

function pieceOf({ trace, lines }: CutLine, { bleedMm, kind }: NewJob): JobPiece {
  return {
    id: ONE_PIECE,
    picture: { widthMm: trace.widthMm, heightMm: trace.heightMm, at: { x: 0, y: 0 } },
    // How far the ink reaches is all that the layout has to know of it.
    ink: trace.paths.filter((p) => p.kind === 'outer').map((p) => cornersOf(p.points)),
    ...{ lines, bleedMm, kind },
  };
}

function cornersOf(points: JobPiece['ink'][number]) {
  const { x0, y0, x1, y1 } = boxOf({ lines: [], ink: [points], bleedMm: 0 });
  return [
    { x: x0, y: y0 },
    { x: x1, y: y0 },
    { x: x1, y: y1 },
    { x: x0, y: y1 },
  ];
}

/** Pieces laid out, or what is wrong with it as the form says it. */
export function laidOut(
  pieces: readonly JobPiece[],
  layout: JobLayout,
  sheet: JobSheet,
): Outcome<JobGeometry, UseCaseRefusal> {
  const laid = layOutJob(pieces, layout, sheet);
  return laid.ok ? laid : refuse({ code: 'refused', message: pairRefusalText(laid.refusal) });
}
