import { createHash } from 'node:crypto';
import { z } from 'zod';

import { traceRefusalText, type CutLine, type CutLineRecipe } from '@/core/artwork';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { secondLine, type JobPiece, type LineKind } from '@/core/sheetJob';
import { artworks } from '@/db/schema';
import type { JobRecipe } from '@/db/stored/sheetJobs';
import { type DecodedPicture, type PictureRefusal } from '@/server/artwork/decode';
import { drawing } from '@/server/heavy/drawing/pool';
import type { Deps, UseCaseRefusal } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';

/* From a picture to a piece of a job: opened, traced, offset. */

/** Artwork as it came. */
export const artSchema = z.object({ bytes: z.instanceof(Uint8Array), name: z.string() });
type Art = z.output<typeof artSchema>;

/** Artwork that was opened: the picture that is kept and printed. */
export interface OpenedArt {
  readonly sha256: string;
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly picture: DecodedPicture;
}

/** Opens artwork: a drawing becomes a picture here, once, and that is what is kept. */
export async function openArt({ bytes, name }: Art): Promise<Outcome<OpenedArt, UseCaseRefusal>> {
  const given = await drawing('asPicture', [bytes]);
  if (!given.ok) return notOpened(given.refusal);
  const decoded = await drawing('decodePicture', [given.value]);
  if (!decoded.ok) return notOpened(decoded.refusal);
  const sha256 = createHash('sha256').update(given.value).digest('hex');
  return accept({ sha256, bytes: given.value, name: name.slice(0, 200), picture: decoded.value });
}

const notOpened = ({ code, message }: PictureRefusal) =>
  code === 'too-large'
    ? refuse({ code, message } as const)
    : refuse({ code: 'invalid-input', fields: { image: message } } as const);

/** Keeps artwork, once however often it is used. */
export async function keepArt(inner: Deps, { sha256, bytes, picture }: OpenedArt): Promise<void> {
  await inner.db
    .insert(artworks)
    .values({
      ...{ sha256, bytes: Buffer.from(bytes), keptAt: inner.now() },
      ...{ widthPx: picture.width, heightPx: picture.height },
    })
    .onConflictDoNothing();
}

export interface Traced {
  readonly line: CutLine;
  /** The recipe with what was found by itself. */
  readonly recipe: JobRecipe;
}

/** Traces a picture by a recipe, on a thread of its own. */
export async function traced(
  { width, height, rgba }: DecodedPicture,
  recipe: CutLineRecipe,
): Promise<Outcome<Traced, UseCaseRefusal>> {
  const line = await heavy('cutLine', { picture: { width, height, rgba }, recipe });
  if (!line.ok) return refuse({ code: 'invalid-input', fields: { image: traceRefusalText(line.refusal) } });
  const { background, threshold } = line.value.trace;
  return accept({
    line: line.value,
    recipe: {
      line: { ...recipe, apart: recipe.apart ?? false, ignore: [...recipe.ignore] },
      parted: { background, threshold },
    },
  });
}

type Given = Pick<JobPiece, 'id' | 'bleedMm' | 'kind' | 'copies'>;

/** A piece as its line was traced. */
export function pieceOf({ trace, lines }: CutLine, { id, bleedMm, kind, copies }: Given): JobPiece {
  return {
    id,
    picture: { widthMm: trace.widthMm, heightMm: trace.heightMm, at: { x: 0, y: 0 } },
    ink: trace.paths.filter((p) => p.kind === 'outer').map((p) => p.points),
    ...{ lines, bleedMm, kind, copies },
  };
}

/** A piece with another line: what else was said of it stays, and its second line follows. */
export const withLineOf = (piece: JobPiece, { picture, ink, lines }: JobPiece): JobPiece =>
  withSecond({ ...piece, picture, ink, lines }, piece.second ?? null);

/** A piece with a second line so far outside, or with none. */
export function withSecond(
  piece: JobPiece,
  second: { readonly byMm: number; readonly kind: LineKind } | null,
): JobPiece {
  const { id, picture, ink, lines, bleedMm, kind, copies } = piece;
  return {
    ...{ id, picture, ink, lines, bleedMm, kind, copies },
    ...(second && { second: { ...second, lines: secondLine(lines, second.byMm) } }),
  };
}
