import { eq } from 'drizzle-orm';
import { z } from 'zod';

import { dailyRefusalText } from '@/core/daily';
import { CUT_FORMATS, fileRefusalText, type CorrectedFile, type CutFormat } from '@/core/formats/file';
import { affineMap, determinant, type Affine, type PlaneMap } from '@/core/geometry';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { correctedFiles, corrections, fits, passes, sessions } from '@/db/schema';

import { keep, requestNumberSchema } from '@/server/base/act';
import { restTransform, wholeTransform } from '@/db/stored/sessions';
import type { Actor, Deps } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';
import { getSetup } from '@/server/setups/repository';
import { keepContent } from './keepFiles';
import { coordinate } from '@/server/base/shapes';

export type CorrectFileRefusal =
  | { readonly code: 'no-such-correction' }
  | { readonly code: 'not-kept'; readonly message: string }
  | { readonly code: 'unreadable-file'; readonly message: string };

const factor = z.number('This must be a number.').min(-100).max(100);

export const CANCELLED = 'Cancelled before it was made; nothing was kept.';
export const NUMBER_TAKEN = 'This request number was used for something else; send another.';

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
): Promise<Outcome<CorrectedFile, CorrectFileRefusal>> {
  const corrected = await heavy('correctFile', { text, map, to });
  return corrected.ok
    ? corrected
    : refuse({ code: 'unreadable-file', message: fileRefusalText(corrected.refusal) });
}

/** Corrects a cut file by a stored correction and keeps it in the log with what it was made from. */
export async function correctFileByStored(
  deps: Deps,
  actor: Actor,
  correctionId: string,
  restOnly: boolean,
  fileName: string,
  text: string,
  to: CutFormat | null,
  request?: string,
  /** Who asked may have cancelled while it was made: then it is not kept. */
  asked?: AbortSignal,
  /** The file lies as the rig’s description says; else its own axes are the sheet’s. */
  asDescribed = false,
): Promise<Outcome<CorrectedFile, CorrectFileRefusal>> {
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
    ? await correctDescribed(deps, row.setupId, transform, text, to)
    : await correctFileByMap(text, affineMap(transform), to);
  if (!corrected.ok) return corrected;
  if (asked?.aborted) return refuse({ code: 'not-kept', message: CANCELLED });
  const { content, report } = corrected.value;
  const kept = await keep(
    deps,
    actor,
    { act: 'corrected file', subjectId: correctionId, request },
    async (inner) => {
      await inner.db.insert(correctedFiles).values({
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
      });
      return accept(null);
    },
  );
  return kept.ok ? accept(corrected.value) : refuse({ code: 'not-kept', message: NUMBER_TAKEN });
}

/** A file that lies on the sheet as its rig’s page says, or as marks in it do. */
async function correctDescribed(
  deps: Deps,
  setupId: string,
  transform: Affine,
  text: string,
  to: CutFormat | null,
): Promise<Outcome<CorrectedFile, CorrectFileRefusal>> {
  const setup = (await getSetup(deps, setupId))!;
  const { sheetWidthMm, sheetHeightMm, marks, fileFrame } = setup;
  const done = await heavy('correctDaily', {
    text,
    setup: { sheetWidthMm, sheetHeightMm, marks, frame: fileFrame, fileTransform: transform },
    own: fileFrame === null,
    to,
  });
  return done.ok ? done : refuse({ code: 'unreadable-file', message: dailyRefusalText(done.refusal) });
}

/** The name as it was, with the ending of the format that was written. */
const correctedName = (name: string, to: CutFormat): string =>
  `${name.replace(/\.[a-z0-9]{1,5}$/i, '')}.${to}`;

export const CONTENT_TYPES: Readonly<Record<CutFormat, string>> = {
  svg: 'image/svg+xml',
  dxf: 'image/vnd.dxf',
  hpgl: 'application/vnd.hp-hpgl',
};
