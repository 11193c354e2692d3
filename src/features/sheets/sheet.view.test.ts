import fc from 'fast-check';

import type { CheckContext, Finding } from '@/core/artwork/checks';
import { applyAffine, type Affine } from '@/core/geometry';
import {
  findingsOnce,
  jobFindings,
  layOutJob,
  secondLine,
  type JobGeometry,
  type JobPiece,
} from '@/core/sheetJob';

import { drawnMatrix, insetWords, jobAnswer, sheetView, wasteShare } from './sheet.view';

const square = (x0: number, y0: number, x1: number, y1: number) => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];
const PIECE: JobPiece = {
  id: 'A',
  picture: { widthMm: 40, heightMm: 30, at: { x: 0, y: 0 } },
  ink: [square(0, 0, 40, 30)],
  lines: [{ points: square(0, 0, 40, 30), areaMm2: 1200, hole: false }],
  bleedMm: 0,
  kind: 'kiss-cut',
  copies: 4,
};
const SHEET = {
  ...{ sheetWidthMm: 200, sheetHeightMm: 300, area: { x0: 5, y0: 5, x1: 195, y1: 295 }, marks: null },
};
function job(piece: Partial<JobPiece> = {}, copies: number | null = 4): JobGeometry {
  const laid = layOutJob(
    [{ ...PIECE, ...piece, copies }],
    { gapMm: 3, centre: false, mayTurn: false },
    SHEET,
  );
  if (!laid.ok) throw new Error(laid.refusal.code);
  return laid.value;
}
const CONTEXT: CheckContext = {
  media: { widthMm: 200, heightMm: 300 },
  printable: { x0: 3, y0: 3, x1: 197, y1: 297 },
  cuttable: SHEET.area,
  ...{ marks: [], driverPage: null, cutterPage: null, neededMm: null, bleedMm: null, borderMm: null },
  ...{ smallestMm: 3, nearestMm: 1 },
};

test('property: a picture that counts downwards lands where its own frame says', () => {
  const figure = fc.double({ min: -200, max: 200, noNaN: true });
  const turned = fc.constantFrom([1, 0, 0, 1], [0, -1, 1, 0]);
  fc.assert(
    fc.property(turned, figure, figure, figure, figure, ([a11, a12, a21, a22], tx, ty, px, py) => {
      const map: Affine = { a11: a11!, a12: a12!, a21: a21!, a22: a22!, tx, ty };
      const [heightMm, pageMm] = [30, 300];
      const [a, b, c, d, e, f] = drawnMatrix(map, heightMm, pageMm).slice(7, -1).split(' ').map(Number) as [
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      // A place of the picture, counted from its upper-left corner downwards.
      const [u, v] = [px, heightMm - py];
      const on = applyAffine(map, { x: px, y: py });
      expect(a * u + c * v + e).toBeCloseTo(on.x, 2);
      expect(b * u + d * v + f).toBeCloseTo(pageMm - on.y, 2);
    }),
  );
});

test('every piece has its room and its lines, near edge below', () => {
  const view = sheetView(job(), 0);
  expect(view.placed).toHaveLength(4);
  expect(view.lines.match(/M/g)).toHaveLength(4);
  // The lowest row lies at the far end of the drawn page.
  expect(Math.max(...view.placed.map((p) => p.box.y1))).toBeGreaterThan(270);
  expect(wasteShare(job())).toBeCloseTo(1 - (4 * 1200) / 60_000, 9);
});

test('a good job has no findings; bleed that hides too little, and lines that are too small, are found', () => {
  expect(jobFindings(job(), CONTEXT, null)).toEqual([]);
  const codes = (of: JobGeometry, needed: number | null) =>
    [...new Set(jobFindings(of, CONTEXT, needed).map((f) => f.code))].sort();
  expect(codes(job({ bleedMm: 0.2 }), 0.5)).toContain('bleed-too-small');
  expect(codes(job({ bleedMm: 1 }), 0.5)).toEqual([]);
  const spot = { points: square(10, 10, 11, 11).reverse(), areaMm2: 1, hole: true };
  expect(codes(job({ lines: [...PIECE.lines, spot] }), null)).toEqual(['too-small']);
  // A hole was asked about when the line was made.
  const hole = { points: square(10, 10, 20, 20).reverse(), areaMm2: 100, hole: true };
  expect(codes(job({ lines: [...PIECE.lines, hole] }), null)).toEqual([]);
});

test('what is said of every copy is said once', () => {
  const finding = (message: string): Finding => ({
    code: 'too-small',
    severity: 'look',
    where: null,
    message,
  });
  expect(findingsOnce([finding('a'), finding('b'), finding('a'), finding('a')])).toMatchObject([
    { message: 'a', times: 3 },
    { message: 'b', times: 1 },
  ]);
});

test.each([
  ['draft', 1, [], /^One piece on one sheet\. Each takes 40\.00 mm × 30\.00 mm\. Look at it/],
  ['draft', 4, [], /^4 pieces on one sheet/],
  ['frozen', 4, [], /^P0007 is frozen: print it at 100 %/],
  ['closed', 4, [], /^P0007 is closed: 4 pieces/],
  [
    'draft',
    4,
    [{ code: 'outside-cuttable', severity: 'stop', where: null, message: 'It leaves the sheet.' }],
    /and it would be spoiled: It leaves the sheet\./,
  ],
] as const)('a %s of %d in a sentence', (stage, copies, findings, words) => {
  expect(jobAnswer({ label: 'P0007', stage }, job({}, copies), findings, 'mm')).toMatch(words);
});

test('what insets cost is said with who sets the limit', () => {
  const cost = {
    fromMm: 14,
    toMm: 11,
    byMm: 3,
    pieces: 20,
    then: 23,
    leastMm: 9,
    because: 'printer',
  } as const;
  expect(insetWords(cost, 'mm')).toBe(
    'Marks 11.00 mm from the edge instead of 14.00 mm would give 3 more pieces a sheet; the printer cannot print them whole closer than 9.00 mm.',
  );
  expect(insetWords({ ...cost, then: 21, because: 'sensor' }, 'mm')).toMatch(
    /one more piece a sheet; closer than 9\.00 mm the sensor may take the edge for one\.$/,
  );
});

/* Jobs that would be spoiled, and good ones, as they are laid out: what the page says before anything is printed. */

const B: JobPiece = {
  ...PIECE,
  id: 'B',
  picture: { ...PIECE.picture, widthMm: 25, heightMm: 25 },
  copies: 2,
};
const SMALL = {
  ...B,
  ink: [square(0, 0, 25, 25)],
  lines: [{ points: square(0, 0, 25, 25), areaMm2: 625, hole: false }],
};
const sheetJob = (pieces: readonly JobPiece[], layout: Partial<JobGeometry['layout']> = {}): JobGeometry => {
  const laid = layOutJob(pieces, { gapMm: 3, centre: false, mayTurn: false, ...layout }, SHEET);
  if (!laid.ok) throw new Error(laid.refusal.code);
  return laid.value;
};
const ringed = (byMm: number): JobPiece => ({
  ...PIECE,
  second: { byMm, kind: 'cut-through', lines: secondLine(PIECE.lines, byMm) },
});
const holed = (...holes: number[][]): JobPiece => ({
  ...PIECE,
  lines: [
    ...PIECE.lines,
    ...holes.map(([x, y, w]) => ({
      points: square(x!, y!, x! + w!, y! + w!).reverse(),
      areaMm2: w! * w!,
      hole: true,
    })),
  ],
});
const moved = (index: number, dxMm: number, dyMm: number) => ({ nudged: [{ sheet: 0, index, dxMm, dyMm }] });
const bow = {
  points: [square(0, 0, 40, 30)[0]!, { x: 40, y: 30 }, { x: 40, y: 0 }, { x: 0, y: 30 }],
  areaMm2: 600,
  hole: false,
};

test.each<[string, JobGeometry, string]>([
  ['a piece pushed over its neighbour', sheetJob([PIECE], moved(0, 20, 5)), 'too-near'],
  ['a piece pushed onto its neighbour', sheetJob([PIECE], moved(0, 43, 0)), 'doubled-line'],
  ['a piece pushed against its neighbour', sheetJob([PIECE], moved(0, 2.5, 0)), 'too-near'],
  ['no gap between pieces', sheetJob([PIECE], { gapMm: 0.4 }), 'too-near'],
  ['pieces that share an edge', sheetJob([PIECE], { gapMm: 0 }), 'doubled-line'],
  ['a second line too near the first', sheetJob([ringed(0.5)]), 'too-near'],
  ['a hole nobody can weed', sheetJob([holed([10, 10, 1])]), 'too-small'],
  ['a hole beside the edge', sheetJob([holed([0.4, 10, 8])]), 'too-near'],
  ['two holes side by side', sheetJob([holed([10, 10, 6], [16.5, 10, 6])]), 'too-near'],
  ['one hole twice', sheetJob([holed([10, 10, 8], [10, 10, 8])]), 'doubled-line'],
  ['a line that crosses itself', sheetJob([{ ...PIECE, lines: [bow] }]), 'crosses-itself'],
  ['a bleed that hides too little', sheetJob([{ ...PIECE, bleedMm: 0.2 }]), 'bleed-too-small'],
  [
    'the bleed of the second piece only',
    sheetJob([
      { ...PIECE, bleedMm: 1 },
      { ...SMALL, bleedMm: 0.3 },
    ]),
    'bleed-too-small',
  ],
  [
    'a spoiled piece among good ones',
    sheetJob([PIECE, { ...SMALL, lines: [{ points: square(0, 0, 2, 2), areaMm2: 4, hole: false }] }]),
    'too-small',
  ],
])('%s is found before it is printed', (_, geometry, code) => {
  const codes = jobFindings(geometry, { ...CONTEXT, borderMm: null }, 0.5).map((f) => f.code);
  expect(codes).toContain(code);
});

test.each<[string, JobGeometry]>([
  ['one piece', sheetJob([{ ...PIECE, copies: 1 }])],
  ['a sheet full', sheetJob([{ ...PIECE, copies: null }])],
  ['three sheets of the same', sheetJob([{ ...PIECE, copies: 100 }])],
  ['two kinds of artwork', sheetJob([PIECE, SMALL])],
  ['a piece left out', sheetJob([PIECE, { ...SMALL, copies: 0, bleedMm: 0.1 }])],
  ['a kiss cut with a cut through round it', sheetJob([ringed(3)])],
  ['true holes', sheetJob([holed([8, 8, 6], [24, 8, 6])])],
  ['enough bleed', sheetJob([{ ...PIECE, bleedMm: 1.5 }])],
  ['a witness beside it', sheetJob([PIECE], { witness: true })],
  ['a piece moved into the open', sheetJob([{ ...PIECE, copies: 1 }], moved(0, 30, 60))],
])('%s: nothing to find', (_, geometry) => {
  expect(jobFindings(geometry, CONTEXT, 0.5)).toEqual([]);
});

test('what is found says on which sheet it is', () => {
  const two = sheetJob([{ ...PIECE, copies: 60 }]);
  expect(two.sheets.length).toBeGreaterThan(1);
  const last = two.sheets.length - 1;
  const pushed = sheetJob([{ ...PIECE, copies: 60 }], {
    nudged: [{ sheet: last, index: 0, dxMm: 20, dyMm: 0 }],
  });
  const found = jobFindings(pushed, CONTEXT, 0.5);
  expect(new Set(found.map((f) => f.sheet))).toEqual(new Set([last]));
});
