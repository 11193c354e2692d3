import { planCorrection, shiftScatter } from '@/core/correction';
import { fitLadder, widestFit, type Observation } from '@/core/fit';
import { correctFile, writeDrawing } from '@/core/drawing/file';
import { pagesToPdf } from '@/core/drawing/pdf/pages';
import { pageSvg } from '@/core/drawing/svg';
import { affineMap } from '@/core/geometry';
import { readCombs, type Sight } from '@test/machine/loupe';
import {
  labelsOfSvg,
  linesOfDxf,
  linesOfHpgl,
  linesOfPdf,
  linesOfSvg,
  type Line,
} from '@test/machine/readers';
import { A4_AREA, A4_CENTRE, proofSheet } from '@test/sheets';
import type { CutFormat } from '@/core/drawing/formats';

import { cutLayer, printLayer } from '.';

/*
 * A printer and a cutter that we did not make: they read the printed layer and the cut layer from the files, the cutter
 * with an error of its own, and an eye reads the combs from where the lines came to lie. What is corrected by that is cut
 * again. Signs, labels, formats and corrections hold together or not at all.
 */

const TITLE = {
  number: '0147',
  rig: 'Card rig',
  media: 'matt card',
  date: '21 November',
  address: '-',
  qr: [],
};
const SHEET = proofSheet();
const PRINT = printLayer(SHEET, TITLE);
const SVG_PRINT = pageSvg(PRINT);
const LABELS = labelsOfSvg(SVG_PRINT);

const READ: Readonly<Record<CutFormat, (text: string) => Line[]>> = {
  svg: linesOfSvg,
  dxf: linesOfDxf,
  hpgl: linesOfHpgl,
};
const file = (set: 1 | 2, format: CutFormat): string => {
  return writeDrawing(cutLayer(SHEET, TITLE.number, set), format);
};

/** Shift, turn, scales and lean of a cutter about the middle of the sheet, written out. */
interface Flaw {
  readonly right: number;
  readonly further: number;
  readonly turn: number;
  readonly wide: number;
  readonly long: number;
  readonly lean: number;
}
const FLAWLESS: Flaw = { right: 0, further: 0, turn: 0, wide: 1, long: 1, lean: 0 };
const FLAWS: readonly [string, Partial<Flaw>][] = [
  ['0.85 mm to the right', { right: 0.85 }],
  ['2.3 mm to the left', { right: -2.3 }],
  ['1.1 mm further', { further: 1.1 }],
  ['2.9 mm back', { further: -2.9 }],
  ['turned anticlockwise', { turn: 0.002 }],
  ['too wide', { wide: 1.0015 }],
  ['too short', { long: 0.9985 }],
  ['leaning to the right', { lean: 0.0012 }],
  ['all of it', { right: -1.4, further: 0.7, turn: -0.0015, wide: 0.999, long: 1.0012, lean: -0.0008 }],
];

const lands =
  (flaw: Flaw) =>
  (x: number, y: number): [number, number] => {
    const u = flaw.wide * (x - A4_CENTRE.x) + flaw.lean * flaw.long * (y - A4_CENTRE.y);
    const v = flaw.long * (y - A4_CENTRE.y);
    return [
      A4_CENTRE.x + flaw.right + u * Math.cos(flaw.turn) - v * Math.sin(flaw.turn),
      A4_CENTRE.y + flaw.further + u * Math.sin(flaw.turn) + v * Math.cos(flaw.turn),
    ];
  };
const cutBy = (flaw: Flaw, lines: readonly Line[]): Line[] =>
  lines.map(([x0, y0, x1, y1]) => [...lands(flaw)(x0, y0), ...lands(flaw)(x1, y1)]);

const observationsOf = (sights: readonly Sight[]): Observation[] =>
  sights.map((s, i) => ({
    stationId: String(i),
    axis: s.axis,
    xMm: s.x,
    yMm: s.y,
    offsetMm: s.offsetMm,
    uMm: 0.035,
  }));

test('the printed lines are the same in the PDF and in the SVG', async () => {
  const key = (l: Line): string => l.map((v) => v.toFixed(2)).join(' ');
  const pdf = new Set(linesOfPdf(await pagesToPdf([{ drawing: PRINT, pictures: [] }])).map(key));
  const svg = linesOfSvg(SVG_PRINT);
  expect(svg.length).toBeGreaterThan(500);
  // One in a few hundred lies on the edge between two hundredths.
  expect(svg.filter((l) => !pdf.has(key(l))).length).toBeLessThan(0.03 * svg.length);
});

const CASES = FLAWS.flatMap(([words, flaw]) =>
  (['svg', 'dxf', 'hpgl'] as const).map((f) => [words, f, flaw] as const),
);

test.each(CASES)(
  'a cutter that cuts %s, fed with %s: read right, corrected, and plumb',
  async (_, format, partial) => {
    const flaw = { ...FLAWLESS, ...partial };
    const print = linesOfPdf(await pagesToPdf([{ drawing: PRINT, pictures: [] }]));
    const sights = readCombs(LABELS, print, cutBy(flaw, READ[format](file(1, format))));
    expect(sights).toHaveLength(18);
    for (const s of sights) {
      const [x, y] = lands(flaw)(s.x, s.y);
      const off = s.axis === 'across' ? x - s.x : y - s.y;
      // Half a step of the comb, what a turn does between cut and comb, and plotter units.
      expect(Math.abs(s.offsetMm - off)).toBeLessThan(0.06 + (format === 'hpgl' ? 0.03 : 0));
    }
    const fit = widestFit(fitLadder(observationsOf(sights), A4_CENTRE))!;
    const plan = planCorrection(fit, [], A4_AREA, shiftScatter(0), 0.035);
    const corrected = correctFile(file(2, format), affineMap(plan.wholeTransform), format);
    if (!corrected.ok) throw new Error(corrected.refusal.code);
    const again = readCombs(LABELS, print, cutBy(flaw, READ[format](corrected.value.content)));
    expect(again).toHaveLength(18);
    const misses = again.map((s) => Math.abs(s.offsetMm));
    expect(Math.max(...misses)).toBeLessThan(0.151);
    expect(misses.reduce((a, b) => a + b, 0) / misses.length).toBeLessThan(0.06);
  },
);
