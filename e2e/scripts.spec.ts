import { readFileSync } from 'node:fs';

import { expect, test, type APIResponse } from '@playwright/test';

/* The interface for scripts, as a script meets it. */

const station = (id: string, x: number, y: number, dx: number, dy: number) => ({ id, x, y, dx, dy, u: 0.03 });
const STATIONS = [20, 105, 190].flatMap((x) =>
  [30, 150, 270].map((y) => station(`${x}/${y}`, x, y, 0.3 + 0.002 * (y - 150), -0.2 + 0.0001 * (x % 7))),
);
const AREA = { x0: 10, y0: 15, x1: 200, y1: 285 };

/** From readings to a corrected file by addresses alone. */
test('readings, fit, settings, file: a script brings a rig in', async ({ request }) => {
  const fit = (await (
    await request.post('/api/fit', { data: { stations: STATIONS, workArea: AREA } })
  ).json()) as {
    recommended: string;
    models: Record<string, { status: string; params: Record<string, number>; terms: Record<string, number> }>;
    nestedF: { small: string; big: string }[];
  };
  expect(fit.recommended).toBe('affine');
  const { params, terms } = fit.models.affine!;
  expect(terms.shiftXMm).toBeCloseTo(0.3, 9);
  expect(fit.nestedF.map((f) => f.big)).toEqual(['rigid', 'similarity', 'affine', 'projective']);
  const settings = [
    { id: 'X', value: 1.15, step: 0.05, effect: { kind: 'offset', unit: 'mm', direction: 'left' } },
    { id: 'Y', value: 0, step: 0.05, effect: { dyMm: 1 } },
  ];
  const typed = (await (
    await request.post('/api/settings', { data: { settings, map: params, workArea: AREA } })
  ).json()) as { changes: { id: string; to: number }[]; leftOver: { map: object; largestMm: number } };
  expect(typed.changes.map((c) => [c.id, c.to])).toEqual([
    ['X', 1.45],
    ['Y', 0.2],
  ]);
  expect(typed.leftOver.largestMm).toBeLessThan(0.3);
  const file = { name: 'a.dxf', mimeType: 'image/vnd.dxf', buffer: readFileSync('test/files/gnuplot.dxf') };
  for (const to of ['dxf', 'svg', 'hpgl']) {
    const map = JSON.stringify(typed.leftOver.map);
    const answer = await request.post('/api/correct', { multipart: { file, map, to } });
    expect(answer.status()).toBe(200);
    const report = JSON.parse(answer.headers()['x-red-plumb-report']!) as {
      to: string;
      farthestMoveMm: number;
    };
    expect(report.to).toBe(to);
    expect(report.farthestMoveMm).toBeGreaterThan(0.05);
  }
});

const errorOf = async (response: APIResponse): Promise<[number, string, string]> => {
  const { error } = (await response.json()) as { error: { code: string; message: string } };
  return [response.status(), error.code, error.message];
};

test('a roll is planned, its drift learnt and its next section asked for; bad input is a clear 400', async ({
  request,
}) => {
  const item = { widthMm: 300, heightMm: 183.4 };
  const tags = { item, copies: 46, gapMm: 3.5, printableWidthMm: 1315, rowsPerSection: 5 };
  const plan = (await (await request.post('/api/plan/roll', { data: tags })).json()) as {
    rows: number;
    sectionHeightMm: number;
    sections: { copies: number }[];
  };
  expect(plan.rows).toBe(12);
  expect(plan.sectionHeightMm).toBeCloseTo(931, 6);
  expect(plan.sections.map((s) => s.copies)).toEqual([20, 20, 6]);
  const roll = await request.post('/api/fit', {
    data: {
      stations: STATIONS.map((s) => ({ ...s, dy: s.dy + 1e-5 * s.y ** 2 })),
      models: ['affine', 'roll'],
    },
  });
  const fit = (await roll.json()) as {
    recommended: string;
    models: { roll: { params: { bowX: number; bowY: number } } };
  };
  expect(fit.recommended).toBe('roll');
  expect(fit.models.roll.params.bowY).toBeCloseTo(1e-5, 9);
  expect(fit.models.roll.params.bowX).toBeCloseTo(0, 9);
  const reading = { y: 1, dy: 0.2 };
  const bad: [string, unknown, RegExp][] = [
    ['plan/roll', { ...tags, copies: 0 }, /at least one copy/],
    ['plan/roll', { ...tags, copies: 4.5 }, /whole number/],
    ['plan/roll', { ...tags, item: { widthMm: -3, heightMm: 1 } }, /more than 0 mm/],
    ['plan/roll', { ...tags, item: 'large' }, /widthMm/],
    ['plan/roll', { ...tags, item: { widthMm: 1400, heightMm: 1500 } }, /1400\.0 mm wide/],
    ['plan/roll', { ...tags, copies: 1_000_000, item: { widthMm: 900, heightMm: 3 } }, /at most 20000/],
    ['plan/roll', { ...tags, strategy: 'luck' }, /A strategy is one of/],
    ['plan/roll', { ...tags, drift: { along: { wanderMm2PerM: -1 } } }, /cannot be negative/],
    ['drift', { runs: [] }, /at least one/],
    ['drift', { runs: [{ id: 'a', readings: [{ y: 1 }] }] }, /“dx”, “dy” or both/],
    ['drift', { runs: [{ id: 'a', readings: [{ ...reading, y: -1 }] }] }, /cannot be negative/],
    ['drift', { runs: [{ id: 'a', readings: [{ ...reading, u: 0 }] }] }, /more than 0/],
    ['drift', { runs: [{ id: 'a', readings: Array(1001).fill(reading) }] }, /./],
    [
      'drift',
      {
        runs: [
          { id: 1, readings: [reading] },
          { id: 1, readings: [reading] },
        ],
      },
      /same id/,
    ],
    ['run/next', {}, /“next” is/],
    ['run/next', { next: { startM: 2, endM: 1 } }, /ends after it starts/],
  ];
  for (const [path, data, sentence] of bad) {
    const response = await request.post(`/api/${path}`, { data: data as object });
    const [status, , message] = await errorOf(response);
    expect([path, status, message]).toEqual([path, 400, expect.stringMatching(sentence)]);
  }
  for (const path of ['archive', 'stamp', `files/${'0'.repeat(8)}-0000-4000-8000-000000000000`])
    expect((await request.get(`/api/runs/00000000-0000-4000-8000-000000000000/${path}`)).status()).toBe(404);
});

test('bad JSON input: a clear 4xx each time, never a 500', async ({ request }) => {
  const one = STATIONS[0]!;
  const bad: [unknown, RegExp][] = [
    ['', /JSON/],
    ['{"stations":[{"id":"a","x":NaN}]}', /JSON/],
    [{}, /stations/],
    [{ stations: [] }, /at least one/],
    [{ stations: [{ ...one, x: 'ten' }] }, /number/],
    [{ stations: [{ ...one, dx: 1e308 }] }, /At most/],
    [{ stations: [{ ...one, u: 0 }] }, /Station 20\/30 has no uncertainty/],
    [{ stations: [one, one] }, /occurs twice/],
  ];
  for (const [data, message] of bad) {
    const options =
      typeof data === 'string' ? { data, headers: { 'Content-Type': 'application/json' } } : { data };
    const [status, , words] = await errorOf(await request.post('/api/fit', options as { data: string }));
    expect([status, words]).toEqual([400, expect.stringMatching(message)]);
  }
  const alone = (await (await request.post('/api/fit', { data: { stations: [one] } })).json()) as {
    recommended: string;
    models: { affine: { status: string; message: string } };
  };
  expect(alone.recommended).toBe('shift');
  expect(alone.models.affine).toMatchObject({ status: 'refused', message: expect.stringMatching(/Read/) });
  const huge = JSON.stringify({ stations: [], filler: 'x'.repeat(9 * 1024 * 1024) });
  const sent = await request.post('/api/fit', {
    data: huge,
    headers: { 'Content-Type': 'application/json' },
  });
  expect(sent.status()).toBe(413);
  const settings = await request.post('/api/settings', {
    data: { settings: [{ id: 'X', value: 0, step: 0, effect: {} }], map: {}, workArea: AREA },
  });
  expect((await errorOf(settings))[0]).toBe(400);
});

const bytes = (text: string): Buffer => Buffer.from(text, 'utf8');
const svg = (body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="99mm" height="99mm" viewBox="0 0 99 99">${body}</svg>`;
const MAP = JSON.stringify({ a11: 1, a12: 0, a21: 0, a22: 1, tx: 0.3, ty: -0.2 });

test('hostile files: refused with a sentence or made harmless, never a 500, never a hang', async ({
  request,
}) => {
  const send = (name: string, buffer: Buffer, more: Record<string, string> = { map: MAP }) =>
    request.post('/api/correct', {
      multipart: { file: { name, mimeType: 'application/octet-stream', buffer }, ...more },
    });
  const refused: [string, Buffer, number, RegExp][] = [
    ['empty.svg', bytes(''), 422, /empty/],
    ['picture.svg', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 1, 255]), 422, /binary/],
    ['bomb.svg', bytes(`<!DOCTYPE svg [<!ENTITY a "b"><!ENTITY c "&a;&a;">]>${svg('&c;')}`), 422, /entities/],
    ['deep.svg', bytes(svg('<g>'.repeat(10_000) + '</g>'.repeat(10_000))), 422, /nests more/],
    ['loop.svg', bytes(svg('<g id="a"><use href="#a"/></g>')), 422, /inside itself/],
    [
      'half.dxf',
      readFileSync('test/files/ezdxf-r12.dxf').subarray(0, 3001),
      422,
      /stops in the middle|group code/,
    ],
    ['absurd.hpgl', bytes('IN;PU0,0;PD1e308,99999999999999999999;'), 422, /not a usable figure|not an HPGL/],
    ['big.hpgl', Buffer.alloc(60 * 1024 * 1024, 'IN;PU0,0;PD1,1;'), 413, /32 MB/],
  ];
  for (const [name, buffer, status, message] of refused)
    expect([name, ...(await errorOf(await send(name, buffer)))]).toEqual([
      name,
      status,
      expect.any(String),
      expect.stringMatching(message),
    ]);
  const hostile = svg(
    '<script>alert(1)</script><image xlink:href="http://elsewhere/x.png" width="9" height="9"/><path onclick="alert(1)" d="M1 1L9 9"/>',
  );
  const cleaned = await (await send('script.svg', bytes(hostile))).text();
  expect(cleaned).toContain('<path');
  expect(cleaned).not.toMatch(/script|onclick|elsewhere/);
  const fields: [Record<string, string>, string][] = [
    [{}, 'map'],
    [{ map: '{"a11":1' }, 'map'],
    [{ map: '{"a11":"one","a12":0,"a21":0,"a22":1,"tx":0,"ty":0}' }, 'map'],
    [{ map: '{"a11":-1,"a12":0,"a21":0,"a22":1,"tx":0,"ty":0}' }, 'map'],
    [{ map: MAP, to: 'exe' }, 'to'],
    [{ map: MAP, correction: '11111111-1111-4111-8111-111111111111' }, 'map'],
  ];
  for (const [more, field] of fields) {
    const response = await send('a.svg', bytes(svg('<path d="M1 1L9 9"/>')), more);
    expect(response.status()).toBe(400);
    expect(((await response.json()) as { error: { field: string } }).error.field).toBe(field);
  }
});

test('the OpenAPI document names every address and the fields that the routes check', async ({ request }) => {
  const document = (await (await request.get('/api/openapi.json')).json()) as {
    openapi: string;
    paths: Record<
      string,
      { post?: { requestBody: { content: Record<string, { schema: { properties: object } }> } } }
    >;
  };
  expect(document.openapi).toBe('3.1.0');
  const fit = document.paths['/api/fit']!.post!.requestBody.content['application/json']!.schema;
  expect(Object.keys(fit.properties)).toEqual(['stations', 'models', 'workArea']);
  expect(Object.keys(document.paths)).toHaveLength(32);
});
