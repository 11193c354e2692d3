import sharp from 'sharp';

import { POST as offset } from '@/app/api/offset/route';
import { POST as traced } from '@/app/api/trace/route';
import { POST as twoSides } from '@/app/api/two-sides/route';

type Route = (request: Request) => Promise<Response>;

async function ask(route: Route, body: unknown) {
  const answer = await route(
    new Request('http://127.0.0.1/api', { method: 'POST', body: JSON.stringify(body) }),
  );
  return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
}

async function traceOf(image: Uint8Array | string | null, options: unknown = { dpi: 254 }) {
  const form = new FormData();
  if (image !== null) form.set('image', new File([image as BlobPart], 'art'));
  form.set('options', typeof options === 'string' ? options : JSON.stringify(options));
  const answer = await traced(new Request('http://127.0.0.1/api/trace', { method: 'POST', body: form }));
  const body = (await answer.json()) as {
    widthMm: number;
    background: string;
    paths: { kind: string; areaMm2: number; points: [number, number][] }[];
    error?: { code: string; message: string; field?: string };
  };
  return { status: answer.status, body };
}

/** A disc of 8 mm radius in a picture of 20 mm, drawn by librsvg, which antialiases by coverage. */
const disc = (fill: string, ground: string | null) =>
  sharp(
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="200">${ground ? `<rect width="200" height="200" fill="${ground}"/>` : ''}<circle cx="100" cy="100" r="80" fill="${fill}"/></svg>`,
    ),
  );

test.each([
  ['png', null, 'alpha'],
  ['png', '#ffffff', 'brightness'],
  ['jpeg', '#ffffff', 'colour'],
  ['webp', null, 'alpha'],
  ['tiff', '#204060', 'colour'],
] as const)('a %s on %s is traced by its %s', async (format, ground, background) => {
  const ink = background === 'brightness' ? '#101010' : '#c03028';
  const image = await disc(ink, ground).toFormat(format, { quality: 90 }).toBuffer();
  const { status, body } = await traceOf(image);
  expect([status, body.background, body.widthMm]).toEqual([200, background, 20]);
  expect(body.paths).toHaveLength(1);
  const [path] = body.paths;
  expect(path!.kind).toBe('outer');
  expect(Math.abs(path!.areaMm2 / (64 * Math.PI) - 1)).toBeLessThan(0.005);
  for (const [x, y] of path!.points) expect(Math.abs(Math.hypot(x - 10, y - 10) - 8)).toBeLessThan(0.05);
});

test('the file’s own density is the size when none is given; a phone’s turned picture is turned back', async () => {
  const wide = sharp({ create: { width: 300, height: 150, channels: 3, background: '#fff' } });
  const mark = await sharp({ create: { width: 60, height: 60, channels: 3, background: '#000' } })
    .png()
    .toBuffer();
  const art = wide.composite([{ input: mark, left: 10, top: 20 }]);
  const dense = await traceOf(await art.clone().withMetadata({ density: 300 }).png().toBuffer(), {});
  expect(dense.body.widthMm).toBeCloseTo(25.4, 6);
  const [x] = dense.body.paths[0]!.points[0]!;
  expect(x).toBeLessThan(70 * (25.4 / 300));
  // Orientation 6: the camera was held on its side.
  const turned = await traceOf(await art.clone().withMetadata({ orientation: 6 }).jpeg().toBuffer(), {
    widthMm: 15,
  });
  expect(turned.body).toMatchObject({ widthMm: 15, heightMm: 30 });
  expect(await traceOf(await art.clone().png().toBuffer(), {})).toMatchObject({
    status: 400,
    body: { error: { code: 'no-size' } },
  });
});

/** A PNG that says it is this large and holds nothing. */
function headerOnly(width: number, height: number): Buffer {
  const png = Buffer.alloc(33);
  Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, 0, 0, 0, 13]).copy(png);
  png.write('IHDR', 12);
  png.writeUInt32BE(width, 16);
  png.writeUInt32BE(height, 20);
  png.set([8, 6, 0, 0, 0], 24);
  return png;
}

test.each<[string, () => Promise<Uint8Array | string> | Uint8Array | string, number, string]>([
  [
    'a picture of 20 000 × 20 000',
    () =>
      sharp({
        create: { width: 20_000, height: 20_000, channels: 3, background: '#fff' },
        limitInputPixels: false,
      })
        .png({ compressionLevel: 1 })
        .toBuffer(),
    413,
    'too-large',
  ],
  ['a header without a picture', () => headerOnly(300, 300), 422, 'not-an-image'],
  [
    'a drawing with a script',
    () => '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>',
    422,
    'not-an-image',
  ],
  [
    'entities that grow',
    () => '<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><svg>&b;</svg>',
    422,
    'not-an-image',
  ],
  [
    'a cut-off JPEG',
    async () => (await disc('#333', '#fff').jpeg().toBuffer()).subarray(0, 700),
    422,
    'not-an-image',
  ],
  ['nothing', () => '', 422, 'not-an-image'],
  [
    'a plain page',
    () =>
      sharp({ create: { width: 40, height: 40, channels: 3, background: '#fff' } })
        .png()
        .toBuffer(),
    422,
    'all-alike',
  ],
])('%s: refused with a reason, never 500', async (_, make, status, code) => {
  const answer = await traceOf(await make());
  expect(answer).toMatchObject({ status, body: { error: { code } } });
  expect(answer.body.error!.message.length).toBeGreaterThan(20);
});

test.each<[unknown, string]>([
  [{ widthMm: 10, dpi: 300 }, 'options.widthMm'],
  [{ widthMm: -1 }, 'options.widthMm'],
  [{ dpi: 'much' }, 'options.dpi'],
  [{ dpi: 300, background: 'sky' }, 'options.background'],
  ['not json', 'options'],
  [null, 'options'],
])('options %j are refused at %s', async (options, field) => {
  const image = await disc('#333', '#fff').png().toBuffer();
  expect(await traceOf(image, options)).toMatchObject({ status: 400, body: { error: { field } } });
});

test('offset and two sides answer in the shapes of the document', async () => {
  const square = {
    points: [
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10],
    ],
  };
  const grown = await ask(offset, { paths: [square], distanceMm: 2, join: 'mitre' });
  expect(grown).toMatchObject({ status: 200, body: { paths: [{ areaMm2: 196, hole: false }] } });
  expect((await ask(offset, { paths: [square], distanceMm: -6, join: 'round' })).body).toEqual({ paths: [] });
  const turned = await ask(twoSides, {
    sheet: { widthMm: 210, heightMm: 297 },
    turnedOver: 'short-edge',
    readsLike: 'book',
  });
  expect(turned).toEqual({
    status: 200,
    body: { leads: 'other-edge', map: { a11: 1, a12: 0, a21: 0, a22: -1, tx: 0, ty: 297 }, artTurnDeg: 180 },
  });
  for (const [route, body] of [
    [offset, { paths: [], distanceMm: 1, join: 'round' }],
    [
      offset,
      {
        paths: [
          {
            points: [
              [0, 0],
              [1, 1],
            ],
          },
        ],
        distanceMm: 1,
        join: 'round',
      },
    ],
    [offset, { paths: [square], distanceMm: 1, join: 'bevel' }],
    [offset, { paths: [square], distanceMm: null, join: 'round' }],
    [twoSides, { sheet: { widthMm: 0, heightMm: 1 }, turnedOver: 'long-edge', readsLike: 'book' }],
    [twoSides, { sheet: { widthMm: 1, heightMm: 1 }, turnedOver: 'top', readsLike: 'book' }],
  ] as const)
    expect(await ask(route, body)).toMatchObject({ status: 400, body: { error: { code: 'invalid-input' } } });
});
