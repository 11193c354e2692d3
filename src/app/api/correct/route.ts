import { z } from 'zod';

import { apiError, unavailable } from '@/server/apiError';
import { requestActor, requestDeps } from '@/server/context';
import { correctFileByStored } from '@/server/correctFile';

export const dynamic = 'force-dynamic';

const MOST_BYTES = 32 * 1024 * 1024;

const Fields = z.object({
  correction: z.uuid('“correction” is the id of a stored correction.'),
  rest: z.enum(['true', 'false'], '“rest” is “true” or “false”.').default('true'),
});

/** multipart: file (SVG), correction (id), rest (true: what the settings leave over; false: all of it). */
export async function POST(request: Request): Promise<Response> {
  const length = Number(request.headers.get('content-length') ?? 0);
  if (length > MOST_BYTES + 65536)
    return apiError(413, 'too-large', 'A file may have at most 32 MB.', 'file');
  const form = await request.formData().catch(() => null);
  if (!form) return apiError(400, 'not-multipart', 'Send multipart/form-data with “file” and “correction”.');
  const file = form.get('file');
  if (!(file instanceof File))
    return apiError(400, 'no-file', 'Put the SVG cut file into the field “file”.', 'file');
  if (file.size > MOST_BYTES) return apiError(413, 'too-large', 'A file may have at most 32 MB.', 'file');
  const fields = Fields.safeParse({
    correction: form.get('correction'),
    rest: form.get('rest') ?? undefined,
  });
  if (!fields.success) {
    const issue = fields.error.issues[0]!;
    return apiError(400, 'invalid-field', issue.message, String(issue.path[0]));
  }
  try {
    const done = await correctFileByStored(
      await requestDeps(),
      await requestActor(),
      fields.data.correction,
      fields.data.rest === 'true',
      file.name,
      await file.text(),
    );
    if (done.ok)
      return new Response(done.value.svg, {
        headers: {
          'Content-Type': 'image/svg+xml',
          'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'",
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
