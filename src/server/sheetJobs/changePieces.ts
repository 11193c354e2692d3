import { and, eq } from 'drizzle-orm';
import { z } from 'zod';

import { accept, refuse } from '@/core/outcome';
import { byRule, type JobGeometry, type JobPiece } from '@/core/sheetJob';
import { sheetJobPieces, sheetJobs } from '@/db/schema';
import { drawing } from '@/server/heavy/drawing/pool';
import type { Deps, Done } from '@/server/base/deps';
import { getSetup } from '@/server/setups/repository';
import { idSchema } from '@/server/base/shapes';

import { laidOut, sheetOf } from './createJob';
import type { PieceMade, SheetJob } from './job';
import {
  keepArt,
  openArt,
  pieceOf,
  traced,
  withLineOf,
  artSchema,
  type OpenedArt,
  type Traced,
} from './pieces';
import { artOf } from './repository';
import { newPieceSchema, pieceIdSchema, lineRecipeSchema } from './shapes';
import { jobStepWith } from './step';

/** Pieces go by letters. */
const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ';
/** Proportions that differ by less are those of one picture, saved twice. */
const SAME_PROPORTION = 0.01;

/** Pieces laid out anew by rule: what was nudged lies where the rule puts it. */
async function layAnew(deps: Deps, job: SheetJob, pieces: readonly JobPiece[]) {
  const setup = (await getSetup(deps, job.setupId))!;
  return laidOut(pieces, byRule(job.geometry.layout), sheetOf(setup));
}

const keepLaid = (inner: Deps, jobId: string, geometry: JobGeometry) =>
  inner.db.update(sheetJobs).set({ geometry }).where(eq(sheetJobs.id, jobId));

/** A piece more in a draft: with a line of its own, or with the line of a piece that is of the same shape. */
export const addPiece = jobStepWith(
  z.object({ jobId: idSchema, art: artSchema, piece: newPieceSchema }),
  { act: 'add piece', allowed: ['draft'] },
  {
    prepare: async (deps, job, { art, piece: input }): Done<LaidIn> => {
      const opened = await openArt(art);
      if (!opened.ok) return opened;
      const { picture } = opened.value;
      const own = input.recipe ? await traced(picture, input.recipe) : accept(null);
      if (!own.ok) return own;
      const { pieces } = job.geometry;
      const letter = [...LETTERS].find((l) => !pieces.some((p) => p.id === l));
      if (!letter)
        return refuse({
          code: 'refused',
          message: `A job has at most ${LETTERS.length} pieces of artwork. Make another job for the rest.`,
        });
      const given = { ...input, id: letter };
      const like = pieces.find((p) => p.id === input.lineOf);
      const made = job.pieces.find((p) => p.id === input.lineOf);
      if (!own.value && !(like && made))
        return refuse({
          code: 'invalid-input',
          fields: { lineOf: `This job has no piece ${input.lineOf}.` },
        });
      if (like && !proportioned(picture, like.picture))
        return refuse({
          code: 'invalid-input',
          fields: {
            image: `For the line of piece ${like.id} a picture must have its proportions, ${like.picture.widthMm.toFixed(1)} to ${like.picture.heightMm.toFixed(1)}: this one has ${picture.width} × ${picture.height} pixels.`,
          },
        });
      const piece = own.value
        ? pieceOf(own.value.line, given)
        : withLineOf({ ...like!, ...bare(given) }, like!);
      const laid = await layAnew(deps, job, [...pieces, piece]);
      return laid.ok
        ? accept({ letter, made, art: opened.value, own: own.value, geometry: laid.value })
        : laid;
    },
  },
  async (
    inner,
    _,
    { jobId },
    _actor,
    { letter, made, art, own, geometry },
  ): Done<{ readonly piece: string }> => {
    await keepArt(inner, art);
    await inner.db.insert(sheetJobPieces).values({
      ...{ jobId, piece: letter, recipe: own?.recipe ?? made!.recipe },
      // Of a piece that has another's line itself, it is that one's.
      lineOf: own ? null : (made!.lineOf ?? made!.id),
      ...{ artSha256: art.sha256, artName: art.name },
    });
    await keepLaid(inner, jobId, geometry);
    return accept({ piece: letter });
  },
);

/** A piece more, laid out with the others. */
interface LaidIn {
  readonly letter: string;
  /** The piece whose line it has. */
  readonly made: PieceMade | undefined;
  readonly art: OpenedArt;
  /** A line of its own. */
  readonly own: Traced | null;
  readonly geometry: JobGeometry;
}

/** What is said of a piece beside its line. */
const bare = ({ id, bleedMm, kind, copies }: Pick<JobPiece, 'id' | 'bleedMm' | 'kind' | 'copies'>) => ({
  ...{ id, bleedMm, kind, copies },
  second: undefined,
});

const proportioned = (
  { width, height }: { readonly width: number; readonly height: number },
  { widthMm, heightMm }: JobPiece['picture'],
): boolean => Math.abs((width / height) * (heightMm / widthMm) - 1) <= SAME_PROPORTION;

/** Another recipe for the line of a piece of a draft: it is traced anew, and pieces that have its line follow. */
export const changeLine = jobStepWith(
  z.object({ jobId: idSchema, piece: pieceIdSchema, recipe: lineRecipeSchema }),
  { act: 'change line', allowed: ['draft'] },
  {
    prepare: async (deps, job, { piece, recipe }) => {
      const seen = job.pieces.find((p) => p.id === piece);
      if (!seen) return refuse({ code: 'not-found', what: 'piece' });
      const bytes = await artOf(deps, seen.art.sha256);
      const decoded = bytes && (await drawing('decodePicture', [bytes]));
      if (!decoded?.ok)
        return refuse({ code: 'refused', message: 'The artwork of this piece cannot be read any more.' });
      const own = await traced(decoded.value, recipe);
      if (!own.ok) return own;
      const now = job.geometry.pieces.find((p) => p.id === piece)!;
      const anew = withLineOf(now, pieceOf(own.value.line, now));
      const followers = job.pieces.filter((p) => p.lineOf === piece).map((p) => p.id);
      const laid = await layAnew(
        deps,
        job,
        job.geometry.pieces.map((p) =>
          p.id === piece ? anew : followers.includes(p.id) ? withLineOf(p, anew) : p,
        ),
      );
      return laid.ok ? accept({ own: own.value, followers, geometry: laid.value }) : laid;
    },
  },
  async (
    inner,
    _job,
    { jobId, piece },
    _actor,
    { own, followers, geometry },
  ): Done<{ readonly piece: string }> => {
    await inner.db
      .update(sheetJobPieces)
      .set({ recipe: own.recipe, lineOf: null })
      .where(and(eq(sheetJobPieces.jobId, jobId), eq(sheetJobPieces.piece, piece)));
    for (const follower of followers)
      await inner.db
        .update(sheetJobPieces)
        .set({ recipe: own.recipe })
        .where(and(eq(sheetJobPieces.jobId, jobId), eq(sheetJobPieces.piece, follower)));
    await keepLaid(inner, jobId, geometry);
    return accept({ piece });
  },
);
