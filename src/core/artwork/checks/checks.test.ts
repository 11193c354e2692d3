import type { Point, Rect } from '../../geometry';

import { checkPair, type CheckContext, type CheckedLine, type CheckedPrint, type FindingCode } from '.';

/* Twenty spoiled jobs, each caught by its check, and ten good ones with no finding. */

const A4 = { widthMm: 210, heightMm: 297 };
const AREA: Rect = { x0: 8, y0: 8, x1: 202, y1: 289 };
const MARKS = [
  [18, 18],
  [192, 18],
  [18, 279],
  [192, 279],
].map(([x, y]) => ({ x: x!, y: y!, sizeMm: 8, clearMm: 4 }));
const CONTEXT: CheckContext = {
  ...{ media: A4, printable: AREA, cuttable: AREA, marks: MARKS },
  ...{ driverPage: null, cutterPage: null, neededMm: null, bleedMm: null, borderMm: null },
  ...{ smallestMm: 3, nearestMm: 1 },
};

const rect = (x: number, y: number, w: number, h: number, layer = 'cut'): CheckedLine => ({
  points: [
    { x, y },
    { x: x + w, y },
    { x: x + w, y: y + h },
    { x, y: y + h },
  ],
  ...{ closed: true, layer },
});
const disc = (x: number, y: number, r: number, layer = 'cut'): CheckedLine => ({
  points: Array.from({ length: 90 }, (_, i) => ({
    x: x + r * Math.cos((Math.PI * i) / 45),
    y: y + r * Math.sin((Math.PI * i) / 45),
  })),
  ...{ closed: true, layer },
});
const open = (points: Point[], layer = 'cut'): CheckedLine => ({ points, closed: false, layer });
const GRID = [0, 1, 2].flatMap((i) => [0, 1, 2].map((j) => rect(40 + 45 * i, 60 + 60 * j, 40, 50)));

/** A print, dark where it says, at under half a millimetre. */
function print(inked: (p: Point) => boolean, change: Partial<CheckedPrint> = {}): CheckedPrint {
  const [width, height] = [525, 743];
  const values = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1)
      if (inked({ x: (x + 0.5) * 0.4, y: 297 - (y + 0.5) * (297 / height) })) values[y * width + x] = 220;
  return { page: A4, ink: { width, height, values }, bitmapsDpi: [300], ...change };
}
const inRect = (p: Point, x: number, y: number, w: number, h: number): boolean =>
  p.x > x && p.x < x + w && p.y > y && p.y < y + h;
const crossAt = (p: Point): boolean =>
  MARKS.some(
    (m) =>
      Math.max(Math.abs(p.x - m.x), Math.abs(p.y - m.y)) < 4 &&
      Math.min(Math.abs(p.x - m.x), Math.abs(p.y - m.y)) < 0.5,
  );
/** Art 30 mm square printed to `grow` mm past the piece at (60, 100), with the marks. */
const art = (grow: number) => (p: Point) =>
  crossAt(p) || inRect(p, 60 - grow, 100 - grow, 30 + 2 * grow, 30 + 2 * grow);
const PIECE = [rect(60, 100, 30, 30)];

interface Job {
  readonly lines?: readonly CheckedLine[];
  readonly context?: Partial<CheckContext>;
  readonly print?: CheckedPrint;
  readonly page?: { widthMm: number; heightMm: number };
}
const check = ({ lines = GRID, context = {}, print: of, page }: Job) =>
  checkPair(lines, page ?? null, of ?? null, { ...CONTEXT, ...context });

const SPOILED: readonly (readonly [string, FindingCode, () => Job])[] = [
  ['a piece in a mark’s zone', 'in-clear-zone', () => ({ lines: [rect(24, 20, 40, 50)] })],
  [
    'colour printed beside a mark',
    'in-clear-zone',
    () => ({ lines: PIECE, print: print((p) => art(2)(p) || inRect(p, 23, 16, 3, 3)) }),
  ],
  [
    'a piece beyond the printer’s edge',
    'outside-printable',
    () => ({ lines: [rect(20, 100, 30, 40)], context: { printable: { ...AREA, x0: 25 } } }),
  ],
  [
    'a piece beyond the cutter’s reach',
    'outside-cuttable',
    () => ({ lines: [rect(150, 100, 40, 40)], context: { cuttable: { ...AREA, x1: 180 } } }),
  ],
  ['a line drawn twice', 'doubled-line', () => ({ lines: [...GRID, rect(40, 60, 40, 50)] })],
  [
    'neighbours that share an edge',
    'doubled-line',
    () => ({ lines: [rect(40, 60, 40, 50), rect(80, 60, 40, 50)] }),
  ],
  [
    'an open line',
    'open-path',
    () => ({
      lines: [
        open([
          { x: 40, y: 60 },
          { x: 80, y: 60 },
          { x: 80, y: 90 },
          { x: 40.6, y: 60.8 },
        ]),
      ],
    }),
  ],
  [
    'a bow tie',
    'crosses-itself',
    () => ({
      lines: [
        {
          ...rect(40, 60, 40, 40),
          points: [
            { x: 40, y: 60 },
            { x: 80, y: 100 },
            { x: 80, y: 60 },
            { x: 40, y: 100 },
          ],
        },
      ],
    }),
  ],
  [
    'two squares across each other',
    'lines-cross',
    () => ({ lines: [rect(40, 60, 40, 40), rect(60, 80, 40, 40)] }),
  ],
  [
    'a long bar across another at right angles',
    'lines-cross',
    () => ({ lines: [rect(40, 100, 100, 10), rect(85, 60, 10, 90)] }),
  ],
  [
    'two discs that share a sliver',
    'lines-cross',
    () => ({ lines: [disc(80, 150, 20), disc(119, 150, 20)] }),
  ],
  [
    'an open cut across a piece',
    'lines-cross',
    () => ({
      lines: [
        rect(40, 60, 40, 50),
        open([
          { x: 30, y: 80 },
          { x: 90, y: 82 },
        ]),
      ],
    }),
  ],
  [
    'the original left under its border',
    'island',
    () => ({ lines: [disc(100, 150, 30), disc(100, 150, 27)] }),
  ],
  ['a hole that may be an island', 'island', () => ({ lines: [rect(60, 100, 60, 60), disc(90, 130, 8)] })],
  ['dust', 'too-small', () => ({ lines: [...GRID, rect(20, 40, 2, 6)] })],
  [
    'pieces too near each other',
    'too-near',
    () => ({ lines: [rect(40, 60, 40, 50), rect(80.4, 60, 40, 50)] }),
  ],
  ['too little bleed by figures', 'bleed-too-small', () => ({ context: { neededMm: 1.5, bleedMm: 1 } })],
  [
    'too little bleed in the print',
    'bleed-too-small',
    () => ({ lines: PIECE, print: print(art(0.5)), context: { neededMm: 2 } }),
  ],
  ['too narrow a border by figures', 'border-too-small', () => ({ context: { neededMm: 1.5, borderMm: 1 } })],
  [
    'too narrow a border in the print',
    'border-too-small',
    () => ({ lines: PIECE, print: print(art(-0.8)), context: { neededMm: 2 } }),
  ],
  [
    'a driver set to another page',
    'page-differs',
    () => ({ context: { driverPage: { widthMm: 215.9, heightMm: 279.4 } } }),
  ],
  ['a cut file of another page', 'page-differs', () => ({ page: { widthMm: 297, heightMm: 210 } })],
  [
    'an enlarged bitmap',
    'bitmap-enlarged',
    () => ({ lines: PIECE, print: print(art(2), { bitmapsDpi: [60] }) }),
  ],
  [
    'two kinds of lines and no names',
    'line-kind',
    () => ({ lines: [rect(40, 60, 40, 50, '#ff0000'), rect(90, 60, 40, 50, '#00ff00')] }),
  ],
  ['marks over the printer’s edge', 'marks-clipped', () => ({ context: { printable: { ...AREA, y0: 16 } } })],
  [
    'marks that were not printed',
    'marks-hard-to-read',
    () => ({ lines: PIECE, print: print((p) => art(2)(p) && !crossAt(p)) }),
  ],
  [
    'tiny marks',
    'marks-hard-to-read',
    () => ({ context: { marks: MARKS.map((m) => ({ ...m, sizeMm: 2 })) } }),
  ],
  [
    'the cut file of another print',
    'not-this-print',
    () => ({ lines: [rect(120, 200, 30, 30)], print: print(art(2)) }),
  ],
];

test.each(SPOILED)('%s: %s', (_, code, job) => {
  const found = check(job());
  expect(found.map((f) => f.code)).toContain(code);
  for (const f of found) expect(f.message.length).toBeGreaterThan(20);
});

const GOOD: readonly (readonly [string, () => Job])[] = [
  ['nine cards', () => ({})],
  ['a round label', () => ({ lines: [disc(105, 150, 40)] })],
  [
    'cards scored in the middle',
    () => ({
      lines: GRID.flatMap((c) => [
        c,
        open(
          [
            { x: c.points[0]!.x, y: c.points[0]!.y + 25 },
            { x: c.points[1]!.x, y: c.points[0]!.y + 25 },
          ],
          'score',
        ),
      ]),
    }),
  ],
  [
    'stickers kissed out of a card that is cut through',
    () => ({ lines: [disc(60, 100, 15, 'kiss cut'), rect(40, 80, 80, 60, 'cut through')] }),
  ],
  [
    'a fold right across a card',
    () => ({
      lines: [
        rect(40, 60, 40, 50),
        open(
          [
            { x: 38, y: 85 },
            { x: 82, y: 85 },
          ],
          'fold',
        ),
      ],
    }),
  ],
  [
    'a curve that crosses itself by less than a knife follows',
    () => ({
      lines: [
        {
          ...rect(40, 60, 40, 40),
          points: [
            { x: 40, y: 60 },
            { x: 80, y: 60 },
            { x: 80.02, y: 60.03 },
            { x: 79.99, y: 60.01 },
            { x: 80, y: 100 },
            { x: 40, y: 100 },
          ],
        },
      ],
    }),
  ],
  [
    'kiss cut and cut through, named',
    () => ({ lines: [disc(105, 150, 30, 'kiss cut'), rect(20, 200, 60, 50, 'cut through')] }),
  ],
  ['enough bleed and border by figures', () => ({ context: { neededMm: 1, bleedMm: 2, borderMm: 1.5 } })],
  ['enough bleed in the print', () => ({ lines: PIECE, print: print(art(2.5)), context: { neededMm: 2 } })],
  ['a wide border in the print', () => ({ lines: PIECE, print: print(art(-3)), context: { neededMm: 2 } })],
  [
    'pages that agree',
    () => ({ page: A4, context: { driverPage: A4, cutterPage: { widthMm: 210.2, heightMm: 297 } } }),
  ],
  ['a sheet without marks', () => ({ lines: [rect(10, 10, 190, 277)], context: { marks: [] } })],
  ['pieces one millimetre apart', () => ({ lines: [rect(40, 60, 40, 50), rect(81.05, 60, 40, 50)] })],
  [
    'a closed line whose ends meet without a closing stroke',
    () => ({ lines: [open([...GRID[0]!.points, GRID[0]!.points[0]!])] }),
  ],
];

test.each(GOOD)('%s: nothing to find', (_, job) => {
  expect(check(job())).toEqual([]);
});

test('what spoils the job comes first, and a hundred of a kind are not all told', () => {
  const found = check({
    lines: [...Array.from({ length: 40 }, (_, i) => rect(40 + 4 * i, 60, 1.5, 2)), rect(0, 100, 30, 30)],
  });
  expect(found[0]!.severity).toBe('stop');
  expect(found.filter((f) => f.code === 'too-small')).toHaveLength(20);
});

test('a punched card: its holes are holes and no other print, and colour goes on into them or keeps away', () => {
  const lines = [rect(60, 100, 60, 30), disc(75, 115, 5), disc(90, 115, 5), disc(105, 115, 5)];
  const card = (holes: number) => (p: Point) =>
    crossAt(p) ||
    (inRect(p, 58, 98, 64, 34) && [75, 90, 105].every((x) => Math.hypot(p.x - x, p.y - 115) > holes));
  const codes = (holes: number) => [
    ...new Set(check({ lines, print: print(card(holes)), context: { neededMm: 1.5 } }).map((f) => f.code)),
  ];
  expect(codes(2)).toEqual(['island']);
  expect(codes(5)).toEqual(['bleed-too-small', 'island']);
  expect(codes(5.8)).toEqual(['border-too-small', 'island']);
  expect(codes(7)).toEqual(['island']);
});
