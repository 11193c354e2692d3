import fc from 'fast-check';

import type { CheckContext, Finding } from '@/core/artwork/checks';
import { applyAffine, type Affine } from '@/core/geometry';
import { layOutJob, type JobGeometry, type JobPiece } from '@/core/sheetJob';

import {
  drawnMatrix,
  findingsOnce,
  insetWords,
  jobAnswer,
  jobFindings,
  sheetView,
  wasteShare,
} from './sheet.view';

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
