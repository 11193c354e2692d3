import { z } from 'zod';

import { CUT_FORMATS, type CutFormat } from '@/core/formats/file';
import { formatsIn } from '@/core/daily';
import { apiError } from '@/server/base/apiError';
import type { Actor, Deps } from '@/server/base/deps';
import { download } from '@/server/base/download';
import { idSchema } from '@/server/base/shapes';
import { requestNumberSchema } from '@/server/base/act';
import { CONTENT_TYPES } from '@/server/files/correctFile';
import { createJob } from '@/server/sheetJobs/createJob';
import { cutFileOf, piecePreview, printPdf } from '@/server/sheetJobs/jobFiles';
import { getJob } from '@/server/sheetJobs/repository';
import { newJobSchema } from '@/server/sheetJobs/shapes';

import { jsonOf, pictureForm } from './scriptTrace';

/* POST /api/sheet-jobs and the files of a job; shapes in docs/api.md. */

/** A picture and what is to become of it: a draft of a job. */
export async function newJobForScript(deps: Deps, actor: Actor, request: Request): Promise<Response> {
  if (
    request.headers.get('origin') === null &&
    (request.headers.has('cookie') || request.headers.has('sec-fetch-site'))
  )
    return apiError(403, 'no-origin', 'What is kept says where it comes from, in the header “Origin”.');
  const sent = await pictureForm(request, 'job');
  if (sent instanceof Response) return sent;
  const { form, image } = sent;
  const number = requestNumberSchema.optional().safeParse(form.get('request') ?? undefined);
  const job = newJobSchema.safeParse(jsonOf(form.get('job')));
  if (!number.success) return apiError(400, 'invalid-field', number.error.issues[0]!.message, 'request');
  if (!job.success) {
    const issue = job.error.issues[0]!;
    return apiError(400, 'invalid-field', issue.message, issue.path.join('.') || 'job');
  }
  const bytes = new Uint8Array(await image.arrayBuffer());
  const made = await createJob(deps, actor, { bytes, name: image.name }, job.data, number.data);
  if (made.ok) return Response.json({ id: made.value.jobId }, { status: 201 });
  const { refusal } = made;
  if (refusal.code === 'invalid-input') {
    const [field, message] = Object.entries(refusal.fields)[0]!;
    return apiError(422, 'invalid-input', message, field);
  }
  if (refusal.code === 'not-found')
    return apiError(404, 'no-such-setup', 'No setup of that id is in this shop.', 'setupId');
  return apiError(refusal.code === 'too-large' ? 413 : 422, refusal.code, refusal.message, 'image');
}

const querySchema = z.object({
  sheet: z.coerce.number().int().min(1).max(2000).default(1),
  revision: z.coerce.number().int().min(1).max(100_000).optional(),
});

/** print.pdf; cut.svg, cut.dxf, cut.hpgl of a sheet (from 1) and a numbered cut file, the newest when left out. */
export async function jobFile(
  deps: Deps,
  id: string,
  file: string,
  search: URLSearchParams,
): Promise<Response> {
  const jobId = idSchema.safeParse(id);
  const job = jobId.success ? await getJob(deps, jobId.data) : null;
  if (!job) return apiError(404, 'no-such-job', 'No sheet job of that id is in this shop.');
  const query = querySchema.safeParse(Object.fromEntries(search));
  if (!query.success)
    return apiError(400, 'invalid-query', '“sheet” and “revision” are whole numbers from 1.');
  if (file === 'print.pdf') {
    const pdf = await printPdf(deps, job);
    return pdf.ok
      ? download(pdf.value, 'application/pdf', `${job.label}-print.pdf`)
      : apiError(422, 'no-artwork', pdf.refusal);
  }
  if (file === 'picture.png') {
    const picture = await piecePreview(deps, job, job.geometry.pieces[0]!);
    return picture.ok
      ? new Response(new Uint8Array(picture.value), {
          headers: { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=3600' },
        })
      : apiError(422, 'no-artwork', picture.refusal);
  }
  const format = /^cut\.(svg|dxf|hpgl)$/.exec(file)?.[1] as CutFormat | undefined;
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
  return download(cutFileOf(job, sheet - 1, cut, format), CONTENT_TYPES[format], name);
}
