import type { z } from 'zod';

import { apiError, apiFailure } from '@/server/base/apiError';

const MOST_JSON_BYTES = 8 * 1024 * 1024;

/**
 * A JSON route: reads the body within its limit, checks it, answers. Bad input never becomes a 500.
 * A handler may answer with a Response of its own.
 * What the handler throws is told apart by its kind.
 */
export function jsonRoute<Schema extends z.ZodType>(
  schema: Schema,
  answer: (body: z.output<Schema>) => unknown,
): (request: Request) => Promise<Response> {
  return async (request) => {
    const bytes = await bodyWithin(request, MOST_JSON_BYTES);
    if (bytes === null) return apiError(413, 'too-large', 'A request may have at most 8 MB.');
    let body: unknown;
    try {
      body = JSON.parse(new TextDecoder().decode(bytes));
    } catch {
      return apiError(400, 'not-json', 'Send a JSON object; NaN and Infinity are not JSON.');
    }
    if (typeof body !== 'object' || body === null || Array.isArray(body))
      return apiError(400, 'not-json', 'Send a JSON object: it begins with “{”.');
    const parsed = schema.safeParse(body);
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      const field = issue.path.map(String).join('.');
      return apiError(400, 'invalid-input', issue.message, field || undefined);
    }
    try {
      const answered = await answer(parsed.data);
      return answered instanceof Response ? answered : Response.json(answered);
    } catch (error) {
      return apiFailure(error, new URL(request.url).pathname, request);
    }
  };
}

/** The body, or null as soon as it is longer than allowed, whatever its header says; nothing beyond is kept. */
export async function bodyWithin(request: Request, bytes: number): Promise<Uint8Array<ArrayBuffer> | null> {
  if (Number(request.headers.get('content-length') ?? 0) > bytes) return null;
  const reader = request.body?.getReader();
  if (!reader) return new Uint8Array();
  const parts: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return new Uint8Array(Buffer.concat(parts));
    size += value.byteLength;
    if (size > bytes) {
      await reader.cancel();
      return null;
    }
    parts.push(value);
  }
}

/** A multipart form, counted while it streams in; what it is not, by name. */
export async function formWithin(
  request: Request,
  bytes: number,
): Promise<FormData | 'too-large' | 'not-a-form'> {
  const type = request.headers.get('content-type') ?? '';
  if (!type.startsWith('multipart/form-data')) return 'not-a-form';
  const body = await bodyWithin(request, bytes);
  if (body === null) return 'too-large';
  return new Response(body, { headers: { 'Content-Type': type } }).formData().catch(() => 'not-a-form');
}
