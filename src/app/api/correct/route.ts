import { FILE_LIMIT_BYTES } from '@/core/formats/file';
import { apiError, unavailable } from '@/server/apiError';
import { requestActor, requestDeps } from '@/server/context';
import {
  CONTENT_TYPES,
  correctFieldsSchema,
  correctFileByMap,
  correctFileByStored,
} from '@/server/correctFile';

export const dynamic = 'force-dynamic';

const MEGABYTES = FILE_LIMIT_BYTES / 1048576;

/** POST /api/correct: see docs/api.md. */
export async function POST(request: Request): Promise<Response> {
  const tooLarge = (): Response =>
    apiError(413, 'too-large', `A file may have at most ${MEGABYTES} MB.`, 'file');
  if (Number(request.headers.get('content-length') ?? 0) > FILE_LIMIT_BYTES + 65536) return tooLarge();
  const form = await request.formData().catch(() => null);
  if (!form)
    return apiError(400, 'not-multipart', 'Send multipart/form-data with “file” and “map” or “correction”.');
  const file = form.get('file');
  if (!(file instanceof File))
    return apiError(400, 'no-file', 'Put the cut file (SVG, DXF or HPGL) into the field “file”.', 'file');
  if (file.size > FILE_LIMIT_BYTES) return tooLarge();
  const given = (name: string) => {
    const value = form.get(name);
    return typeof value === 'string' ? value : undefined;
  };
  const fields = correctFieldsSchema.safeParse({
    correction: given('correction'),
    rest: given('rest'),
    to: given('to'),
    map: given('map'),
  });
  if (!fields.success) {
    const issue = fields.error.issues[0]!;
    return apiError(400, 'invalid-field', issue.message, String(issue.path[0]));
  }
  const { map, correction, rest, to = null } = fields.data;
  if ((map === undefined) === (correction === undefined))
    return apiError(400, 'invalid-field', 'Give either “map” or “correction”, one of them.', 'map');
  try {
    const text = await file.text();
    const done = map
      ? correctFileByMap(text, map, to)
      : await correctFileByStored(
          await requestDeps(),
          await requestActor(),
          correction!,
          rest === 'true',
          file.name,
          text,
          to,
        );
    if (done.ok)
      return new Response(done.value.content, {
        headers: {
          'Content-Type': CONTENT_TYPES[done.value.report.to],
          'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
          'X-Content-Type-Options': 'nosniff',
          'X-Red-Plumb-Report': JSON.stringify(done.value.report).replace(/[^\x20-\x7e]/g, '?'),
        },
      });
    if (done.refusal.code === 'no-such-correction')
      return apiError(404, 'no-such-correction', 'No correction of this id is in the log.', 'correction');
    return apiError(422, 'unreadable-file', done.refusal.message, 'file');
  } catch (error) {
    console.error('red plumb  /api/correct:', error instanceof Error ? error.message : error);
    return unavailable();
  }
}
