import { z } from 'zod';

import { formatsIn } from '@/core/daily';
import { type PictureRefusal } from '@/server/artwork/decode';
import { apiError } from '@/server/base/apiError';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { download } from '@/server/base/download';
import { idSchema } from '@/server/base/shapes';
import { requestNumberSchema } from '@/server/base/act';
import { drawing } from '@/server/heavy/drawing/pool';
import { addPiece } from '@/server/sheetJobs/changePieces';
import { createJob } from '@/server/sheetJobs/createJob';
import { artPicture, cutFileOf, piecePreview, printPdf } from '@/server/sheetJobs/jobFiles';
import { getJob } from '@/server/sheetJobs/repository';
import { newJobSchema, newPieceSchema, pieceIdSchema } from '@/server/sheetJobs/shapes';
import { mediaTypeOf, CUT_FORMATS } from '@/core/drawing/formats';

import { jsonOf, pictureForm } from './scriptTrace';

/* POST /api/sheet-jobs and the files of a job; shapes in docs/api.md. */

const fromElsewhere = (request: Request): Response | null =>
  request.headers.get('origin') === null &&
  (request.headers.has('cookie') || request.headers.has('sec-fetch-site'))
    ? apiError(403, 'no-origin', 'What is kept says where it comes from, in the header “Origin”.')
    : null;

/** A form with artwork, a field of JSON beside it by its schema, and the number that makes sending it twice harmless. */
async function artForm<T>(request: Request, beside: string, schema: z.ZodType<T>) {
  const refused = fromElsewhere(request);
  if (refused) return refused;
  const sent = await pictureForm(request, beside);
  if (sent instanceof Response) return sent;
  const { form, image } = sent;
  const number = requestNumberSchema.optional().safeParse(form.get('request') ?? undefined);
  if (!number.success) return apiError(400, 'invalid-field', number.error.issues[0]!.message, 'request');
  const given = schema.safeParse(jsonOf(form.get(beside)));
  if (!given.success) {
    const issue = given.error.issues[0]!;
    return apiError(400, 'invalid-field', issue.message, issue.path.join('.') || beside);
  }
  const art = { bytes: new Uint8Array(await image.arrayBuffer()), name: image.name };
  return { form, art, given: given.data, request: number.data };
}

/** What was refused, as scripts are told. */
function refused(refusal: UseCaseRefusal): Response {
  if (refusal.code === 'invalid-input') {
    const [field, message] = Object.entries(refusal.fields)[0]!;
    return apiError(422, 'invalid-input', message, field);
  }
  if (refusal.code === 'not-found')
    return refusal.what === 'setup'
      ? apiError(404, 'no-such-setup', 'No setup of that id is in this shop.', 'setupId')
      : apiError(404, `no-such-${refusal.what}`, `No ${refusal.what} of that id is in this shop.`);
  if (refusal.code === 'stale') return apiError(409, 'stale', refusal.message);
  return apiError(refusal.code === 'too-large' ? 413 : 422, refusal.code, refusal.message, 'image');
}

/** Artwork and what is to become of it: a draft of a job. */
export async function newJobForScript(deps: Deps, actor: Actor, request: Request): Promise<Response> {
  const sent = await artForm(request, 'job', newJobSchema);
  if (sent instanceof Response) return sent;
  const { art, given: job, request: number } = sent;
  const made = await createJob(deps, actor, { art, job }, { request: number });
  return made.ok ? Response.json({ id: made.value.jobId }, { status: 201 }) : refused(made.refusal);
}

/** Artwork more for a draft. */
export async function newPieceForScript(
  deps: Deps,
  actor: Actor,
  id: string,
  request: Request,
): Promise<Response> {
  const jobId = idSchema.safeParse(id);
  if (!jobId.success) return noSuchJob();
  const sent = await artForm(request, 'piece', newPieceSchema);
  if (sent instanceof Response) return sent;
  const version = z.coerce
    .number()
    .int()
    .positive()
    .optional()
    .safeParse(sent.form.get('version') ?? undefined);
  if (!version.success) return apiError(400, 'invalid-field', '“version” is a whole number.', 'version');
  const stamp = { request: sent.request, version: version.data };
  const given = { jobId: jobId.data, art: sent.art, piece: sent.given };
  const made = await addPiece(deps, actor, given, stamp);
  return made.ok ? Response.json({ piece: made.value.piece }, { status: 201 }) : refused(made.refusal);
}

/** POST /api/picture: artwork of any kind as the picture that a job would keep of it. */
export async function pictureForScript(request: Request): Promise<Response> {
  const sent = await pictureForm(request, 'nothing else');
  if (sent instanceof Response) return sent;
  const bytes = new Uint8Array(await sent.image.arrayBuffer());
  const picture = await drawing('asPicture', [bytes], request.signal);
  if (!picture.ok) return notAPicture(picture.refusal);
  const read = await drawing('decodePicture', [picture.value], request.signal);
  if (!read.ok) return notAPicture(read.refusal);
  const { width, height, rgba, dpi } = read.value;
  const png = await drawing('rawPng', [{ width, height, rgba }, dpi], request.signal);
  return download(png, 'image/png', 'picture.png');
}

const notAPicture = ({ code, message }: PictureRefusal): Response =>
  apiError(code === 'too-large' ? 413 : 422, code, message, 'image');

const noSuchJob = (): Response => apiError(404, 'no-such-job', 'No sheet job of that id is in this shop.');

const querySchema = z.object({
  sheet: z.coerce.number().int().min(1).max(2000).default(1),
  revision: z.coerce.number().int().min(1).max(100_000).optional(),
  piece: pieceIdSchema.optional(),
});

/**
 * print.pdf; art.png and picture.png of a piece, the first when left out; cut.svg, cut.dxf, cut.hpgl of a sheet (from 1) and
 * a numbered cut file, the newest when left out.
 */
export async function jobFile(
  deps: Deps,
  id: string,
  file: string,
  search: URLSearchParams,
): Promise<Response> {
  const jobId = idSchema.safeParse(id);
  const job = jobId.success ? await getJob(deps, jobId.data) : null;
  if (!job) return noSuchJob();
  const query = querySchema.safeParse(Object.fromEntries(search));
  if (!query.success)
    return apiError(
      400,
      'invalid-query',
      '“sheet” and “revision” are whole numbers from 1, “piece” is a letter.',
    );
  if (file === 'print.pdf') {
    const pdf = await printPdf(deps, job);
    return pdf.ok
      ? download(pdf.value, 'application/pdf', `${job.label}-print.pdf`)
      : apiError(422, 'no-artwork', pdf.refusal);
  }
  if (file === 'picture.png' || file === 'art.png') {
    const piece = query.data.piece
      ? job.geometry.pieces.find((p) => p.id === query.data.piece)
      : job.geometry.pieces[0];
    if (!piece) return apiError(404, 'no-such-piece', 'This job has no piece of that letter.', 'piece');
    const picture = await (file === 'art.png' ? artPicture : piecePreview)(deps, job, piece);
    return picture.ok
      ? new Response(new Uint8Array(picture.value), {
          headers: { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=3600' },
        })
      : apiError(422, 'no-artwork', picture.refusal);
  }
  const format = CUT_FORMATS.find((f) => file === `cut.${f}`);
  if (!format) return apiError(404, 'no-such-file', `Ask for print.pdf or cut.{${CUT_FORMATS.join(',')}}.`);
  const { sheet, revision } = query.data;
  const cut = revision ? job.cuts.find((c) => c.revision === revision) : job.cuts.at(-1);
  if (!cut)
    return apiError(
      409,
      'not-frozen',
      job.stage === 'draft'
        ? 'This job is not frozen yet: only then have print and cut file one number.'
        : `This job has no cut file ${revision}.`,
    );
  if (sheet > job.geometry.sheets.length)
    return apiError(404, 'no-such-sheet', `This job has ${job.geometry.sheets.length} sheets.`, 'sheet');
  const { sheetWidthMm: x1, sheetHeightMm: y1 } = job.geometry.sheet;
  if (!formatsIn(job.frozenAs?.fileMap ?? null, { x0: 0, y0: 0, x1, y1 }).includes(format))
    return apiError(409, 'below-zero', 'Cut files of this rig reach below nought, which an SVG page cannot.');
  const name = `${job.label}-cut-${cut.revision}${job.geometry.sheets.length > 1 ? `-sheet-${sheet}` : ''}.${format}`;
  return download(cutFileOf(job, sheet - 1, cut, format), mediaTypeOf(format), name);
}
