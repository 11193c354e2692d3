import '@/core/shapeWords';

import { admitted } from '../heavy/room';

import { failed, SOON_S } from './failure';

/** Errors of the script interface: 4xx with code, message and, where there is one, the field. */
export const apiError = (status: number, code: string, message: string, field?: string): Response =>
  Response.json({ error: { code, message, ...(field ? { field } : {}) } }, { status });

/** The number that the gate gave a request: its line in the log is found by it. */
export const requestNumber = (headers: { get(name: string): string | null }): string =>
  headers.get('x-request-id') ?? 'none';

const CODES = {
  away: 'unavailable',
  unknown: 'not-known-whether-saved',
  conflict: 'conflict',
  unstorable: 'invalid-input',
  refused: 'refused',
  'too-large': 'too-large',
  bug: 'bug',
} as const;

/** Somebody followed a link to an address for scripts: they read the words, not the JSON around them. */
const asPage = (message: string): string => {
  const words = message.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`);
  return `<!doctype html><html lang="en"><meta name="viewport" content="width=device-width"><title>Not now · Red Plumb</title><body style="font-family:sans-serif;max-width:36em;margin:3em auto;padding:0 1em"><h1 style="font-size:1.4em">${words}</h1><p><a href="/">Back to the Bench</a></p>`;
};

/** A thrown error as an answer to a script, or to a person who followed a link, with its line in the log. */
export function apiFailure(error: unknown, where: string, request: Request): Response {
  const { kind, status, message, afterS = SOON_S } = failed(error, where, requestNumber(request.headers));
  const headers = status === 503 ? { 'Retry-After': String(afterS) } : undefined;
  if (request.headers.get('sec-fetch-mode') === 'navigate')
    return new Response(asPage(message), {
      status,
      headers: { ...headers, 'Content-Type': 'text/html; charset=utf-8' },
    });
  return Response.json({ error: { code: CODES[kind], message } }, { status, headers });
}

/** Runs a handler; what it throws becomes an answer of its kind. */
export function guarded<A extends unknown[]>(
  where: string,
  handler: (request: Request, ...rest: A) => Promise<Response>,
): (request: Request, ...rest: A) => Promise<Response> {
  return async (request, ...rest) => {
    try {
      return await admitted(bodyBytes(request), () => handler(request, ...rest));
    } catch (error) {
      return apiFailure(error, where, request);
    }
  };
}

/** What a request says that it brings; of one that says nothing the most that any route takes. */
function bodyBytes({ method, headers }: Request): number {
  if (method === 'GET' || method === 'HEAD') return 0;
  const said = headers.get('content-length');
  return said === null ? UNTOLD_BYTES : Number(said) || 0;
}

const UNTOLD_BYTES = 40 * 1024 * 1024;
