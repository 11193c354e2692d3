import { FILE_LIMIT_BYTES, fileRefusalText, textOf } from '@/core/drawing/file';
import { PICTURE_LIMIT_BYTES } from '@/server/artwork/decode';
import { apiError } from '@/server/base/apiError';
import { drawing } from '@/server/heavy/drawing/pool';
import { heavy } from '@/server/heavy/pool';
import { FORMAT_WORDS } from '@/core/drawing/formats';

import { checkContextSchema } from './scriptCheck';
import { formWithin } from './scriptRequest';

const FORM_BYTES = 262_144;

/** POST /api/check: what will go wrong with a pair of print and cut. */
export async function checkForScript(request: Request): Promise<Response> {
  const form = await formWithin(request, FILE_LIMIT_BYTES + PICTURE_LIMIT_BYTES + FORM_BYTES);
  if (form === 'too-large')
    return apiError(
      413,
      'too-large',
      `A cut file may have at most ${FILE_LIMIT_BYTES / 1048576} MB, a print ${PICTURE_LIMIT_BYTES / 1048576} MB.`,
    );
  if (form === 'not-a-form')
    return apiError(
      400,
      'not-multipart',
      'Send multipart/form-data with “cut”, “context” and perhaps “print”.',
    );
  const cut = form.get('cut');
  if (!(cut instanceof File))
    return apiError(400, 'no-file', `Put the cut file (${FORMAT_WORDS}) into the field “cut”.`, 'cut');
  if (cut.size > FILE_LIMIT_BYTES)
    return apiError(413, 'too-large', `A cut file may have at most ${FILE_LIMIT_BYTES / 1048576} MB.`, 'cut');
  const context = checkContextSchema.safeParse(jsonOf(form.get('context')));
  if (!context.success) {
    const issue = context.error.issues[0]!;
    return apiError(400, 'invalid-field', issue.message, ['context', ...issue.path].join('.'));
  }
  const print = form.get('print');
  const seen =
    print instanceof File
      ? await drawing(
          'printSeen',
          [new Uint8Array(await print.arrayBuffer()), context.data.media],
          request.signal,
        )
      : null;
  if (seen?.ok === false)
    return apiError(
      seen.refusal.code === 'too-large' ? 413 : 422,
      seen.refusal.code,
      seen.refusal.message,
      'print',
    );
  const checked = await heavy('check', {
    text: textOf(new Uint8Array(await cut.arrayBuffer())),
    print: seen?.value ?? null,
    context: context.data,
  });
  if (checked === 'too-fine')
    return apiError(
      422,
      'too-many-points',
      'This cut file has more places than can be checked at once: 400 000.',
      'cut',
    );
  if (!checked.ok) return apiError(422, 'unreadable-file', fileRefusalText(checked.refusal), 'cut');
  return Response.json({ findings: checked.value });
}

function jsonOf(text: unknown): unknown {
  try {
    return typeof text === 'string' ? JSON.parse(text) : null;
  } catch {
    return null;
  }
}
