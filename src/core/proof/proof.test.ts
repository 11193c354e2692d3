import fc from 'fast-check';

import { seenOn } from '@test/drawn';
import { pagesToPdf } from '../drawing/pdf/pages';
import { pageSvg } from '../drawing/svg';
import { termsAbout } from '../rigsim';
import { transformToField } from '../fit';
import { COARSE_REACH_MM } from '../tolerance';
import { A4_AREA, A4_CENTRE, A4_SPEC, TRUE_TERMS, observe, proofSheet } from '@test/sheets';
import { ringOf, ringReading } from '@/core/readings/rings';

import {
  buildProofSheet,
  cutLayer,
  labelText,
  printLayer,
  proofRefusalText,
  RING,
  ringHole,
  ringLabelMm,
  ringPlace,
  ringsOf,
  type SheetTitle,
} from '.';

const TITLE: SheetTitle = {
  number: '0147',
  rig: 'Deck-plan desk rig',
  media: 'matt <paper> & card',
  date: '21 November 2026',
  address: 'http://127.0.0.1/s/0147',
  qr: [
    [true, false],
    [false, true],
  ],
};

test('3 × 3 stations twice on A4, inside the work area, with their cut lines and a 3 mm error too', () => {
  const sheet = proofSheet();
  expect(sheet.stations).toHaveLength(18);
  for (const set of [1, 2] as const)
    for (const mark of seenOn(cutLayer(sheet, '1', set))) {
      const points = mark.kind === 'line' ? [mark.from, mark.to] : [];
      for (const p of points) {
        expect(p.x).toBeGreaterThanOrEqual(A4_AREA.x0);
        expect(p.x).toBeLessThanOrEqual(A4_AREA.x1);
        expect(p.y).toBeGreaterThanOrEqual(A4_AREA.y0);
        expect(p.y).toBeLessThanOrEqual(A4_AREA.y1);
      }
    }
});

test.each(['mm', 'in'] as const)(
  'phases (%s) lie in (−δ/2, δ/2], differ between stations, and print exactly',
  (unit) => {
    const stepMm = unit === 'mm' ? 0.1 : 0.004 * 25.4;
    const sheet = proofSheet({ unit, stepMm });
    const phases = sheet.stations.flatMap((s) => [s.across.phaseMm, s.along.phaseMm]);
    for (const phase of phases) {
      expect(phase).toBeGreaterThan(-stepMm / 2 - 1e-12);
      expect(phase).toBeLessThanOrEqual(stepMm / 2 + 1e-12);
      const label = labelText(phase, unit).replace('\u2212', '-');
      expect(Number(label) * (unit === 'mm' ? 0.01 : 0.0254)).toBeCloseTo(phase, 9);
    }
    expect(new Set(phases.map((p) => p.toFixed(4))).size).toBeGreaterThanOrEqual(8);
    // The spread of phases is that of a full step: a rounding error cannot repeat from station to station.
    const meanSquare = phases.reduce((sum, p) => sum + p * p, 0) / phases.length;
    expect(Math.sqrt(meanSquare)).toBeCloseTo(stepMm / Math.sqrt(12), 2);
  },
);

/** Both draws of a normal deviate at a quarter turn: the deviate is nothing. */
const noNoise = (): number => 0.25;

test('signs and reach: what is read is where the cut went, from −6 to 6 mm on both axes in one pass', () => {
  const offset = fc.double({ min: -COARSE_REACH_MM, max: COARSE_REACH_MM, noNaN: true });
  fc.assert(
    fc.property(
      offset,
      offset,
      fc.constantFrom(0.05, 0.1, 0.2),
      fc.integer({ min: 0, max: 999 }),
      (x, y, stepMm, seed) => {
        const columns = stepMm > 0.1 ? 2 : 3;
        const sheet = proofSheet({ stepMm, seed, columns, rows: 2, secondSet: false });
        const field = transformToField(
          termsAbout({ ...TRUE_TERMS, shiftXMm: x, shiftYMm: y }, A4_CENTRE),
          A4_CENTRE,
        );
        for (const o of observe(sheet, 1, field, noNoise, 0))
          expect(Math.abs(o.offsetMm - (o.axis === 'across' ? x : y))).toBeLessThanOrEqual(stepMm / 2 + 1e-9);
      },
    ),
    { numRuns: 60 },
  );
});

test('on the drawn sheet itself, the label at the pair that coincides is the offset', () => {
  const sheet = proofSheet({ columns: 1, rows: 1, secondSet: false, seed: 8 });
  const printed = seenOn(printLayer(sheet, TITLE));
  const cuts = seenOn(cutLayer(sheet, '1', 1));
  const uprights = (marks: typeof cuts, minY: number) =>
    marks.flatMap((m) =>
      m.kind === 'line' && m.from.x === m.to.x && Math.min(m.from.y, m.to.y) > minY ? [m] : [],
    );
  const station = sheet.stations[0]!;
  const above = station.centre.y + 8;
  const labels = printed.flatMap((m) =>
    m.kind === 'text' && m.turnDeg === 90 && m.at.y > station.centre.y + 5 ? [m] : [],
  );
  expect(labels).toHaveLength(5);
  for (const label of labels) {
    const said = Number(label.text.replace('\u2212', '-')) / 100;
    // The labelled line is the printed one that stands over the middle of the turned letters.
    const middle = label.at.x - 0.36 * label.sizeMm;
    const line = uprights(printed, above).reduce((a, b) =>
      Math.abs(b.from.x - middle) < Math.abs(a.from.x - middle) ? b : a,
    );
    const gap = Math.min(...uprights(cuts, above).map((c) => Math.abs(c.from.x + said - line.from.x)));
    expect(gap).toBeLessThan(1e-9);
  }
});

test.each([
  ['area-outside-sheet', { workArea: { x0: 10, y0: 10, x1: 220, y1: 280 } }, 'sheet'],
  ['area-too-small', { workArea: { x0: 10, y0: 10, x1: 60, y1: 60 } }, 'at least'],
  ['too-many-stations', { columns: 7 }, 'at most 4 columns and 3 rows'],
] as const)('rejects %s and says what would be right', (code, change, words) => {
  const built = buildProofSheet({ ...A4_SPEC, ...change });
  expect(built.ok ? 'built' : built.refusal.code).toBe(code);
  if (!built.ok) expect(proofRefusalText(built.refusal)).toContain(words);
});

test('the files are exact in mm: page, check bars, and the same page for print and cut', async () => {
  const print = printLayer(proofSheet(), TITLE);
  const svg = pageSvg(print);
  expect(svg).toContain('width="210mm" height="297mm" viewBox="0 0 210 297"');
  expect(svg).toContain('matt &#60;paper&#62; &#38; card');
  expect(pageSvg(cutLayer(proofSheet(), '0147', 1))).toContain(
    'width="210mm" height="297mm" viewBox="0 0 210 297"',
  );
  const bars = seenOn(print).flatMap((m) =>
    m.kind === 'line' ? [Math.hypot(m.to.x - m.from.x, m.to.y - m.from.y)] : [],
  );
  expect(bars.filter((length) => Math.abs(length - 100) < 1e-9)).toHaveLength(2);
  // A4 in PDF units of 1/72 in (ISO 216, ISO 32000-1): 595.276 × 841.89.
  const pdf = (await pagesToPdf([{ drawing: print, pictures: [] }])).toString('latin1');
  const box = /MediaBox \[0 0 ([\d.]+) ([\d.]+)\]/.exec(pdf)!;
  expect(Number(box[1])).toBeCloseTo(595.276, 2);
  expect(Number(box[2])).toBeCloseTo(841.89, 2);
  expect(pdf).toContain('/PrintScaling /None');
});

const ringed = proofSheet({ columns: 3, rows: 2, secondSet: true, rings: { stepMm: 0.1, half: 4 } });

test('rows of rings lie inside the work area, apart from each other and from every comb', () => {
  const boxes = ringed.stations.flatMap((s) =>
    s.rings!.map((row) => ({
      x0: ringPlace(row, -4).x - RING.discMm - 2,
      x1: ringPlace(row, 4).x + RING.discMm,
      y0: row.centre.y - RING.discMm - RING.labelMm - 0.4,
      y1: row.centre.y + RING.discMm,
    })),
  );
  expect(boxes).toHaveLength(24);
  for (const b of boxes) {
    expect(b.x0).toBeGreaterThanOrEqual(A4_AREA.x0);
    expect(b.x1).toBeLessThanOrEqual(A4_AREA.x1);
    expect(b.y0).toBeGreaterThanOrEqual(A4_AREA.y0);
    for (const o of boxes)
      if (o !== b) expect(b.x1 < o.x0 || o.x1 < b.x0 || b.y1 < o.y0 || o.y1 < b.y0).toBe(true);
    // Lines of combs and crosses, printed or cut.
    const lines = [printLayer(ringed, TITLE), cutLayer(ringed, '1', 1), cutLayer(ringed, '1', 2)].flatMap(
      (s) =>
        seenOn(s).flatMap((m) =>
          m.kind === 'line' && Math.hypot(m.to.x - m.from.x, m.to.y - m.from.y) > 2.5 ? [m] : [],
        ),
    );
    for (const { from, to } of lines)
      expect(
        Math.max(from.x, to.x) < b.x0 ||
          Math.min(from.x, to.x) > b.x1 ||
          Math.max(from.y, to.y) < b.y0 ||
          Math.min(from.y, to.y) > b.y1,
      ).toBe(true);
  }
});

test('property: the ring that is evenest says the offset to half a step, and its label is what is read', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -390, max: 390 }),
      fc.integer({ min: 0, max: ringed.stations.length - 1 }),
      fc.constantFrom(0, 1),
      (micrometres, index, which) => {
        const offsetMm = micrometres / 1000;
        const station = ringed.stations[index]!;
        const row = station.rings![which]!;
        const along = row.axis === 'along';
        // What lies on the sheet: printed discs, and holes that the machine cut off by the offset.
        const uneven = (j: number): number => {
          const hole = ringHole(row, j);
          const disc = ringPlace(row, j);
          return Math.hypot(
            hole.x + (along ? 0 : offsetMm) - disc.x,
            hole.y + (along ? offsetMm : 0) - disc.y,
          );
        };
        const even = ringsOf(row).reduce((a, b) => (uneven(b) < uneven(a) ? b : a));
        const { read: readings, doubts } = ringReading(station.id, row, even);
        expect(readings).toHaveLength(1);
        expect(readings[0]).toMatchObject({ axis: row.axis, xMm: ringPlace(row, even).x, yMm: row.centre.y });
        expect(readings[0]!.offsetMm).toBeCloseTo(ringLabelMm(row, even), 12);
        if (doubts.length === 0)
          expect(Math.abs(readings[0]!.offsetMm - offsetMm)).toBeLessThanOrEqual(0.05 + 1e-9);
        const label = Number(labelText(ringLabelMm(row, even), 'mm').replace('\u2212', '-'));
        expect(label / 100).toBeCloseTo(readings[0]!.offsetMm, 9);
        // Half-way between two rings is half-way between their labels.
        if (even < row.half) {
          const half = ringReading(station.id, row, even + 0.5).read[0]!;
          expect(half.offsetMm).toBeCloseTo((ringLabelMm(row, even) + ringLabelMm(row, even + 1)) / 2, 12);
          expect(half.pick).toMatchObject({ school: 'rings', between: true });
          expect(ringOf(half.pick as { ring: number; between: boolean })).toBe(even + 0.5);
        }
      },
    ),
  );
});
