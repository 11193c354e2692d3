import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { dailyRefusalText } from '@/core/daily';
import { fileRefusalText, type CorrectedFile } from '@/core/drawing/file';
import { affineMap, determinant, IDENTITY, type Affine, type PlaneMap } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { correctedFiles, corrections, fits, passes, sessions } from '@/db/schema';

import { answeredBefore, keep, requestNumberSchema } from '@/server/base/act';
import { contentHash } from '@/server/base/contentHash';
import { restTransform, wholeTransform } from '@/db/stored/sessions';
import type { Actor, Deps } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';
import { getSetup } from '@/server/setups/repository';
import { fileOfThen, keepContent } from './keepFiles';
import { coordinate } from '@/server/base/shapes';
import { CUT_FORMATS, type CutFormat } from '@/core/drawing/formats';

export type CorrectFileRefusal =
  | { readonly code: 'no-such-correction' }
  | { readonly code: 'not-kept'; readonly message: string }
  | { readonly code: 'unreadable-file'; readonly message: string };

const factor = z.number('This must be a number.').min(-100).max(100);

export const CANCELLED = 'Cancelled before it was made; nothing was kept.';
export const NUMBER_TAKEN =
  'This request number was used for something else, or for another file; send another.';

/** T of a script: affine, or projective with the eight of `POST /api/fit`. It may stretch by a half at most. */
export const mapSchema = z
  .union(
    [
      z.object({
        a11: factor,
        a12: factor,
        a21: factor,
        a22: factor,
        tx: coordinate,
        ty: coordinate,
      }),
      z.object({
        h11: factor,
        h12: factor,
        h13: coordinate,
        h21: factor,
        h22: factor,
        h23: coordinate,
        h31: factor,
        h32: factor,
      }),
    ],
    '“map” is {"a11","a12","a21","a22","tx","ty"} (or h11 … h32), all numbers, tx and ty in mm.',
  )
  .transform((m): PlaneMap => ('a11' in m ? affineMap(m) : { kind: 'projective', ...m }))
  .refine((m) => {
    const det = m.kind === 'affine' ? determinant(m) : m.h11 * m.h22 - m.h12 * m.h21;
    return det > 0.25 && det < 4;
  }, 'The map folds the sheet over or stretches it out of all measure; check its figures.');

export const correctFieldsSchema = z.object({
  correction: z.uuid('“correction” is the id of a stored correction.').optional(),
  setup: z.uuid('“setup” is the id of a setup; GET /api/setups lists them.').optional(),
  frame: z
    .enum(['setup', 'sheet'], '“frame” is “setup” (as the rig’s description says) or “sheet” (its own axes).')
    .optional(),
  /** Of a file that came out of here corrected: correct it all the same. */
  again: z.enum(['true', 'false'], '“again” is “true” or “false”.').default('false'),
  request: requestNumberSchema.optional(),
  rest: z.enum(['true', 'false'], '“rest” is “true” or “false”.').default('true'),
  /** The file alone, or with its report and the outlines that moved, as JSON. */
  answer: z.enum(['file', 'whole'], '“answer” is “file” or “whole”.').default('file'),
  /** Layers of a DXF that are cut although they are off, frozen, not plotted or invisible. */
  cutAll: z
    .array(z.string('“cutAll” is the name of a layer.').max(255, 'A layer has at most 255 letters.'))
    .max(200, 'Name at most 200 layers.')
    .default([]),
  to: z.enum(CUT_FORMATS, `“to” is ${CUT_FORMATS.join(', ')}.`).optional(),
  map: z
    .string()
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue('“map” is JSON: {"a11","a12","a21","a22","tx","ty"}.');
        return z.NEVER;
      }
    })
    .pipe(mapSchema)
    .optional(),
});

/** Corrects a cut file by a map that is given; nothing is stored. */
export async function correctFileByMap(
  text: string,
  map: PlaneMap,
  to: CutFormat | null,
  cutAll: readonly string[] = [],
): Promise<Outcome<CorrectedFile, CorrectFileRefusal>> {
  const corrected = await heavy('correctFile', { text, map, to, cutAll });
  return corrected.ok
    ? corrected
    : refuse({ code: 'unreadable-file', message: fileRefusalText(corrected.refusal) });
}

/** A file to be corrected by a stored correction. */
export interface StoredRequest {
  readonly correctionId: string;
  /** What the settings leave over; else all of it. */
  readonly restOnly: boolean;
  readonly fileName: string;
  readonly text: string;
  readonly to: CutFormat | null;
  readonly cutAll?: readonly string[];
  /** The file lies as the rig’s description says; else its own axes are the sheet’s. */
  readonly asDescribed?: boolean;
  readonly request?: string | undefined;
  /** Who asked may have cancelled while it was made: then it is not kept. */
  readonly asked?: AbortSignal | undefined;
}

const ACT = 'corrected file';
const notKept = (message: string) => refuse({ code: 'not-kept', message } as const);

/** Corrects a cut file by a stored correction and keeps it in the log with what it was made from. */
export async function correctFileByStored(
  deps: Deps,
  actor: Actor,
  given: StoredRequest,
): Promise<Outcome<CorrectedFile, CorrectFileRefusal>> {
  const { correctionId, restOnly, fileName, text, to, cutAll = [], asDescribed = false } = given;
  const asked = contentHash(ACT, { correctionId, restOnly, fileName, text, to, cutAll, asDescribed });
  const act = { act: ACT, subjectId: correctionId, request: given.request };
  const before = await answeredBefore<{ fileId: string } | null>({ ...deps, asked }, act);
  if (before) return before.ok ? ofThen(deps, given, before.value) : notKept(NUMBER_TAKEN);
  const [row] = await deps.db
    .select({
      restTransform: corrections.restTransform,
      wholeTransform: corrections.wholeTransform,
      setupId: sessions.setupId,
    })
    .from(corrections)
    .innerJoin(fits, eq(fits.id, corrections.fitId))
    .innerJoin(passes, eq(passes.id, fits.passId))
    .innerJoin(sessions, eq(sessions.id, passes.sessionId))
    .where(eq(corrections.id, correctionId));
  if (!row) return refuse({ code: 'no-such-correction' });
  const transform = restOnly
    ? restTransform.read(row.restTransform)
    : wholeTransform.read(row.wholeTransform);
  const corrected = asDescribed
    ? await correctDescribed(deps, row.setupId, transform, given)
    : await correctFileByMap(text, affineMap(transform), to, cutAll);
  if (!corrected.ok) return corrected;
  if (given.asked?.aborted) return notKept(CANCELLED);
  const { content, report } = corrected.value;
  let mine = false;
  const kept = await keep({ ...deps, asked }, actor, act, async (inner) => {
    const [file] = await inner.db
      .insert(correctedFiles)
      .values({
        correctionId,
        setupId: row.setupId,
        fileName: correctedName(fileName, report.to).slice(0, 200),
        restOnly,
        transform,
        // Where it lay, when the rig’s page or marks in it said so.
        ...('lies' in corrected.value ? { lies: corrected.value.lies } : {}),
        report,
        sha256: await keepContent(inner, content),
        madeBy: actor,
        madeAt: deps.now(),
      })
      .returning({ fileId: correctedFiles.id });
    mine = true;
    return accept(file!);
  });
  if (!kept.ok) return notKept(NUMBER_TAKEN);
  return mine ? accept(corrected.value) : ofThen(deps, given, kept.value);
}

/** What was answered when the same was asked for first. */
async function ofThen(
  deps: Deps,
  { text, to, cutAll = [] }: StoredRequest,
  kept: { readonly fileId: string } | null,
): Promise<Outcome<CorrectedFile, CorrectFileRefusal>> {
  // Before its id was kept with the number there is nothing to find it by.
  if (!kept) return notKept(NUMBER_TAKEN);
  const then = await fileOfThen(deps, kept.fileId);
  if (!then.ok) return notKept(then.refusal);
  const { content, report, transform } = then.value;
  const drawn = await heavy('correctFile', { text, map: affineMap(transform ?? IDENTITY), to, cutAll });
  return accept({ content, report, outlines: drawn.ok ? drawn.value.outlines : [] });
}

/** A file that lies on the sheet as its rig’s page says, or as marks in it do. */
async function correctDescribed(
  deps: Deps,
  setupId: string,
  transform: Affine,
  { text, to, cutAll = [] }: StoredRequest,
): Promise<Outcome<CorrectedFile, CorrectFileRefusal>> {
  const setup = (await getSetup(deps, setupId))!;
  const { sheetWidthMm, sheetHeightMm, marks, fileFrame } = setup;
  const done = await heavy('correctDaily', {
    text,
    setup: { sheetWidthMm, sheetHeightMm, marks, frame: fileFrame, fileTransform: transform },
    own: fileFrame === null,
    to,
    cutAll,
  });
  return done.ok ? done : refuse({ code: 'unreadable-file', message: dailyRefusalText(done.refusal) });
}

/** The name as it was, with the ending of the format that was written. */
const correctedName = (name: string, to: CutFormat): string =>
  `${name.replace(/\.[a-z0-9]{1,5}$/i, '')}.${to}`;
