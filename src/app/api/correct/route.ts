import type { z } from 'zod';

import { FILE_LIMIT_BYTES, textOf } from '@/core/drawing/file';
import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps, scriptActor } from '@/server/base/context';
import { correctFieldsSchema, correctFileByMap, correctFileByStored } from '@/server/files/correctFile';
import { type DailyRefused, correctForSetup } from '@/server/files/dailyFile';
import { formWithin } from '@/server/api/scriptRequest';
import { FORMAT_WORDS, mediaTypeOf } from '@/core/drawing/formats';

export const dynamic = 'force-dynamic';

const MEGABYTES = FILE_LIMIT_BYTES / 1048576;
/** What the fields and the borders between them may take beside the file. */
const FORM_BYTES = 65_536;

/** POST /api/correct: see docs/api.md. */
export const POST = guarded('correct file', async (request: Request) => {
  const tooLarge = (): Response =>
    apiError(413, 'too-large', `A file may have at most ${MEGABYTES} MB.`, 'file');
  const form = await formWithin(request, FILE_LIMIT_BYTES + FORM_BYTES);
  if (form === 'too-large') return tooLarge();
  if (form === 'not-a-form')
    return apiError(400, 'not-multipart', 'Send multipart/form-data with “file” and “map” or “correction”.');
  const file = form.get('file');
  if (!(file instanceof File))
    return apiError(400, 'no-file', `Put the cut file (${FORMAT_WORDS}) into the field “file”.`, 'file');
  if (file.size > FILE_LIMIT_BYTES) return tooLarge();
  const given = (name: string) => {
    const value = form.get(name);
    return typeof value === 'string' ? value : undefined;
  };
  const names = ['correction', 'rest', 'to', 'map', 'request', 'answer', 'setup', 'frame', 'again'] as const;
  const fields = correctFieldsSchema.safeParse({
    ...Object.fromEntries(names.map((n) => [n, given(n)])),
    cutAll: form.getAll('cutAll'),
  });
  if (!fields.success) {
    const issue = fields.error.issues[0]!;
    return apiError(400, 'invalid-field', issue.message, String(issue.path[0]));
  }
  const { map, correction, setup, rest, to = null, request: number, answer, cutAll } = fields.data;
  if ([map, correction, setup].filter((given) => given !== undefined).length !== 1)
    return apiError(400, 'invalid-field', 'Give “setup”, “map” or “correction”, one of them.', 'map');
  if (map === undefined && fromNowhere(request, correction !== undefined))
    return apiError(
      403,
      'no-origin',
      'What is kept in the log says where it comes from, in the header “Origin”.',
    );
  const text = textOf(new Uint8Array(await file.arrayBuffer()));
  if (setup !== undefined) return dailyAnswer(request, fields.data, setup, file.name, text);
  const done = map
    ? await correctFileByMap(text, map, to, cutAll)
    : await correctFileByStored(requestDeps(), await scriptActor(), {
        correctionId: correction!,
        restOnly: rest === 'true',
        fileName: file.name,
        text,
        to,
        cutAll,
        asDescribed: fields.data.frame === 'setup',
        request: number,
        asked: request.signal,
      });
  if (done.ok && answer === 'whole') return Response.json(done.value);
  if (done.ok)
    return new Response(done.value.content, {
      headers: {
        'Content-Type': mediaTypeOf(done.value.report.to),
        'X-Red-Plumb-Report': asciiJson(done.value.report),
      },
    });
  switch (done.refusal.code) {
    case 'no-such-correction':
      return apiError(404, 'no-such-correction', 'No correction of this id is in the log.', 'correction');
    case 'not-kept':
      return apiError(409, 'conflict', done.refusal.message, 'request');
    case 'unreadable-file':
      return apiError(422, 'unreadable-file', done.refusal.message, 'file');
    default:
      return done.refusal satisfies never;
  }
});

/** Without its origin: of a browser always, since a script has neither cookies nor a page; of a session’s correction from anybody. */
const fromNowhere = ({ headers }: Request, ofSession: boolean): boolean =>
  headers.get('origin') === null && (ofSession || headers.has('cookie') || headers.has('sec-fetch-site'));

/** The same by what stands for a setup. */
async function dailyAnswer(
  request: Request,
  fields: z.output<typeof correctFieldsSchema>,
  setupId: string,
  fileName: string,
  text: string,
): Promise<Response> {
  const done = await correctForSetup(requestDeps(), await scriptActor(), {
    setupId,
    fileName,
    text,
    to: fields.to ?? null,
    own: fields.frame === 'sheet',
    again: fields.again === 'true',
    cutAll: fields.cutAll,
    // What a page sends has its own words for it.
    cameBy: fields.answer === 'whole' ? 'page' : 'address',
    request: fields.request,
    asked: request.signal,
  });
  if (!done.ok) {
    const { status, field } = DAILY_ERRORS[done.refusal.code];
    return apiError(status, done.refusal.code, done.refusal.message, field);
  }
  if (fields.answer === 'whole') return Response.json(done.value);
  const { content, report, lies, changed, mustShow, fileId } = done.value;
  return new Response(content, {
    headers: {
      'Content-Type': mediaTypeOf(report.to),
      'X-Red-Plumb-Report': asciiJson({ ...report, fileId, changed, lies, mustShow }),
    },
  });
}

const DAILY_ERRORS: Readonly<
  Record<DailyRefused['code'], { readonly status: number; readonly field: string }>
> = {
  'no-such-setup': { status: 404, field: 'setup' },
  'off-the-bench': { status: 409, field: 'setup' },
  'unreadable-file': { status: 422, field: 'file' },
  'where-it-lies': { status: 422, field: 'frame' },
  'corrected-already': { status: 409, field: 'again' },
  'not-kept': { status: 409, field: 'request' },
};

/** A header holds plain letters only. */
const asciiJson = (value: unknown): string => JSON.stringify(value).replace(/[^\x20-\x7e]/g, '?');
