import { TooLarge } from '@/server/base/failure';
import { z } from 'zod';

import { bodyWithin, jsonRoute } from './scriptRequest';

const schema = z.object({
  copies: z.number('“copies” is a number.').int('“copies” is whole.'),
  item: z.object({ widthMm: z.number('“widthMm” is a number.') }).optional(),
});
const post = (body: BodyInit, headers: Record<string, string> = {}): Request =>
  new Request('http://127.0.0.1/api/try', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);

const route = jsonRoute(schema, ({ copies }) => ({ twice: 2 * copies }));

async function answered(request: Request, to = route): Promise<{ status: number; body: unknown }> {
  const response = await to(request);
  return { status: response.status, body: await response.json() };
}

test.each<[string, string, number, object]>([
  ['a good request', '{"copies":21}', 200, { twice: 42 }],
  ['nothing', '', 400, { error: { code: 'not-json' } }],
  ['half a request', '{"copies":', 400, { error: { code: 'not-json' } }],
  ['NaN, which is not JSON', '{"copies":NaN}', 400, { error: { code: 'not-json' } }],
  ['a list', '[{"copies":1}]', 400, { error: { code: 'not-json', message: expect.stringContaining('“{”') } }],
  ['null', 'null', 400, { error: { code: 'not-json' } }],
  ['text', '"copies"', 400, { error: { code: 'not-json' } }],
  ['a wrong field', '{"copies":"ten"}', 400, { error: { code: 'invalid-input', field: 'copies' } }],
  ['a half copy', '{"copies":2.5}', 400, { error: { message: '“copies” is whole.', field: 'copies' } }],
  [
    'a field within a field',
    '{"copies":1,"item":{"widthMm":null}}',
    400,
    { error: { field: 'item.widthMm', message: '“widthMm” is a number.' } },
  ],
  ['fields of Object itself', '{"copies":1,"__proto__":{"x":1},"constructor":{}}', 200, { twice: 2 }],
])('%s is answered in JSON with its status', async (_, text, status, body) => {
  expect(await answered(post(text))).toMatchObject({ status, body });
});

test('too much is refused before it is read, whether the header says so or not', async () => {
  const limit = 8 * 1024 * 1024;
  expect(await answered(post('{}', { 'content-length': String(limit + 1) }))).toMatchObject({ status: 413 });
  let sent = 0;
  let cancelled = false;
  const endless = new ReadableStream<Uint8Array>({
    pull(controller) {
      sent += 1 << 20;
      controller.enqueue(new Uint8Array(1 << 20).fill(0x20));
    },
    cancel() {
      cancelled = true;
    },
  });
  expect(await answered(post(endless))).toMatchObject({
    status: 413,
    body: { error: { code: 'too-large' } },
  });
  expect(cancelled).toBe(true);
  expect(sent).toBeLessThan(limit + 4 * (1 << 20));
});

test('a body of exactly the limit passes, of letters that take several bytes too', async () => {
  const body = 'ü'.repeat(50);
  const textWithin = async (request: Request) => {
    const read = await bodyWithin(request, 100);
    return read && new TextDecoder().decode(read);
  };
  expect(await textWithin(post(body))).toBe(body);
  expect(await textWithin(post(`${body}x`))).toBeNull();
  // A letter cut in two by the network is still a letter.
  const bytes = new TextEncoder().encode(body);
  const torn = new ReadableStream<Uint8Array>({
    start(controller) {
      for (const byte of bytes) controller.enqueue(Uint8Array.of(byte));
      controller.close();
    },
  });
  expect(await textWithin(post(torn))).toBe(body);
});

test('a handler’s own response goes through', async () => {
  const own = jsonRoute(schema, () => Response.json({ gone: true }, { status: 410 }));
  expect(await answered(post('{"copies":1}'), own)).toEqual({ status: 410, body: { gone: true } });
});

test.each([
  ['the database away', Object.assign(new Error('x'), { code: 'ECONNREFUSED' }), 503, 'unavailable'],
  ['a fault of ours', new TypeError('x is not a function'), 500, 'bug'],
  ['a limit passed deep inside', new TooLarge('Split it.'), 413, 'too-large'],
])(
  'a handler that throws %s answers in kind, and keeps the cause to the log',
  async (_, thrown, status, code) => {
    const response = await jsonRoute(schema, () => Promise.reject(thrown))(post('{"copies":1}'));
    expect(response.status).toBe(status);
    expect(response.headers.get('retry-after')).toBe(status === 503 ? '3' : null);
    const { error } = (await response.json()) as { error: { code: string; message: string } };
    expect(error.code).toBe(code);
    expect(error.message).not.toContain('function');
  },
);
