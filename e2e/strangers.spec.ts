import { readFileSync } from 'node:fs';
import { request as rawRequest } from 'node:http';

import { expect, test } from '@playwright/test';

/* Who asks from elsewhere, asks for what there is not, or sends what nobody would: each answered in kind, none by 500. */

const base = new URL(process.env.RED_PLUMB_TEST_URL!);
const NOBODY = '00000000-0000-4000-8000-000000000000';

interface Asked {
  readonly method?: string;
  readonly path: string;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: string;
}
interface Answered {
  readonly status: number;
  readonly headers: NodeJS.Dict<string | string[]>;
  readonly body: string;
}

/** A request as it is written, without a browser’s or a library’s mending. */
function ask({ method = 'GET', path, headers = {}, body }: Asked): Promise<Answered> {
  return new Promise((done, failed) => {
    const sent = rawRequest(
      {
        ...{ host: base.hostname, port: base.port, method, path, agent: false },
        headers: { host: base.host, ...headers },
      },
      (answer) => {
        const parts: Buffer[] = [];
        answer.on('data', (part: Buffer) => parts.push(part));
        answer.on('end', () =>
          done({
            status: answer.statusCode!,
            headers: answer.headers,
            body: Buffer.concat(parts).toString('utf8'),
          }),
        );
        answer.on('error', failed);
      },
    );
    sent.on('error', failed);
    sent.end(body);
  });
}

const own = { origin: base.origin };

test.describe('at the gate', () => {
  const cases: [string, Asked, number, string][] = [
    ['a foreign Host', { path: '/api/logbook/csv', headers: { host: 'evil.example' } }, 421, 'wrong-host'],
    ['another port of this machine', { path: '/', headers: { host: '127.0.0.1:1' } }, 421, 'wrong-host'],
    ['an undecodable address', { path: '/setups/%E0%A4%A' }, 400, 'not-an-address'],
    ['a NUL in the address', { path: '/setups/%00' }, 400, 'not-an-address'],
    ['an endless address', { path: `/${'a'.repeat(5000)}` }, 414, 'address-too-long'],
    ...['TRACE', 'PROPFIND', 'DELETE', 'PUT', 'PATCH'].map((method): [string, Asked, number, string] => [
      method,
      { method, path: '/' },
      405,
      'no-such-method',
    ]),
    [
      'a page from elsewhere that posts a form',
      { method: 'POST', path: '/', headers: { origin: 'http://evil.example' }, body: 'a=1' },
      403,
      'foreign-origin',
    ],
    [
      'a page from nowhere',
      { method: 'POST', path: '/api/fit', headers: { origin: 'null' }, body: '{}' },
      403,
      'foreign-origin',
    ],
    ['a form without an origin', { method: 'POST', path: '/calibrate', body: 'a=1' }, 403, 'no-origin'],
    [
      'a multipart body from elsewhere',
      {
        ...{ method: 'POST', path: '/api/correct', body: '--b--' },
        headers: { origin: 'http://evil.example', 'content-type': 'multipart/form-data; boundary=b' },
      },
      403,
      'foreign-origin',
    ],
  ];
  for (const [name, asked, status, code] of cases)
    test(`${name} is ${status}`, async () => {
      const answer = await ask(asked);
      expect(answer.status).toBe(status);
      expect(JSON.parse(answer.body)).toMatchObject({
        error: { code, message: expect.stringMatching(/\.$/) },
      });
      expect(answer.headers['content-security-policy']).toContain("frame-ancestors 'none'");
    });
});

test('every answer has its headers: pages, files, scripts, what is not there', async () => {
  for (const path of [
    '/',
    '/logbook',
    '/api/health',
    '/api/proof-sheets/0001.svg?layer=cut',
    '/nowhere',
    '/icon.svg',
  ]) {
    const { headers } = await ask({ path });
    expect.soft([path, headers['x-content-type-options']]).toEqual([path, 'nosniff']);
    expect.soft(headers['content-security-policy']).toMatch(/default-src 'self'|default-src 'none'/);
    expect.soft(headers['content-security-policy']).toContain("frame-ancestors 'none'");
    expect.soft(headers['referrer-policy']).toBe('same-origin');
    expect.soft(headers['permissions-policy']).toContain('camera=()');
    expect.soft(headers['x-request-id']).toMatch(/^[0-9a-f-]{36}$/);
  }
  const [one, two] = await Promise.all([ask({ path: '/' }), ask({ path: '/' })]);
  const nonce = /'nonce-([^']+)'/.exec(String(one.headers['content-security-policy']))![1]!;
  expect(one.body).toContain(`nonce="${nonce}"`);
  expect(two.body).not.toContain(nonce);
});

test('alive and ready are two questions', async () => {
  for (const path of ['/api/health', '/api/ready']) expect((await ask({ path })).status).toBe(200);
});

const POSTED = [
  ...['/api/fit', '/api/settings', '/api/drift', '/api/plan/roll', '/api/run/next'],
  ...['rings', 'gaps', 'table', 'lengths'].map((school) => `/api/readings/${school}`),
  ...['/api/registration', '/api/control', '/api/diagnose'],
];

test('every address for scripts, with null, wrong types and no body: 4xx with a sentence', async () => {
  const bodies = [
    '',
    'null',
    '[]',
    '"text"',
    '7',
    '{}',
    '{"stations":null,"settings":7,"runs":"x"}',
    '{"a":',
    '\u0000',
  ];
  for (const path of POSTED)
    for (const body of bodies) {
      const answer = await ask({ method: 'POST', path, headers: own, body });
      expect.soft([path, body, answer.status]).toEqual([path, body, 400]);
      expect
        .soft(JSON.parse(answer.body))
        .toMatchObject({ error: { message: expect.stringMatching(/.{8}/) } });
    }
  for (const path of POSTED) expect((await ask({ path })).status).toBe(405);
  for (const path of ['/api/health', '/api/ready', '/api/logbook/csv', '/api/shop', '/api/openapi.json'])
    expect((await ask({ method: 'POST', path, headers: own, body: '{}' })).status).toBe(405);
});

test('every address that is read, with what is not there', async () => {
  const absent = [
    ...['/api/logbook/xml', '/api/proof-sheets/9999.pdf', '/api/proof-sheets/x', '/api/corrected-files/7'],
    ...[
      `/api/corrected-files/${NOBODY}`,
      '/api/runs/1/stamp',
      `/api/runs/${NOBODY}/stamp`,
      '/api/sessions/1/stamp',
    ],
    ...[
      `/api/sessions/${NOBODY}/stamp`,
      `/api/runs/${NOBODY}/archive`,
      `/api/runs/${NOBODY}/files/${NOBODY}`,
    ],
    ...[
      '/api/runs/x/files/y',
      '/s/9999',
      '/s/abc',
      '/setups/7',
      `/setups/${NOBODY}`,
      `/calibrate/${NOBODY}/read`,
    ],
    ...[`/logbook/${NOBODY}`, '/logbook/7', '/jobs/7', `/jobs/${NOBODY}/run`, `/jobs/${NOBODY}/summary`],
  ];
  for (const path of absent) {
    const { status, body } = await ask({ path });
    // A page that has begun to stream says it in words.
    const said = status === 404 || (status === 200 && body.includes('There is nothing at this address'));
    expect.soft([path, status, said]).toEqual([path, status, true]);
  }
  for (const path of ['/logbook?page=0&rig=x&sort=;drop', '/jobs?page=-1&show=x', '/jobs/new?setup=nobody'])
    expect.soft((await ask({ path })).status).toBe(200);
});

test('300 MB sent to /api/correct without a length are refused while they come', async () => {
  const boundary = 'b';
  const head = `--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="a.hpgl"\r\n\r\n`;
  const chunk = Buffer.alloc(1 << 20, 'PD1,1;');
  let sent = 0;
  const status = await new Promise<number>((done, failed) => {
    const upload = rawRequest(
      {
        ...{ host: base.hostname, port: base.port, method: 'POST', path: '/api/correct', agent: false },
        headers: {
          ...{ host: base.host, ...own, 'transfer-encoding': 'chunked' },
          'content-type': `multipart/form-data; boundary=${boundary}`,
        },
      },
      (answer) => {
        done(answer.statusCode!);
        answer.destroy();
      },
    );
    upload.on('error', (error) => (sent > 40 ? done(413) : failed(error)));
    upload.write(head);
    const more = (): void => {
      if (sent >= 300 || upload.destroyed) return void upload.end();
      sent += 1;
      if (upload.write(chunk)) setImmediate(more);
      else upload.once('drain', more);
    };
    more();
  });
  expect(status).toBe(413);
});

test('a stored correction asked for without an origin is refused: it would keep what it makes', async () => {
  const body = `--b\r\nContent-Disposition: form-data; name="file"; filename="a.hpgl"\r\n\r\nIN;PU0,0;PD9,9;\r\n--b\r\nContent-Disposition: form-data; name="correction"\r\n\r\n${NOBODY}\r\n--b--\r\n`;
  const headers = { 'content-type': 'multipart/form-data; boundary=b' };
  expect((await ask({ method: 'POST', path: '/api/correct', headers, body })).status).toBe(403);
  expect(
    (await ask({ method: 'POST', path: '/api/correct', headers: { ...headers, ...own }, body })).status,
  ).toBe(404);
});

/** Ids of all server actions, as the build lists them. */
function actionIds(): string[] {
  const dist = process.env.RED_PLUMB_DIST ?? '.next';
  const manifest = JSON.parse(readFileSync(`${dist}/server/server-reference-manifest.json`, 'utf8')) as {
    node: Record<string, unknown>;
  };
  return Object.keys(manifest.node);
}

test('every server action, with null and wrong types: an answer, never a 500', async () => {
  const ids = actionIds();
  expect(ids.length).toBeGreaterThan(25);
  for (const id of ids)
    for (const args of [
      '[]',
      '[null]',
      '[null,null,null]',
      '[7,"x",{"request":"no"}]',
      `["${NOBODY}",{},{"version":-1}]`,
    ]) {
      const answer = await ask({
        ...{ method: 'POST', path: '/', body: args },
        headers: { ...own, 'next-action': id, 'content-type': 'text/plain;charset=UTF-8', cookie: 'who=KT' },
      });
      expect.soft([id, args, answer.status]).toEqual([id, args, 200]);
      expect.soft(answer.body).toContain('"ok":false');
      // In our words, not in those of a library.
      expect
        .soft(answer.body)
        .not.toMatch(/Invalid input|Invalid option|expected \w+, received|Too (?:big|small)/);
    }
  for (const junk of ['junk', '', '{}', 'null', '["$F1"]', '['.repeat(20_000)]) {
    const headers = {
      ...own,
      'next-action': ids[0]!,
      'content-type': 'text/plain;charset=UTF-8',
      cookie: 'who=KT',
    };
    const answer = await ask({ method: 'POST', path: '/', body: junk, headers });
    expect.soft([junk.slice(0, 9), answer.status]).toEqual([junk.slice(0, 9), 400]);
    expect.soft(answer.body).toContain('not-an-action');
  }
  const foreign = {
    origin: 'http://evil.example',
    'next-action': ids[0]!,
    'content-type': 'text/plain;charset=UTF-8',
  };
  expect((await ask({ method: 'POST', path: '/', headers: foreign, body: '[null]' })).status).toBe(403);
});
