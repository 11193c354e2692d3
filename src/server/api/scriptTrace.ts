import { traceRefusalText } from '@/core/artwork';
import { PICTURE_LIMIT_BYTES } from '@/server/artwork/decode';
import { apiError } from '@/server/base/apiError';
import { drawing } from '@/server/heavy/drawing/pool';
import { heavy } from '@/server/heavy/pool';

import { pairs, traceOptionsSchema } from './scriptArtwork';
import { formWithin } from './scriptRequest';

/** What the fields and the borders between them may take beside the picture. */
const FORM_BYTES = 262_144;

/** POST /api/trace: a picture to its outlines. */
export async function traceForScript(request: Request): Promise<Response> {
  const sent = await pictureForm(request, 'options');
  if (sent instanceof Response) return sent;
  const { form, image } = sent;
  const text = form.get('options') ?? '{}';
  const options = traceOptionsSchema.safeParse(jsonOf(text));
  if (!options.success) {
    const issue = options.error.issues[0]!;
    return apiError(400, 'invalid-field', issue.message, ['options', ...issue.path].join('.'));
  }
  const decoded = await drawing('decodePicture', [new Uint8Array(await image.arrayBuffer())], request.signal);
  if (!decoded.ok)
    return apiError(
      decoded.refusal.code === 'too-large' ? 413 : 422,
      decoded.refusal.code,
      decoded.refusal.message,
      'image',
    );
  const { dpi: ofFile, ...picture } = decoded.value;
  const { widthMm, heightMm, dpi = ofFile ?? undefined, threshold = null, ...spec } = options.data;
  const size =
    widthMm !== undefined
      ? { widthMm }
      : heightMm !== undefined
        ? { heightMm }
        : dpi !== undefined
          ? { dpi }
          : null;
  if (!size)
    return apiError(
      400,
      'no-size',
      'This picture does not say how large it is. Give “widthMm”, “heightMm” or “dpi”.',
      'options.widthMm',
    );
  const traced = await heavy('trace', { picture, spec: { ...spec, size, threshold } });
  if (!traced.ok) return apiError(422, traced.refusal.code, traceRefusalText(traced.refusal), 'image');
  const { paths, ...rest } = traced.value;
  return Response.json({ ...rest, paths: paths.map((p) => ({ ...p, points: pairs(p.points) })) });
}

/** A form with a picture in “image” and a field of JSON beside it; what is wrong with it as an answer. */
export async function pictureForm(
  request: Request,
  beside: string,
): Promise<Response | { readonly form: FormData; readonly image: File }> {
  const form = await formWithin(request, PICTURE_LIMIT_BYTES + FORM_BYTES);
  if (form === 'too-large')
    return apiError(
      413,
      'too-large',
      `A picture may have at most ${PICTURE_LIMIT_BYTES / 1048576} MB.`,
      'image',
    );
  if (form === 'not-a-form')
    return apiError(400, 'not-multipart', `Send multipart/form-data with “image” and “${beside}”.`);
  const image = form.get('image');
  return image instanceof File
    ? { form, image }
    : apiError(400, 'no-file', 'Put the picture (PNG, JPEG, TIFF or WebP) into the field “image”.', 'image');
}

/** What a field of JSON says; null where it is none. */
export function jsonOf(text: unknown): unknown {
  try {
    return typeof text === 'string' ? JSON.parse(text) : null;
  } catch {
    return null;
  }
}
