import fc from 'fast-check';

import { writeDrawing } from '../drawing/file';
import type { Affine } from '../geometry';
import type { MarkKit } from '../marks';
import { cutLayer } from '../proof';
import { asDxf, asHpgl, asSvg, squareAt, type Writer } from '@test/foreignFiles';
import { linesOfDxf, linesOfHpgl, linesOfSvg, type Line } from '@test/machine/readers';
import { proofSheet } from '@test/sheets';
import { CUT_FORMATS, type CutFormat } from '@/core/drawing/formats';

import {
  correctDaily,
  formatsIn,
  frameMap,
  HEADINGS,
  inFrame,
  isMirrored,
  perpendicular,
  sectionFrame,
  sectionMap,
  SHEET_FRAME,
  type Daily,
  type FileFrame,
} from '.';

const WRITE: Readonly<Record<CutFormat, Writer>> = { svg: asSvg, dxf: asDxf, hpgl: asHpgl };
const READ: Readonly<Record<CutFormat, (text: string) => Line[]>> = {
  svg: linesOfSvg,
  dxf: linesOfDxf,
  hpgl: linesOfHpgl,
};

const KIT: MarkKit = {
  ...{ count: 4, shape: 'square', sizeMm: 6, lineMm: 0.5, colour: '#000000', clearMm: 3 },
  ...{ insetLeftMm: 12, insetRightMm: 14, insetNearMm: 16, insetFarMm: 18 },
  ...{ leading: 'near left', leadSign: 'larger', everyMm: null, printerEdgeMm: 4, sensorEdgeMm: 6 },
};
const SHEET = { sheetWidthMm: 210, sheetHeightMm: 300, marks: KIT };

/** Where the cut has to be told to go, written out: 0.4 mm left, 0.3 further, turned and stretched a little. */
const T: Affine = { a11: 1.001, a12: -0.0008, a21: 0.0011, a22: 0.9993, tx: 0.4, ty: -0.3 };
const commanded = (x: number, y: number): [number, number] => {
  const det = T.a11 * T.a22 - T.a12 * T.a21;
  const [u, v] = [x - T.tx, y - T.ty];
  return [(T.a22 * u - T.a12 * v) / det, (T.a11 * v - T.a21 * u) / det];
};

/** A label and a long line, on the sheet. */
const JOB: readonly Line[] = [
  [40, 50, 90, 50],
  [90, 50, 90, 120.5],
  [90, 120.5, 40, 50],
  [60, 200, 150, 270],
];

/** Each frame by hand: sheet to file and back. */
type Way = (x: number, y: number) => [number, number];
const FRAMES: readonly [string, FileFrame, Way, Way][] = [
  ['x across', SHEET_FRAME, (x, y) => [x, y], (x, y) => [x, y]],
  [
    'x along the feed',
    { xRuns: 'further', yRuns: 'left', zero: { at: 'corner', corner: 'near right' } },
    (x, y) => [y, 210 - x],
    (x, y) => [210 - y, x],
  ],
  [
    'zero at the leading mark',
    { xRuns: 'right', yRuns: 'further', zero: { at: 'mark' } },
    (x, y) => [x - 12, y - 16],
    (x, y) => [x + 12, y + 16],
  ],
  [
    'turned, zero in the middle',
    { xRuns: 'nearer', yRuns: 'right', zero: { at: 'middle' } },
    (x, y) => [150 - y, x - 105],
    (x, y) => [y + 105, 150 - x],
  ],
  [
    'mirrored, zero typed',
    { xRuns: 'left', yRuns: 'further', zero: { at: 'typed', xMm: 200, yMm: 10 } },
    (x, y) => [200 - x, y - 10],
    (x, y) => [200 - x, y + 10],
  ],
];

const through = (lines: readonly Line[], way: Way): Line[] =>
  lines.map(([x0, y0, x1, y1]) => [...way(x0, y0), ...way(x1, y1)] as const);

/** The farthest that two lists of lines are apart, end by end, mm. */
const apart = (a: readonly Line[], b: readonly Line[]): number => {
  expect(a).toHaveLength(b.length);
  return Math.max(...a.flatMap((line, i) => line.map((v, j) => Math.abs(v - b[i]![j]!))));
};

const daily = (frame: FileFrame | null, fileTransform: Affine | null = T): Daily => ({
  ...SHEET,
  frame,
  fileTransform,
});

const made = (text: string, setup: Daily, own = false, to: CutFormat | null = null) => {
  const done = correctDaily(text, setup, own, to);
  if (!done.ok) throw new Error(JSON.stringify(done.refusal));
  return done.value;
};

const CASES = FRAMES.flatMap(([name, frame, toFile, toSheet]) =>
  CUT_FORMATS.map((format) => ({ name, frame, toFile, toSheet, format })),
);

test.each(CASES)('$name, $format: the same cut on the sheet', ({ frame, toFile, toSheet, format }) => {
  const file = WRITE[format](through(JOB, toFile));
  const { content, lies } = made(file, daily(frame));
  const cut = through(READ[format](content), toSheet);
  // HP-GL has steps of 0.025 mm; the other two are held to two micrometres.
  expect(apart(cut, through(JOB, commanded))).toBeLessThan(format === 'hpgl' ? 0.0126 : 0.002);
  expect(lies).toMatchObject({ by: 'description', marksDiffer: false, overMm: 0 });
  expect(lies.bounds.x0).toBeCloseTo(40, 6);
  expect(lies.bounds.y1).toBeCloseTo(270, 6);
});

test('nothing to carry and the same format: the file comes back byte for byte', () => {
  const file = asDxf(JOB);
  expect(made(file, daily(SHEET_FRAME, null))).toMatchObject({ content: file, transform: null });
  expect(made(file, daily(SHEET_FRAME, null), false, 'svg').content).toContain('<svg');
});

test('where nothing says how a file lies it is asked; its own axes can be named instead', () => {
  const file = asDxf(JOB);
  expect(correctDaily(file, daily(null), false)).toEqual({
    ok: false,
    refusal: { code: 'frame-unknown', ways: 0 },
  });
  expect(made(file, daily(null), true).lies.by).toBe('sender');
  const noMarks = { ...daily({ ...SHEET_FRAME, zero: { at: 'mark' } as const }), marks: null };
  expect(correctDaily(file, noMarks, false).ok).toBe(false);
});

const MARKS: readonly Line[] = [
  ...squareAt(12, 16, 9),
  ...squareAt(196, 16, 6),
  ...squareAt(12, 282, 6),
  ...squareAt(196, 282, 6),
];

test.each(CASES)('$name, $format: marks drawn in the file settle it', ({ name, toFile, toSheet, format }) => {
  const file = WRITE[format](through([...MARKS, ...JOB], toFile));
  const { content, lies } = made(file, daily(null));
  expect([name, lies.by]).toEqual([name, 'marks']);
  const cut = through(READ[format](content), toSheet).slice(MARKS.length);
  expect(apart(cut, through(JOB, commanded))).toBeLessThan(format === 'hpgl' ? 0.026 : 0.002);
});

test('marks that agree are said to; marks that differ are followed, and that is said', () => {
  const file = asDxf([...MARKS, ...JOB]);
  expect(made(file, daily(SHEET_FRAME)).lies).toMatchObject({ by: 'description', marksAgree: true });
  const other = made(file, daily(FRAMES[1]![1]));
  expect(other.lies).toMatchObject({ by: 'marks', marksDiffer: true });
  expect(other.content).toBe(made(file, daily(SHEET_FRAME)).content);
});

test('marks that fit in several ways settle nothing', () => {
  const kit: MarkKit = { ...KIT, leadSign: 'none', insetRightMm: 12, insetFarMm: 16 };
  const even = [
    ...squareAt(12, 16, 6),
    ...squareAt(198, 16, 6),
    ...squareAt(12, 284, 6),
    ...squareAt(198, 284, 6),
  ];
  const setup = { ...daily(null), marks: kit };
  expect(correctDaily(asSvg([...even, ...JOB]), setup, false)).toMatchObject({
    refusal: { code: 'frame-unknown', ways: 4 },
  });
  // What is described is one of them, so it stands.
  const described = { ...setup, frame: SHEET_FRAME };
  expect(made(asSvg([...even, ...JOB]), described).lies).toMatchObject({
    by: 'description',
    marksAgree: true,
  });
});

test('one mark, or a frame round the work, tells nothing by itself', () => {
  for (const marks of [{ ...KIT, count: 1 as const }, { ...KIT, frame: true }, null])
    expect(correctDaily(asDxf([...MARKS, ...JOB]), { ...daily(null), marks }, false).ok).toBe(false);
});

test('a drawing that leaves the sheet is told by how much', () => {
  const along: FileFrame = { ...SHEET_FRAME, zero: { at: 'typed', xMm: 80, yMm: 0 } };
  expect(made(asDxf(JOB), daily(along)).lies.overMm).toBeCloseTo(20, 6);
});

test('any frame: what the corrected file is cut at is K of where its lines lie', () => {
  const frames = fc
    .tuple(fc.constantFrom(...HEADINGS), fc.constantFrom(...HEADINGS))
    .filter(([a, b]) => perpendicular(a, b));
  const place = fc.integer({ min: -4000, max: 4000 }).map((n) => n / 40);
  fc.assert(
    fc.property(frames, place, place, ([xRuns, yRuns], xMm, yMm) => {
      const frame: FileFrame = { xRuns, yRuns, zero: { at: 'typed', xMm, yMm } };
      const map = frameMap(frame, SHEET)!;
      expect(map.a11 * map.a22 - map.a12 * map.a21).toBe(isMirrored(frame) ? -1 : 1);
      const toSheet: Way = (x, y) => [map.a11 * x + map.a12 * y + map.tx, map.a21 * x + map.a22 * y + map.ty];
      const toFile: Way = (x, y) => [
        map.a11 * (x - xMm) + map.a21 * (y - yMm),
        map.a12 * (x - xMm) + map.a22 * (y - yMm),
      ];
      const { content } = made(asDxf(through(JOB, toFile)), daily(frame));
      expect(apart(through(linesOfDxf(content), toSheet), through(JOB, commanded))).toBeLessThan(0.002);
    }),
    { numRuns: 40 },
  );
});

const PROOF = cutLayer(proofSheet(), '0147', 1);
const WHOLE = { x0: 0, y0: 0, x1: 210, y1: 300 };

test.each(CASES)('$name, $format: our own cut files lie so too', ({ frame, toSheet, format }) => {
  const map = frameMap(frame, SHEET)!;
  if (!formatsIn(map, WHOLE).includes(format)) return expect(format).toBe('svg');
  const cut = through(READ[format](writeDrawing(inFrame(PROOF, map, WHOLE), format)), toSheet);
  const plain = READ[format](writeDrawing(PROOF, format));
  expect(plain.length).toBeGreaterThan(100);
  expect(apart(cut, plain)).toBeLessThan(format === 'hpgl' ? 0.026 : 0.0002);
});

test('an SVG is offered where the whole sheet lies above its page’s corner', () => {
  const offered = FRAMES.map(([, frame]) => formatsIn(frameMap(frame, SHEET), WHOLE).includes('svg'));
  expect(offered).toEqual([true, true, false, false, false]);
  expect(formatsIn(null, WHOLE)).toEqual([...CUT_FORMATS]);
});

test('sections of a run: the leading mark of each is where its sheet’s is', () => {
  // Printed 190 wide on 210: x of a section counts from 10 mm in, y from the leading mark's line.
  const [, along] = FRAMES[1]!;
  const mark: FileFrame = { ...along, zero: { at: 'mark' } };
  const frame = sectionFrame(mark, SHEET, 190)!;
  expect(frame).toEqual({ xRuns: 'further', yRuns: 'left', zeroXMm: 2, zeroYFrom: 'start', zeroYMm: 0 });
  // 100 further and 5 to the left of the mark.
  const on = sectionMap(frame, 600);
  expect([on.a11 * 100 + on.a12 * 5 + on.tx, on.a21 * 100 + on.a22 * 5 + on.ty]).toEqual([-3, 100]);
  const middle = sectionFrame({ ...along, zero: { at: 'middle' } }, SHEET, 190)!;
  // Marks 16 mm from the near edge and 18 from the far one: the middle of what that makes a sheet.
  expect(sectionMap(middle, 600)).toMatchObject({ tx: 95, ty: 301 });
  const far = sectionFrame({ ...along, zero: { at: 'corner', corner: 'far right' } }, SHEET, 190)!;
  expect([sectionMap(far, 600).ty, sectionMap(far, 250).ty]).toEqual([618, 268]);
  expect(sectionFrame(mark, { ...SHEET, marks: null }, 190)).toBeNull();
  expect(sectionFrame(null, SHEET, 190)).toBeNull();
});
