import fc from 'fast-check';

import { seenOn } from '@test/drawn';
import { flatten } from '../drawing';
import { applyAffine, type Rect } from '../geometry';
import { clearZone, markPlaces } from '../marks';
import { TWO_MARKS } from '@test/setups';

import {
  boxOf,
  jobDrawing,
  jobPrint,
  layOutJob,
  pairRefusalText,
  type JobGeometry,
  type JobLayout,
  type JobPiece,
  type JobSheet,
} from '.';

const SHEET: JobSheet = {
  ...{ sheetWidthMm: 210, sheetHeightMm: 297, area: { x0: 5, y0: 5, x1: 205, y1: 292 } },
  marks: TWO_MARKS,
};
const LAYOUT: JobLayout = { gapMm: 3, centre: false, mayTurn: true };

const rectangle = (x0: number, y0: number, x1: number, y1: number) => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];
/** A picture of so many mm whose line runs 2 mm outside its ink, with a hole. */
const piece = (widthMm: number, heightMm: number, more: Partial<JobPiece> = {}): JobPiece => ({
  id: 'A',
  picture: { widthMm, heightMm, at: { x: 0, y: 0 } },
  ink: [rectangle(0, 0, widthMm, heightMm)],
  lines: [
    {
      points: rectangle(-2, -2, widthMm + 2, heightMm + 2),
      areaMm2: (widthMm + 4) * (heightMm + 4),
      hole: false,
    },
    { points: rectangle(4, 4, 6, 6).reverse(), areaMm2: 4, hole: true },
  ],
  bleedMm: 0,
  kind: 'kiss-cut',
  copies: null,
  ...more,
});

const laid = (p: JobPiece, layout: Partial<JobLayout> = {}, sheet = SHEET): JobGeometry => {
  const job = layOutJob([p], { ...LAYOUT, ...layout }, sheet);
  if (!job.ok) throw new Error(job.refusal.code);
  return job.value;
};
const apart = (a: Rect, b: Rect, by: number): boolean =>
  a.x1 + by <= b.x0 + 1e-6 ||
  b.x1 + by <= a.x0 + 1e-6 ||
  a.y1 + by <= b.y0 + 1e-6 ||
  b.y1 + by <= a.y0 + 1e-6;

test('property: pieces keep their gap, stay in what is cut, clear of marks and label, and their lines lie in their room', () => {
  const side = fc.integer({ min: 12, max: 70 });
  fc.assert(
    fc.property(
      fc.record({
        w: side,
        h: side,
        gap: fc.integer({ min: 0, max: 8 }),
        bleed: fc.integer({ min: 0, max: 4 }),
      }),
      fc.record({ centre: fc.boolean(), mayTurn: fc.boolean() }),
      ({ w, h, gap, bleed }, how) => {
        const job = laid(piece(w, h, { bleedMm: bleed }), { gapMm: gap, ...how });
        const zones = markPlaces(TWO_MARKS, SHEET).map((m) => clearZone(TWO_MARKS, m));
        const [placed] = job.sheets as [JobGeometry['sheets'][number]];
        expect(placed.length).toBeGreaterThan(0);
        placed.forEach((p, i) => {
          for (const q of placed.slice(i + 1)) expect(apart(p.box, q.box, gap)).toBe(true);
          for (const z of [...zones, job.label]) expect(apart(p.box, z, 0)).toBe(true);
          expect(p.box.x0).toBeGreaterThanOrEqual(SHEET.area.x0 - 1e-6);
          expect(p.box.y1).toBeLessThanOrEqual(SHEET.area.y1 + 1e-6);
        });
        // Every line, grown by the bleed, lies in the room of its piece.
        const drawing = jobDrawing(job, 0);
        expect(drawing.paths).toHaveLength(2 * placed.length);
        for (const path of drawing.paths) {
          const xy = flatten(path, 0.05);
          const xs = xy.filter((_, k) => k % 2 === 0);
          const ys = xy.filter((_, k) => k % 2 === 1);
          const line = { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) };
          expect(
            placed.some(
              ({ box }) =>
                line.x0 >= box.x0 + bleed - 1e-6 &&
                line.x1 <= box.x1 - bleed + 1e-6 &&
                line.y0 >= box.y0 + bleed - 1e-6 &&
                line.y1 <= box.y1 - bleed + 1e-6,
            ),
          ).toBe(true);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('turned or not, the corners of the art come to the corners of its room', () => {
  const wide = piece(60, 12, { bleedMm: 1 });
  const narrow: JobSheet = { ...SHEET, area: { x0: 5, y0: 5, x1: 55, y1: 292 }, marks: null };
  for (const sheet of [SHEET, narrow]) {
    const { sheets } = laid({ ...wide, copies: 1 }, {}, sheet);
    const [{ map, box }] = sheets[0]! as [JobGeometry['sheets'][number][number]];
    const own = boxOf(wide);
    const corners = rectangle(own.x0, own.y0, own.x1, own.y1).map((p) => applyAffine(map, p));
    expect(Math.min(...corners.map((p) => p.x))).toBeCloseTo(box.x0, 9);
    expect(Math.max(...corners.map((p) => p.x))).toBeCloseTo(box.x1, 9);
    expect(Math.min(...corners.map((p) => p.y))).toBeCloseTo(box.y0, 9);
    expect(Math.max(...corners.map((p) => p.y))).toBeCloseTo(box.y1, 9);
    // Turned about, never mirrored.
    expect(map.a11 * map.a22 - map.a12 * map.a21).toBe(1);
  }
});

test('holes are cut before what holds them; each kind of line has its own layer and pen', () => {
  const drawing = jobDrawing(laid(piece(30, 30, { copies: 2 })), 0);
  const areas = drawing.paths.map((p) => Math.abs(flatten(p, 0.05)[2]! - flatten(p, 0.05)[0]!));
  expect(areas.map((w) => w < 5)).toEqual([true, false, true, false]);
  const score = jobDrawing(laid(piece(30, 30, { kind: 'score', copies: 1 })), 0);
  expect([score.layers[0]!.name, score.paths[0]!.pen]).toEqual(['score', 3]);
  expect(drawing.paths[0]!.pen).not.toBe(score.paths[0]!.pen);
});

test('more copies than a sheet holds go on several, and each sheet says which it is', () => {
  const job = laid(piece(80, 80, { copies: 11 }));
  expect(job.sheets.reduce((sum, s) => sum + s.length, 0)).toBe(11);
  expect(job.sheets.length).toBeGreaterThan(1);
  const words = {
    number: 'P0012',
    name: 'jar labels',
    date: '1 May 2026',
    qr: [
      [true, false],
      [false, true],
    ],
  };
  const texts = seenOn(jobPrint(job, words, 1)).flatMap((m) => (m.kind === 'text' ? [m.text] : []));
  expect(texts).toContain(`P0012, sheet 2 of ${job.sheets.length}`);
});

test.each([
  [piece(400, 20), SHEET, 'no-room', /One piece needs 404 × 24 mm/],
  [piece(30, 30, { lines: [] }), SHEET, 'no-line', /nothing to cut/],
  [
    piece(10, 10),
    { ...SHEET, area: { x0: 0, y0: 0, x1: 36, y1: 36 }, marks: null },
    'no-label',
    /free corner/,
  ],
] as const)('what does not go is refused with its reason', (p, sheet, code, words) => {
  const job = layOutJob([p], LAYOUT, sheet);
  if (job.ok) throw new Error('laid out');
  expect(job.refusal.code).toBe(code);
  expect(pairRefusalText(job.refusal)).toMatch(words);
});
