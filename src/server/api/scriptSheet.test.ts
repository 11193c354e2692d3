import { POST as planned } from '@/app/api/plan/sheet/route';

async function plan(body: unknown) {
  const answer = await planned(
    new Request('http://127.0.0.1/api', { method: 'POST', body: JSON.stringify(body) }),
  );
  return { status: answer.status, body: (await answer.json()) as Answer };
}
interface Rect {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}
interface Answer {
  readonly sheets: readonly {
    readonly placements: readonly {
      readonly item: string;
      readonly x: number;
      readonly y: number;
      readonly widthMm: number;
      readonly heightMm: number;
    }[];
    readonly marks: readonly {
      readonly x: number;
      readonly y: number;
      readonly sizeMm: number;
      readonly clear: Rect;
    }[];
  }[];
  readonly perSheet: number;
  readonly wasteShare: number;
  readonly findings: readonly { readonly code: string; readonly message: string }[];
  readonly error?: { readonly code: string; readonly field?: string };
}

const KIT = {
  ...{ count: 4, shape: 'cross', sizeMm: 8, lineMm: 0.5, colour: '#000000', clearMm: 5 },
  ...{ insetLeftMm: 15, insetRightMm: 15, insetNearMm: 15, insetFarMm: 15 },
  ...{ leading: 'near left', leadSign: 'none', everyMm: null, printerEdgeMm: 4, sensorEdgeMm: 5 },
};
const A4 = { widthMm: 210, heightMm: 297 };
const PRINTABLE = { x0: 5, y0: 5, x1: 205, y1: 292 };
const ASK = {
  media: A4,
  printable: PRINTABLE,
  marks: KIT,
  gapMm: 2,
  items: [{ id: 'label', widthMm: 50, heightMm: 30, fill: true }],
};

test('a sheet is filled within what is printed and cut, clear of its marks; the waste is what is left of the media', async () => {
  const { status, body } = await plan({ ...ASK, cuttable: { x0: 8, y0: 8, x1: 202, y1: 250 } });
  expect(status).toBe(200);
  const [sheet] = body.sheets;
  expect(sheet!.marks).toHaveLength(4);
  expect(sheet!.marks[0]).toMatchObject({ x: 15, y: 15, clear: { x0: 5.75, x1: 24.25 } });
  expect(body.perSheet).toBe(sheet!.placements.length);
  expect(body.wasteShare).toBeCloseTo(1 - (body.perSheet * 1500) / (210 * 297), 9);
  for (const p of sheet!.placements) {
    expect(p.x >= 8 && p.y >= 8 && p.x + p.widthMm <= 202 + 1e-6 && p.y + p.heightMm <= 250 + 1e-6).toBe(
      true,
    );
    for (const { clear: z } of sheet!.marks)
      expect(
        p.x < z.x1 - 1e-6 &&
          z.x0 < p.x + p.widthMm - 1e-6 &&
          p.y < z.y1 - 1e-6 &&
          z.y0 < p.y + p.heightMm - 1e-6,
      ).toBe(false);
  }
  // Without marks and with all of the page there are at least as many.
  expect((await plan({ ...ASK, marks: undefined })).body.perSheet).toBeGreaterThanOrEqual(body.perSheet);
});

test('copies take as many sheets as they need; what is too large and a clipped mark are findings', async () => {
  const { body } = await plan({
    ...ASK,
    marks: { ...KIT, insetLeftMm: 6 },
    items: [
      { id: 'label', widthMm: 50, heightMm: 30, copies: 75 },
      { id: 'banner', widthMm: 400, heightMm: 30, copies: 1 },
    ],
  });
  expect(body.sheets.flatMap((s) => s.placements)).toHaveLength(75);
  expect(body.findings.map((f) => f.code)).toEqual(['too-large', 'marks-clipped', 'marks-clipped']);
});

test.each<[string, object, string]>([
  ['no items', { items: [] }, 'items'],
  [
    'copies and fill',
    { items: [{ id: 'a', widthMm: 5, heightMm: 5, copies: 2, fill: true }] },
    'items.0.copies',
  ],
  [
    'a name twice',
    { items: [1, 2].map(() => ({ id: 'a', widthMm: 5, heightMm: 5, copies: 2 })) },
    'items.1.id',
  ],
  ['a negative gap', { gapMm: -1 }, 'gapMm'],
  ['more printed than there is', { printable: { x0: 0, y0: 0, x1: 300, y1: 200 } }, 'printable'],
  ['nothing in common', { cuttable: { x0: 300, y0: 300, x1: 400, y1: 400 } }, 'cuttable'],
  [
    'more copies than a job has',
    { items: [{ id: 'a', widthMm: 5, heightMm: 5, copies: 1e6 }] },
    'items.0.copies',
  ],
  ['half a mark kit', { marks: { count: 4 } }, 'marks.shape'],
])('%s: refused at its field', async (_, change, field) => {
  expect(await plan({ ...ASK, ...change })).toMatchObject({
    status: 400,
    body: { error: { code: 'invalid-input', field } },
  });
});

test('a sheet of dust is laid out up to the most pieces there may be', async () => {
  const { body } = await plan({
    ...ASK,
    gapMm: 0,
    marks: undefined,
    items: [{ id: 'dot', widthMm: 0.5, heightMm: 0.7, fill: true }],
  });
  expect(body.perSheet).toBe(20_000);
});
