import fc from 'fast-check';

import { flatten } from '../drawing';

import {
  AS_LAID_OUT,
  CUT_ORDER,
  cuttingCautions,
  jobDrawing,
  layOutJob,
  LINE_KINDS,
  passesOf,
  secondLine,
  type Cutting,
  type JobGeometry,
  type JobPiece,
} from '.';

/* A print cut another way: what is cut changes, where lines lie never does. */

const square = (x0: number, y0: number, x1: number, y1: number) => [
  { x: x0, y: y0 },
  { x: x1, y: y0 },
  { x: x1, y: y1 },
  { x: x0, y: y1 },
];
const piece = (id: string, more: Partial<JobPiece> = {}): JobPiece => ({
  id,
  picture: { widthMm: 30, heightMm: 20, at: { x: 0, y: 0 } },
  ink: [square(0, 0, 30, 20)],
  lines: [
    { points: square(0, 0, 30, 20), areaMm2: 600, hole: false },
    { points: square(5, 5, 9, 9).reverse(), areaMm2: 16, hole: true },
  ],
  ...{ bleedMm: 0, kind: 'kiss-cut', copies: 2 },
  ...more,
});
const SHEET = {
  sheetWidthMm: 210,
  sheetHeightMm: 297,
  area: { x0: 5, y0: 5, x1: 205, y1: 292 },
  marks: null,
};
const laid = (pieces: readonly JobPiece[]): JobGeometry => {
  const job = layOutJob(pieces, { gapMm: 3, centre: false, mayTurn: false }, SHEET);
  if (!job.ok) throw new Error(job.refusal.code);
  return job.value;
};
const through = piece('A');
const SECOND: JobPiece = {
  ...through,
  second: { byMm: 3, kind: 'cut-through', lines: secondLine(through.lines, 3) },
};
const layersOf = (job: JobGeometry, cutting?: Partial<Cutting>) =>
  jobDrawing(job, 0, { ...AS_LAID_OUT, ...cutting }).paths.map((p) => p.layer);

test('a second line lies so far outside, takes its room, and is cut through after the kiss cut', () => {
  const job = laid([SECOND]);
  const [a, b] = job.sheets[0]!;
  expect(a!.box.x1 - a!.box.x0).toBeCloseTo(36, 2);
  expect(Math.max(b!.box.x0 - a!.box.x1, b!.box.y0 - a!.box.y1)).toBeCloseTo(3, 6);
  expect(layersOf(job)).toEqual([...Array<string>(4).fill('kiss-cut'), 'cut-through', 'cut-through']);
  // Rounded corners: 3 mm from a corner along its bisector as along its sides (a circle's arc).
  const [line] = secondLine(through.lines, 3);
  const far = (x: number, y: number) => Math.min(...line!.points.map((p) => Math.hypot(p.x - x, p.y - y)));
  expect(far(0, 0)).toBeGreaterThan(2.97);
  expect(line!.areaMm2).toBeCloseTo(600 + 3 * 100 + Math.PI * 9, 0);
});

test('kinds, order, holes and passes are as they are said', () => {
  const job = laid([SECOND]);
  const holes = { piece: 'A', role: 'holes', kind: 'none' } as const;
  expect(layersOf(job, { kinds: [holes] })).toHaveLength(4);
  expect(
    layersOf(job, {
      kinds: [holes, { piece: 'A', role: 'outline', kind: 'score' }],
      sequence: ['cut-through'],
    }),
  ).toEqual(['cut-through', 'cut-through', 'score', 'score']);
  const sizes = (outerFirst: boolean) =>
    jobDrawing(job, 0, { ...AS_LAID_OUT, outerFirst })
      .paths.filter((p) => p.layer === 'kiss-cut')
      .map((p) => {
        const xs = flatten(p, 0.05).filter((_, i) => i % 2 === 0);
        return Math.round(Math.max(...xs) - Math.min(...xs));
      });
  expect(sizes(false)).toEqual([4, 30, 4, 30]);
  expect(sizes(true)).toEqual([30, 4, 30, 4]);
  const paused = { kind: 'cut-through', times: 3, pause: true } as const;
  const drawing = jobDrawing(job, 0, { ...AS_LAID_OUT, passes: [paused] });
  expect(drawing.layers.map((l) => l.name)).toEqual([
    'kiss-cut',
    'cut-through',
    'cut-through-pass-2',
    'cut-through-pass-3',
  ]);
  const pens = new Set(drawing.paths.map((p) => p.pen));
  expect(pens.size).toBe(4);
  expect(layersOf(job, { passes: [{ ...paused, pause: false }] })).toHaveLength(4 + 6);
});

test('property: whatever way it is cut, no line lies elsewhere, and each as often as its passes say', () => {
  const kind = fc.constantFrom(...LINE_KINDS);
  const cutting: fc.Arbitrary<Cutting> = fc.record({
    kinds: fc.array(
      fc.record({
        piece: fc.constantFrom('A', 'B'),
        role: fc.constantFrom('outline', 'holes', 'second'),
        kind: fc.constantFrom(...LINE_KINDS, 'none'),
      }),
      { maxLength: 6 },
    ),
    sequence: fc.uniqueArray(kind),
    outerFirst: fc.boolean(),
    passes: fc.uniqueArray(fc.record({ kind, times: fc.integer({ min: 1, max: 4 }), pause: fc.boolean() }), {
      selector: (p) => p.kind,
    }),
    left: fc.array(fc.record({ sheet: fc.constant(0), index: fc.integer({ min: 0, max: 5 }) })),
    tools: fc.constant([]),
  });
  const job = laid([SECOND, piece('B', { kind: 'pen', copies: 3 })]);
  const key = (p: { start: { x: number; y: number } }) => `${p.start.x.toFixed(4)} ${p.start.y.toFixed(4)}`;
  const all = new Set(jobDrawing(job, 0).paths.map(key));
  fc.assert(
    fc.property(cutting, (how) => {
      const { paths } = jobDrawing(job, 0, how);
      const counts = new Map<string, number>();
      for (const path of paths) {
        expect(all.has(key(path))).toBe(true);
        counts.set(key(path), (counts.get(key(path)) ?? 0) + 1);
      }
      for (const path of paths) {
        const of = LINE_KINDS.find((k) => path.layer.startsWith(k))!;
        expect(counts.get(key(path))).toBe(how.passes.find((p) => p.kind === of)?.times ?? 1);
      }
      // Passes run in one order, each with a pen that no other kind has.
      const order = passesOf(how);
      const at = paths.map((p) => order.findIndex((o) => o.layer === p.layer));
      expect(at).toEqual(at.toSorted((a, b) => a - b));
      const pens = new Map(order.map((o) => [o.layer, o.pen]));
      expect(new Set(pens.values()).size).toBe(pens.size);
    }),
    { numRuns: 100 },
  );
});

test.each<[string, Partial<Cutting>, readonly RegExp[]]>([
  ['as laid out', {}, []],
  ['outline first, then score', { sequence: ['cut-through', 'kiss-cut'] }, [/Cut through before kiss-cut/]],
  ['holes last', { outerFirst: true }, [/Outlines before holes/]],
  [
    'nothing at all',
    { kinds: (['outline', 'holes', 'second'] as const).map((role) => ({ piece: 'A', role, kind: 'none' })) },
    [/Nothing is cut/],
  ],
])('%s: its cautions', (_, how, words) => {
  const said = cuttingCautions({ ...AS_LAID_OUT, ...how }, { pieces: [SECOND] });
  expect(said).toHaveLength(words.length);
  words.forEach((w, i) => expect(said[i]).toMatch(w));
});

test('the order loosens nothing before its time', () => {
  expect(CUT_ORDER.toSorted()).toEqual([...LINE_KINDS].sort());
  expect(CUT_ORDER.at(-1)).toBe('cut-through');
});
